import type { Found } from '@rosemary/api';
import { rows } from '../platform/database.ts';
import { personRoute, type Route } from '../platform/route.ts';

/** Courses, items and people of one's own courses whose words begin with, or hold, the letters typed. Staff find people; students do not. */
export const findRoutes: readonly Route[] = [
  personRoute({
    method: 'get',
    path: '/find',
    handle: async ({ db, person, query, now }): Promise<Found[]> => {
      const letters = (query.q ?? '')
        .trim()
        .slice(0, 60)
        .replace(/[%_\\]/g, '');
      if (letters.length < 2) return [];
      const pattern = `%${letters}%`;
      const staff = person.memberships.filter((m) => m.isActive && m.role !== 'student').map((m) => m.courseId);
      const wide = person.memberships.filter((m) => m.isActive && m.role !== 'student' && m.sectionIds === null).map((m) => m.courseId);
      const study = person.memberships.filter((m) => m.isActive && m.role === 'student').map((m) => m.courseId);
      const items = await rows<{ id: string; title: string; kind: string; course_id: string; course: string }>(
        db,
        `
        select i.id, i.title, i.kind, i.course_id, coalesce(nullif(c.short_title, ''), c.title) as course from item i join course c on c.id = i.course_id
        where i.removed_at is null and i.title ilike $1 and (i.course_id = any($2) or (i.course_id = any($3) and not i.is_draft and (i.announced_at is null or i.announced_at <= to_timestamp($4 / 1000.0))))
          and exists (select 1 from unit_item ui join unit u on u.id = ui.unit_id and u.removed_at is null where ui.item_id = i.id) order by i.title limit 8`,
        [pattern, staff, study, now],
      );
      const people = await rows<{ id: string; name: string; course_id: string; course: string }>(
        db,
        `
        select e.id, p.given_name || ' ' || p.family_name as name, e.course_id, coalesce(nullif(c.short_title, ''), c.title) as course from enrolment e join person p on p.id = e.person_id join course c on c.id = e.course_id
        where e.course_id = any($2) and e.role = 'student' and not e.is_sample and (p.given_name || ' ' || p.family_name) ilike $1 order by p.family_name limit 6`,
        [pattern, wide],
      );
      return [
        ...items.map((i) => ({
          what: i.kind,
          title: i.title,
          where: i.course,
          to: staff.includes(i.course_id) ? `/courses/${i.course_id}/items/${i.id}` : `/courses/${i.course_id}/study/${i.id}`,
        })),
        ...people.map((p) => ({ what: 'student', title: p.name, where: p.course, to: `/courses/${p.course_id}/progress?person=${p.id}` })),
      ];
    },
  }),
];

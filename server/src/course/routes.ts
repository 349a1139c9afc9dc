import type { CourseHead } from '@rosemary/api';
import { getTerm } from '../gradebook/facts.ts';
import { countToMark } from '../marking/stack.ts';
import { maybe, run } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { writeAudit } from '../platform/audit.ts';
import { courseRoute, type Route } from '../platform/route.ts';
import { aboutCourse, getCourse, listSections, makeTermLine } from './queries.ts';

export const courseRoutes: readonly Route[] = [
  courseRoute('course.see', {
    method: 'get',
    path: '/courses/:courseId',
    handle: async ({ db, courseId, member, isSeenAs, now }): Promise<CourseHead> => {
      const course = await getCourse(db, courseId);
      const isStaff = member.role !== 'student';
      const { term, zone } = await getTerm(db, courseId);
      const sections = (await listSections(db, courseId)).filter((s) => member.sectionIds === null || member.sectionIds.includes(s.id));
      const students = sections.reduce((sum, s) => sum + s.students, 0);
      const line = await makeTermLine(db, [{ id: courseId, students }], term, zone, now, isStaff);
      const seen = isSeenAs
        ? await maybe<{ name: string }>(
            db,
            "select p.given_name || ' ' || p.family_name as name from enrolment e join person p on p.id = e.person_id where e.id = $1",
            [member.enrolmentId],
          )
        : null;
      return {
        id: courseId,
        code: course.code,
        run: course.run,
        title: course.title,
        shortTitle: course.short_title === '' ? course.title : course.short_title,
        term: course.term_title,
        timeZone: zone,
        role: member.role,
        isOpen: course.is_open,
        ...aboutCourse(course, line),
        sections: isStaff ? sections : [],
        line,
        toMark: isStaff ? await countToMark(db, courseId, member.sectionIds, now) : 0,
        now: new Date(now).toISOString(),
        version: course.version,
        seenAs: seen?.name ?? null,
      };
    },
  }),
  courseRoute('plan.edit', {
    method: 'post',
    path: '/courses/:courseId/open',
    handle: async ({ db, courseId, person, now }) => {
      const changed = await run(db, 'update course set is_open = true, version = version + 1 where id = $1 and not is_open', [courseId]);
      if (changed === 0) throw new AppError('not-now', 'The course is open already.');
      await writeAudit(db, { at: now, actorId: person.personId, courseId, action: 'course opened' });
    },
  }),
];

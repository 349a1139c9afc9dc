import { type Found, pageOf } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import type { Membership } from '@rosemary/core';
import { listVisible } from '../opening/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { implement, type Route } from '../platform/route.ts';
import type { SignedIn } from '../platform/signedIn.ts';
import { listTextHits, toQuery } from './texts.ts';

const MOST = 8;

/** More are asked for than shown where some will turn out not to be open to the one who asks. */
const MOST_ASKED = 40;

interface TitleHit {
  readonly id: string;
  readonly title: string;
  readonly kind: string;
  readonly course_id: string;
  readonly course: string;
}

// As for texts: the letters are looked up first, and what they give is sorted out after.
function listTitleHits(db: Db, pattern: string, courseIds: readonly string[], withDrafts: boolean, most: number): Promise<TitleHit[]> {
  return rows<TitleHit>(
    db,
    `
    select i.id, i.title, i.kind, i.course_id, coalesce(nullif(c.short_title, ''), c.title) as course
    from (select id, title, kind, course_id, removed_at, is_draft from item where title ilike $1 offset 0) i
    join course c on c.id = i.course_id
    where i.course_id = any($2) and i.removed_at is null and ($3 or not i.is_draft) and exists (select 1 from (select unit_id from unit_item where item_id = i.id offset 0) ui join unit u on u.id = ui.unit_id and u.removed_at is null) order by i.title limit $4`,
    [pattern, courseIds, withDrafts, most],
  );
}

/** What of one's own courses a student may find: titles from their announcement on, texts once they are open. */
async function visibleItems(db: Db, memberships: readonly Membership[], now: number): Promise<{ titles: Set<string>; texts: Set<string> }> {
  const [titles, texts] = [new Set<string>(), new Set<string>()];
  for (const member of memberships)
    for (const { item, visibility } of await listVisible(db, member.courseId, member, now)) {
      titles.add(item.id);
      if (visibility === 'open' || visibility === 'closed') texts.add(item.id);
    }
  return { titles, texts };
}

function toFound(hit: TitleHit, isStaff: boolean, around = ''): Found {
  const view = isStaff ? 'item' : 'study';
  return { what: hit.kind, title: hit.title, where: hit.course, to: pageOf(view, { courseId: hit.course_id, itemId: hit.id }), around };
}

async function findItems(db: Db, person: SignedIn, letters: string, now: number): Promise<Found[]> {
  const active = person.memberships.filter((m) => m.isActive);
  const staff = active.filter((m) => m.role !== 'student').map((m) => m.courseId);
  const study = active.filter((m) => m.role === 'student');
  const studyIds = study.map((m) => m.courseId);
  const pattern = `%${letters.replace(/[%_\\]/g, '')}%`;
  const query = toQuery(letters);
  const staffTitles = await listTitleHits(db, pattern, staff, true, MOST);
  const staffTexts = query === null ? [] : await listTextHits(db, query, staff, true, MOST);
  const found = [...staffTitles.map((hit) => toFound(hit, true)), ...staffTexts.map((hit) => toFound(hit, true, hit.around))];
  if (study.length > 0) {
    const visible = await visibleItems(db, study, now);
    const titles = (await listTitleHits(db, pattern, studyIds, false, MOST_ASKED)).filter((hit) => visible.titles.has(hit.id));
    const texts =
      query === null ? [] : (await listTextHits(db, query, studyIds, false, MOST_ASKED)).filter((hit) => visible.texts.has(hit.id));
    found.push(...titles.map((hit) => toFound(hit, false)), ...texts.map((hit) => toFound(hit, false, hit.around)));
  }
  // What is found by its title is not told a second time for its text.
  return found.filter((one, n) => found.findIndex((other) => other.to === one.to) === n).slice(0, MOST * 2);
}

/** Students of the courses one sees whole; students themselves find nobody. */
async function findPeople(db: Db, person: SignedIn, letters: string): Promise<Found[]> {
  const wide = person.memberships.filter((m) => m.isActive && m.role !== 'student' && m.sectionIds === null).map((m) => m.courseId);
  const people = await rows<{ id: string; name: string; course_id: string; course: string }>(
    db,
    `
    select e.id, p.given_name || ' ' || p.family_name as name, e.course_id, coalesce(nullif(c.short_title, ''), c.title) as course from enrolment e join person p on p.id = e.person_id join course c on c.id = e.course_id
    where e.course_id = any($2) and e.role = 'student' and not e.is_sample and (p.given_name || ' ' || p.family_name) ilike $1 order by p.family_name limit 6`,
    [`%${letters.replace(/[%_\\]/g, '')}%`, wide],
  );
  return people.map((p) => ({
    what: 'student',
    title: p.name,
    where: p.course,
    to: pageOf('progress', { courseId: p.course_id }, { person: p.id }),
    around: '',
  }));
}

/** Items by title and by what stands in them, and people, in all courses of one's own. */
export const findRoutes: readonly Route[] = [
  implement(api.find, async ({ db, person, query, now }): Promise<Found[]> => {
    const letters = (query.q ?? '').trim().slice(0, 60);
    if (letters.replace(/[%_\\]/g, '').length < 2) return [];
    return [...(await findItems(db, person, letters, now)), ...(await findPeople(db, person, letters))];
  }),
];

import type { AudienceMember, HandOpeningWish, OpeningWish, Touched } from '@rosemary/api';
import { decimalText } from '@rosemary/core';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';

/** Writes whom an item or a unit is for; nobody named is everyone. Only sections and students of this course can be named. */
export async function saveAudience(
  db: Db,
  courseId: string,
  owner: 'item' | 'unit',
  ownerId: string,
  members: readonly AudienceMember[],
): Promise<void> {
  for (const member of members)
    if ([member.sectionId, member.enrolmentId, member.groupId ?? null].filter((id) => id !== null).length !== 1)
      throw invalid('audience', 'Each one something is for is a section, a group or a student.');
  await run(db, owner === 'item' ? 'delete from audience where item_id = $1' : 'delete from audience where unit_id = $1', [ownerId]);
  const kept = await run(
    db,
    `
    insert into audience (item_id, unit_id, section_id, enrolment_id, group_id)
    select case when $2 = 'item' then $3::uuid end, case when $2 = 'unit' then $3::uuid end, t.section_id, t.enrolment_id, t.group_id
    from (select distinct * from unnest($4::uuid[], $5::uuid[], $6::uuid[])) as t(section_id, enrolment_id, group_id)
    left join section s on s.id = t.section_id and s.course_id = $1
    left join enrolment e on e.id = t.enrolment_id and e.course_id = $1 and e.role = 'student'
    left join course_group g on g.id = t.group_id and exists (select 1 from group_set x where x.id = g.set_id and x.course_id = $1 and x.removed_at is null)
    where s.id is not null or e.id is not null or g.id is not null`,
    [courseId, owner, ownerId, members.map((m) => m.sectionId), members.map((m) => m.enrolmentId), members.map((m) => m.groupId ?? null)],
  );
  if (kept < new Set(members.map((m) => m.sectionId ?? m.enrolmentId ?? m.groupId)).size)
    throw invalid('audience', 'A section or student named here is not in this course. Choose again.');
}

/** Writes the rules of opening. An item they name must stand in the same course and be another one. */
export async function saveOpening(db: Db, courseId: string, itemId: string, opening: OpeningWish): Promise<void> {
  const others = opening.rules.flatMap((rule) => (rule.kind === 'date' ? [] : [rule.itemId]));
  if (others.includes(itemId)) throw invalid('opening', 'An item cannot wait for itself. Choose another.');
  const known = await maybe<{ many: number }>(
    db,
    'select count(*)::int as many from item where course_id = $1 and id = any($2) and removed_at is null',
    [courseId, others],
  );
  if (known?.many !== new Set(others).size)
    throw invalid('opening', 'An item named in a rule is no longer in this course. Choose another.');
  await run(db, 'delete from opening_rule where item_id = $1', [itemId]);
  await run(db, 'update item set opening_needs = $2 where id = $1', [itemId, opening.needs]);
  const { rules } = opening;
  await run(
    db,
    `
    insert into opening_rule (item_id, position, kind, at, other_item_id, least)
    select $1, t.n - 1, t.kind, t.at, t.other, t.least from unnest($2::text[], $3::timestamptz[], $4::uuid[], $5::numeric[]) with ordinality as t(kind, at, other, least, n)`,
    [
      itemId,
      rules.map((r) => r.kind),
      rules.map((r) => (r.kind === 'date' ? r.at : null)),
      rules.map((r) => (r.kind === 'date' ? null : r.itemId)),
      rules.map((r) => (r.kind === 'score' ? decimalText(r.least) : null)),
    ],
  );
}

/** Opens an item for one student or for all until a time. A draft cannot be opened so: nobody finished it. */
export async function openByHand(
  db: Db,
  courseId: string,
  itemId: string,
  wish: HandOpeningWish,
  personId: string,
  now: number,
): Promise<string> {
  const item = await maybe<{ is_draft: boolean; is_staff_only: boolean }>(
    db,
    'select is_draft, is_staff_only from item where course_id = $1 and id = $2 and removed_at is null',
    [courseId, itemId],
  );
  if (item === null) throw notFound();
  if (item.is_staff_only) throw invalid('until', 'This is for staff only and can never be opened to students.');
  if (item.is_draft) throw invalid('until', 'This is still a draft. Set it open by its dates first; then it can be opened by hand.');
  if (Date.parse(wish.until) <= now) throw invalid('until', 'This time is past. Choose one that is still to come.');
  const student =
    wish.enrolmentId === null ||
    (await maybe(db, "select 1 as one from enrolment where id = $1 and course_id = $2 and role = 'student'", [
      wish.enrolmentId,
      courseId,
    ])) !== null;
  if (!student) throw notFound();
  const made = await rows<{ id: string }>(
    db,
    'insert into hand_opening (item_id, enrolment_id, until_at, opened_by, opened_at) values ($1, $2, $3, $4, to_timestamp($5 / 1000.0)) returning id',
    [itemId, wish.enrolmentId, wish.until, personId, now],
  );
  await run(db, 'update item set version = version + 1 where id = $1', [itemId]);
  return made[0]?.id ?? '';
}

export async function endHandOpening(db: Db, courseId: string, itemId: string, id: string, now: number): Promise<void> {
  const ended = await run(
    db,
    `
    update hand_opening h set ended_at = to_timestamp($4 / 1000.0) from item i
    where i.id = h.item_id and i.course_id = $1 and h.item_id = $2 and h.id = $3 and h.ended_at is null`,
    [courseId, itemId, id, now],
  );
  if (ended === 0) throw notFound();
  await run(db, 'update item set version = version + 1 where id = $1', [itemId]);
}

/** Whom a change to an item would touch, by section: students it is for, and those who have opened it, begun it or handed in. */
export async function countTouched(
  db: Db,
  courseId: string,
  itemId: string,
  isFor: (itemId: string, person: { enrolmentId: string; sectionId: string | null }) => boolean,
): Promise<Touched> {
  const people = await rows<{ id: string; section_id: string | null; section: string | null; has_begun: boolean }>(
    db,
    `
    select e.id, e.section_id, s.title as section,
           (exists (select 1 from item_opened v where v.item_id = $2 and v.enrolment_id = e.id) or exists (select 1 from submission b where b.item_id = $2 and b.enrolment_id = e.id)) as has_begun
    from enrolment e left join section s on s.id = e.section_id
    where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null and not e.is_sample order by s.position`,
    [courseId, itemId],
  );
  const touched = people.filter((p) => isFor(itemId, { enrolmentId: p.id, sectionId: p.section_id }));
  const sections = new Map<string, { id: string; title: string; students: number; begun: number }>();
  for (const person of touched) {
    if (person.section_id === null) continue;
    const one = sections.get(person.section_id) ?? { id: person.section_id, title: person.section ?? '', students: 0, begun: 0 };
    sections.set(person.section_id, { ...one, students: one.students + 1, begun: one.begun + Number(person.has_begun) });
  }
  return { students: touched.length, begun: touched.filter((p) => p.has_begun).length, sections: [...sections.values()] };
}

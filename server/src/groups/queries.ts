import { randomUUID } from 'node:crypto';
import type { Groups, GroupSet, GroupSetChange, GroupView, NewGroupSet } from '@rosemary/api';
import { balanceGroups, dealGroups } from '@rosemary/core';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';

interface SetRow {
  id: string;
  title: string;
  version: number;
  sign_up_until: Date | null;
  most_members: number | null;
  groups: GroupView[];
}

const listStudents = (
  db: Db,
  courseId: string,
  sectionIds: readonly string[] | null = null,
): Promise<{ enrolmentId: string; name: string; sectionId: string | null }[]> =>
  rows(
    db,
    `select e.id as "enrolmentId", p.family_name || ', ' || p.given_name as name, e.section_id as "sectionId" from enrolment e join person p on p.id = e.person_id
     where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null and not e.is_sample and ($2::uuid[] is null or e.section_id = any($2)) order by p.family_name, p.given_name`,
    [courseId, sectionIds],
  );

/** The sets of groups of a course, with its students, or those of these sections alone. */
export async function listGroups(db: Db, courseId: string, sectionIds: readonly string[] | null = null): Promise<Groups> {
  const found = await rows<SetRow>(
    db,
    `
    select s.id, s.title, s.version, s.sign_up_until, s.most_members, coalesce(json_agg(json_build_object('id', g.id, 'title', g.title,
             'enrolmentIds', (select coalesce(json_agg(m.enrolment_id), '[]') from group_member m join enrolment e on e.id = m.enrolment_id and e.withdrawn_at is null and ($2::uuid[] is null or e.section_id = any($2)) where m.group_id = g.id),
             'uses', (select coalesce(json_agg(distinct t.title), '[]') from (
                select i.title from audience a join item i on i.id = a.item_id and i.removed_at is null where a.group_id = g.id
                union all select u.title from audience a join unit u on u.id = a.unit_id and u.removed_at is null where a.group_id = g.id
                union all select i.title from assignment a join item i on i.id = a.item_id and i.removed_at is null where a.group_set_id = s.id
                union all select i.title from date_variant v join item i on i.id = v.item_id and i.removed_at is null where v.group_id = g.id) t)
           ) order by g.position) filter (where g.id is not null), '[]') as groups
    from group_set s left join course_group g on g.set_id = s.id where s.course_id = $1 and s.removed_at is null group by s.id order by s.position`,
    [courseId, sectionIds],
  );
  return {
    sets: found.map((s): GroupSet => ({
      id: s.id,
      title: s.title,
      version: s.version,
      signUpUntil: s.sign_up_until?.toISOString() ?? null,
      mostMembers: s.most_members,
      groups: s.groups,
    })),
    students: await listStudents(db, courseId, sectionIds),
  };
}

/** The groups of a course by name, where something can be for them. */
export const listGroupNames = (db: Db, courseId: string): Promise<{ id: string; title: string }[]> =>
  rows(
    db,
    "select g.id, s.title || ': ' || g.title as title from course_group g join group_set s on s.id = g.set_id where s.course_id = $1 and s.removed_at is null order by s.position, g.position",
    [courseId],
  );

interface PutGroup {
  /** Null where it is new. */
  readonly id: string | null;
  readonly title: string;
  readonly enrolmentIds: readonly string[];
}

/** Writes the groups of a set in their order, with who is in each. */
async function putGroups(db: Db, setId: string, groups: readonly PutGroup[]): Promise<void> {
  const put = groups.map((group, position) => ({ ...group, id: group.id ?? randomUUID(), position }));
  const ids = put.map((g) => g.id);
  await run(
    db,
    `insert into course_group (id, set_id, title, position) select t.id, $1, t.title, t.position from unnest($2::uuid[], $3::text[], $4::int[]) as t(id, title, position)
     on conflict (id) do update set title = excluded.title, position = excluded.position`,
    [setId, ids, put.map((g) => g.title), put.map((g) => g.position)],
  );
  await run(db, 'delete from group_member where group_id = any($1)', [ids]);
  const members = put.flatMap((g) => g.enrolmentIds.map((enrolmentId) => [g.id, enrolmentId] as const));
  await run(db, 'insert into group_member (group_id, enrolment_id) select * from unnest($1::uuid[], $2::uuid[])', [
    members.map(([group]) => group),
    members.map(([, enrolment]) => enrolment),
  ]);
}

/** The groups of a new set: so many empty ones, as listed, or everybody dealt by chance or so that they are alike. */
async function layOut(
  db: Db,
  courseId: string,
  wish: NewGroupSet,
  standings: ReadonlyMap<string, number | null>,
  random: () => number,
): Promise<readonly { title: string; enrolmentIds: readonly string[] }[]> {
  if (wish.makes === 'listed') {
    const groups = wish.groups ?? [];
    if (groups.length === 0) throw invalid('groups', 'No group is listed. Import a list with at least one.');
    await requireStudents(db, courseId, groups);
    return groups;
  }
  const students = (await listStudents(db, courseId)).map((s) => ({
    id: s.enrolmentId,
    sectionId: s.sectionId,
    standing: standings.get(s.enrolmentId) ?? null,
  }));
  const dealt = {
    empty: () => Array.from({ length: wish.number }, (): string[] => []),
    dealt: () => dealGroups(students, wish.number, wish.withinSections, random),
    balanced: () => balanceGroups(students, wish.number, wish.withinSections, random),
  }[wish.makes]();
  return dealt.map((enrolmentIds, n) => ({ title: `Group ${n + 1}`, enrolmentIds }));
}

/** A new set of groups; chance is the caller's. */
export async function addGroupSet(
  db: Db,
  courseId: string,
  wish: NewGroupSet,
  standings: ReadonlyMap<string, number | null> = new Map(),
  random: () => number = Math.random,
): Promise<string> {
  const made = await rows<{ id: string }>(
    db,
    'insert into group_set (course_id, title, position) select $1, $2, coalesce(max(position), -1) + 1 from group_set where course_id = $1 returning id',
    [courseId, wish.title],
  );
  const id = made[0]?.id ?? '';
  const groups = await layOut(db, courseId, wish, standings, random);
  await putGroups(
    db,
    id,
    groups.map((group) => ({ ...group, id: null })),
  );
  return id;
}

async function requireStudents(db: Db, courseId: string, groups: readonly { readonly enrolmentIds: readonly string[] }[]): Promise<void> {
  const ids = groups.flatMap((g) => g.enrolmentIds);
  const twice = ids.find((id, n) => ids.indexOf(id) !== n);
  if (twice !== undefined) throw invalid('groups', 'A student stands in two groups of this set. Each is in one at most.');
  const known = await rows(db, "select 1 as one from enrolment where course_id = $1 and role = 'student' and id = any($2)", [
    courseId,
    ids,
  ]);
  if (known.length !== ids.length)
    throw invalid('groups', 'Somebody named is no longer a student of this course. Look again at the groups.');
}

/** Writes a set as it shall stand. A group that something is for is not removed under it. */
export async function saveGroupSet(db: Db, courseId: string, setId: string, change: GroupSetChange): Promise<void> {
  const before = (await listGroups(db, courseId)).sets.find((s) => s.id === setId);
  if (before === undefined) throw notFound();
  if (before.version !== change.version) throw conflict(before);
  await requireStudents(db, courseId, change.groups);
  const known = new Set(before.groups.map((g) => g.id));
  if (change.groups.some((g) => g.id !== null && !known.has(g.id)))
    throw invalid('groups', 'A group named is not of this set. Look again at the groups.');
  const kept = new Set(change.groups.map((g) => g.id));
  const gone = before.groups.filter((g) => !kept.has(g.id));
  const used = gone.find((g) => g.uses.length > 0);
  if (used !== undefined)
    throw new AppError(
      'not-now',
      `“${used.title}” cannot be removed: ${used.uses.map((u) => `“${u}”`).join(', ')} names it. Remove it there first.`,
    );
  await run(db, 'delete from course_group where id = any($1)', [gone.map((g) => g.id)]);
  await putGroups(db, setId, change.groups);
  const [until, most] = [
    change.signUpUntil === undefined ? before.signUpUntil : change.signUpUntil,
    change.mostMembers === undefined ? before.mostMembers : change.mostMembers,
  ];
  await run(db, 'update group_set set title = $2, sign_up_until = $3, most_members = $4, version = version + 1 where id = $1', [
    ...[setId, change.title, until, most],
  ]);
}

/** Hides a set or brings it back; one that something is for stays. */
export async function setGroupSetRemoved(db: Db, courseId: string, setId: string, removedAt: number | null): Promise<void> {
  const found = await maybe(db, 'select 1 as one from group_set where id = $1 and course_id = $2', [setId, courseId]);
  if (found === null) throw notFound();
  const used = (await listGroups(db, courseId)).sets.find((s) => s.id === setId)?.groups.find((g) => g.uses.length > 0);
  if (removedAt !== null && used !== undefined)
    throw new AppError(
      'not-now',
      `“${used.title}” of this set is named by ${used.uses.map((u) => `“${u}”`).join(', ')}. Remove it there first.`,
    );
  await run(db, 'update group_set set removed_at = to_timestamp($2 / 1000.0), version = version + 1 where id = $1', [setId, removedAt]);
}

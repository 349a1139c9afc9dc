import type { OwnGroup } from '@rosemary/api';
import { type Db, maybe, rows } from '../platform/database.ts';

/** Most work is one student's own, and that is settled before anything is handed in. */
const isGroupWork = async (db: Db, itemId: string): Promise<boolean> =>
  (await maybe(db, 'select 1 as one from assignment where item_id = $1 and group_set_id is not null', [itemId])) !== null;

/** Those who work on one item together now, this student among them: the group of the item's set, or oneself alone. In a fixed order. */
export async function listGroup(db: Db, itemId: string, enrolmentId: string): Promise<string[]> {
  if (!(await isGroupWork(db, itemId))) return [enrolmentId];
  const found = await rows<{ id: string }>(
    db,
    `
    select e.id from assignment a join course_group g on g.set_id = a.group_set_id join group_member own on own.group_id = g.id and own.enrolment_id = $2
    join group_member m on m.group_id = g.id join enrolment e on e.id = m.enrolment_id and e.withdrawn_at is null
    where a.item_id = $1 union select $2::uuid order by 1`,
    [itemId, enrolmentId],
  );
  return found.map((row) => row.id);
}

/**
 * Those who share one work, to be marked as one: whoever it was handed in for together, as long as none of them handed in
 * something else since; where nothing is handed in, the group as it stands now, less those who have handed in.
 */
export async function listMates(db: Db, itemId: string, enrolmentId: string): Promise<string[]> {
  if (!(await isGroupWork(db, itemId))) return [enrolmentId];
  const found = await rows<{ id: string }>(
    db,
    `
    with latest as (
      select distinct on (a.submission_id) s.enrolment_id, coalesce(a.lead_id, a.id) as lead from attempt a join submission s on s.id = a.submission_id
      where s.item_id = $1 order by a.submission_id, a.number desc)
    select mate.enrolment_id as id from latest own join latest mate on mate.lead = own.lead where own.enrolment_id = $2
    union
    select e.id from assignment a join course_group g on g.set_id = a.group_set_id join group_member own on own.group_id = g.id and own.enrolment_id = $2
    join group_member m on m.group_id = g.id join enrolment e on e.id = m.enrolment_id and e.withdrawn_at is null
    where a.item_id = $1 and not exists (select 1 from latest where latest.enrolment_id in ($2, e.id))
    union select $2::uuid order by 1`,
    [itemId, enrolmentId],
  );
  return found.map((row) => row.id);
}

/** The group a student works in at this item, with the names of the others; null where it is one's own work. */
export async function findOwnGroup(db: Db, itemId: string, enrolmentId: string, now: number): Promise<Omit<OwnGroup, 'ownDraft'> | null> {
  const set = await maybe<{ id: string; title: string; most_members: number | null; is_open: boolean }>(
    db,
    `select s.id, s.title, s.most_members, coalesce(s.sign_up_until > to_timestamp($2 / 1000.0), false) as is_open
     from assignment a join group_set s on s.id = a.group_set_id where a.item_id = $1 and s.removed_at is null`,
    [itemId, now],
  );
  if (set === null) return null;
  const found = await rows<{ id: string; title: string; is_own: boolean; members: string[] }>(
    db,
    `
    select g.id, g.title, bool_or(m.enrolment_id = $2) is true as is_own,
           coalesce(array_agg(p.given_name || ' ' || p.family_name order by p.family_name, p.given_name) filter (where p.id is not null), '{}') as members
    from course_group g left join group_member m on m.group_id = g.id left join enrolment e on e.id = m.enrolment_id and e.withdrawn_at is null left join person p on p.id = e.person_id
    where g.set_id = $1 group by g.id order by g.position`,
    [set.id, enrolmentId],
  );
  const own = found.find((g) => g.is_own);
  return {
    setId: set.id,
    title: own?.title ?? null,
    groupId: own?.id ?? null,
    members: own?.members ?? [],
    // Who may choose sees what there is to choose from; names of other groups are for nobody else.
    choices: set.is_open
      ? found.map((g) => ({ id: g.id, title: g.title, members: g.members, isFull: g.members.length >= (set.most_members ?? 100) }))
      : [],
  };
}

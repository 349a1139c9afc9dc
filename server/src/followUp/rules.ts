import type { FollowDone, FollowRule, FollowUps, FollowWish } from '@rosemary/api';
import { decimalText, reachesSection, type Membership } from '@rosemary/core';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';

interface RuleRow {
  id: string;
  meets: FollowRule['meets'];
  points: number;
  action: FollowRule['action'];
  what: string | null;
  body: string;
  stopped_at: Date | null;
}
interface DoneRow {
  rule_id: string;
  enrolment_id: string;
  name: string;
  section_id: string | null;
  at: Date;
  problem: string;
  undone_at: Date | null;
}
const toDone = (row: DoneRow): FollowDone => ({
  enrolmentId: row.enrolment_id,
  name: row.name,
  at: row.at.toISOString(),
  problem: row.problem,
  isUndone: row.undone_at !== null,
});

const listGroupChoices = (db: Db, courseId: string): Promise<{ id: string; title: string }[]> =>
  rows(
    db,
    "select g.id, s.title || ': ' || g.title as title from course_group g join group_set s on s.id = g.set_id where s.course_id = $1 and s.removed_at is null order by s.position, g.position",
    [courseId],
  );
const listItemChoices = (db: Db, courseId: string, itemId: string): Promise<{ id: string; title: string }[]> =>
  rows(
    db,
    `select i.id, i.title from item i join unit_item ui on ui.item_id = i.id join unit u on u.id = ui.unit_id
     where i.course_id = $1 and i.removed_at is null and not i.is_draft and not i.is_staff_only and i.id <> $2 group by i.id, i.title order by min(u.position), min(ui.position)`,
    [courseId, itemId],
  );

/** What a rule can wait for at an item: its result, and reviews where students give some. Throws where nothing of it can be waited for. */
export async function findFollowed(
  db: Db,
  courseId: string,
  itemId: string,
): Promise<{ readonly areReviews: boolean; readonly possible: number | null }> {
  const found = await maybe<{ are_reviews: boolean; possible: number | null }>(
    db,
    `select coalesce(p.is_on, false) as are_reviews, (nullif(i.possible, 0) * 1000)::int as possible from graded_item i left join peer_setting p on p.item_id = i.id
     where i.id = $2 and i.course_id = $1 and i.removed_at is null and (i.kind = 'quiz' or p.is_on)`,
    [courseId, itemId],
  );
  if (found === null) throw notFound();
  return { areReviews: found.are_reviews, possible: found.possible };
}

/** The rules of an item with whom each has reached, of the students one reaches. */
export async function listFollowUps(db: Db, courseId: string, itemId: string, member: Membership): Promise<FollowUps> {
  const rules = await rows<RuleRow>(
    db,
    `select r.id, r.meets, (r.points * 1000)::int as points, r.action, coalesce(s.title || ': ' || g.title, i.title, r.title) as what, r.body, r.stopped_at
     from follow_rule r left join course_group g on g.id = r.group_id left join group_set s on s.id = g.set_id left join item i on i.id = r.opens_item_id where r.item_id = $1 order by r.made_at, r.id`,
    [itemId],
  );
  const done = await rows<DoneRow>(
    db,
    `select d.rule_id, d.enrolment_id, p.family_name || ', ' || p.given_name as name, e.section_id, d.at, d.problem, d.undone_at from follow_done d join follow_rule r on r.id = d.rule_id
       join enrolment e on e.id = d.enrolment_id join person p on p.id = e.person_id where r.item_id = $1 and not d.is_before order by d.at, p.family_name, p.given_name`,
    [itemId],
  );
  return {
    ...(await findFollowed(db, courseId, itemId)),
    rules: rules.map((row) => ({
      ...{ id: row.id, meets: row.meets, points: row.points, action: row.action, what: row.what ?? '', body: row.body },
      isStopped: row.stopped_at !== null,
      done: done.filter((d) => d.rule_id === row.id && reachesSection(member, d.section_id)).map(toDone),
    })),
    groups: await listGroupChoices(db, courseId),
    items: await listItemChoices(db, courseId, itemId),
  };
}

/**
 * The joins behind `from follow_rule r` that find who meets a rule and is not reached by it yet: active students alone, and of results only
 * what a student may know.
 */
export const MET = `
  join lateral (
    select g.enrolment_id from work_grade g where g.item_id = r.item_id and r.meets <> 'gave reviews' and g.raw is not null and g.is_released
      and case r.meets when 'reaches' then g.raw >= r.points else g.raw < r.points end
    union all select d.enrolment_id from reviews_given d where d.item_id = r.item_id and r.meets = 'gave reviews' and d.are_given
  ) met on true
  join enrolment e on e.id = met.enrolment_id and e.withdrawn_at is null and not e.is_sample and not exists (select 1 from follow_done d where d.rule_id = r.id and d.enrolment_id = e.id)`;

export async function addFollowRule(
  db: Db,
  courseId: string,
  itemId: string,
  wish: FollowWish,
  personId: string,
  now: number,
): Promise<{ id: string }> {
  const { action } = wish;
  if (action === 'group' && !(await listGroupChoices(db, courseId)).some((g) => g.id === wish.groupId))
    throw invalid('groupId', 'Choose the group they join. Groups are made under People.');
  if (action === 'open' && !(await listItemChoices(db, courseId, itemId)).some((i) => i.id === wish.itemId))
    throw invalid('itemId', 'Choose the item that opens. Drafts and what is for staff only cannot be opened so.');
  if (wish.meets === 'gave reviews' && !(await findFollowed(db, courseId, itemId)).areReviews)
    throw invalid('meets', 'No student reviews here. Choose a result to wait for.');
  if (action === 'message' && (wish.title === '' || wish.body === ''))
    throw invalid('body', 'A message has a subject and something in it. Write both.');
  const made = await maybe<{ id: string }>(
    db,
    `insert into follow_rule (item_id, meets, points, action, group_id, opens_item_id, title, body, made_by, made_at) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, to_timestamp($10 / 1000.0)) returning id`,
    [
      ...[itemId, wish.meets, decimalText(wish.points), action, action === 'group' ? wish.groupId : null],
      ...[action === 'open' ? wish.itemId : null, action === 'message' ? wish.title : '', action === 'message' ? wish.body : ''],
      ...[personId, now],
    ],
  );
  const id = made?.id ?? '';
  if (wish.isFromNow)
    await run(
      db,
      `insert into follow_done (rule_id, enrolment_id, at, is_before) select r.id, e.id, to_timestamp($2 / 1000.0), true from follow_rule r ${MET} where r.id = $1`,
      [id, now],
    );
  return { id };
}

/** Stops a rule, or lets it go on; what it did stays done. */
export async function setFollowStopped(db: Db, itemId: string, ruleId: string, stoppedAt: number | null): Promise<void> {
  const changed = await run(db, 'update follow_rule set stopped_at = to_timestamp($3 / 1000.0) where id = $1 and item_id = $2', [
    ruleId,
    itemId,
    stoppedAt,
  ]);
  if (changed === 0) throw notFound();
}

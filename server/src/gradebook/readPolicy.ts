import type { Category, LatePolicy, Policy } from '@rosemary/core';
import { type Db, maybe, often, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { categoryOf, type CategoryRow, lateJson, lateOf, type PolicyRow } from './policyRows.ts';

/** What comes with the row of a policy. */
interface Belonging {
  readonly categories: readonly CategoryRow[];
  readonly levels: Policy['levels'];
  readonly periods: Policy['periods'];
}

export async function getPolicy(
  db: Db,
  courseId: string,
): Promise<{
  policy: Policy;
  late: LatePolicy | null;
  /** Late policies of categories' own. */
  ownLate: ReadonlyMap<string, LatePolicy>;
  row: PolicyRow;
}> {
  // In one statement, since it is read with every mark: what belongs to the policy comes with its row.
  const [read] = await often<PolicyRow & Belonging>(
    db,
    `
    select total, whole_drop_lowest, whole_keep_best, whole_drop_highest, whole_is_capped, (pass_percent * 1000)::int as pass_percent, is_renormalised, is_missing_zero, decimals, shows_floor_and_reach, (late_rate_percent * 1000)::int as late_rate_percent, late_step_minutes, late_base,
           (late_cap_percent * 1000)::int as late_cap_percent, (late_floor_percent * 1000)::int as late_floor_percent, late_grace_minutes, version, scheme_id,
      array(select json_build_object('id', id, 'title', title, 'weight_percent', (weight_percent * 1000)::int, 'method', method, 'drop_lowest', drop_lowest, 'keep_best', keep_best, 'drop_highest', drop_highest,
              'is_extra_credit', is_extra_credit, 'is_capped', is_capped, 'declared_items', declared_items, 'declared_points', (declared_points * 1000)::int, 'declared_in', (select json_agg(json_build_object('periodId', period_id, 'items', items, 'points', (points * 1000)::int) order by period_id) from declared_work w where w.category_id = c.id), 'own_late', ${lateJson('l')})
            from category c left join category_late l on l.category_id = c.id where c.course_id = g.course_id order by position, title) as categories,
      array(select json_build_object('label', label, 'cutPoint', (cut_point * 1000)::int, 'value', (value_percent * 1000)::int) from scheme_level s where s.scheme_id = g.scheme_id order by position) as levels,
      array(select json_build_object('id', p.id, 'title', p.title, 'weightPercent', (p.weight_percent * 1000)::int,
              'startsAt', extract(epoch from p.starts_on::timestamp at time zone k.time_zone) * 1000, 'endsAt', extract(epoch from (p.ends_on + 1)::timestamp at time zone k.time_zone) * 1000)
            from grading_period p join course k on k.id = p.course_id where p.course_id = g.course_id and p.weight_percent > 0 order by p.position) as periods
    from grading_policy g where course_id = $1`,
    [courseId],
  );
  if (read === undefined) throw notFound();
  const { categories, levels, periods, ...row } = read;
  const late = lateOf(row);
  return {
    row,
    late,
    ownLate: new Map(categories.flatMap((c) => (c.own_late === null ? [] : [[c.id, c.own_late]]))),
    policy: {
      total: row.total,
      whole: {
        dropLowest: row.whole_drop_lowest,
        keepBest: row.whole_keep_best,
        dropHighest: row.whole_drop_highest,
        isCapped: row.whole_is_capped,
      },
      isRenormalised: row.is_renormalised,
      isMissingZero: row.is_missing_zero,
      decimals: row.decimals,
      categories: categories.map((c): Category => categoryOf(c, late)),
      levels,
      periods,
      passPercent: row.pass_percent,
    },
  };
}

/** How late work of one item is reduced: by its own policy, else by its category's, else by the course's. */
export async function getItemLate(db: Db, courseId: string, itemId: string): Promise<LatePolicy | null> {
  const row = await maybe<{ late: LatePolicy | null }>(
    db,
    `select coalesce(${lateJson('l')}, ${lateJson('cl')}) as late
     from graded_item i left join column_late l on l.column_id = i.column_id left join category_late cl on cl.category_id = i.category_id where i.id = $1`,
    [itemId],
  );
  return row?.late ?? (await getPolicy(db, courseId)).late;
}

/** The letters that the totals of running courses are read by, each list of them once, with the courses that have it. */
export const listSchemes = (db: Db): Promise<{ labels: string[]; courses: string[] }[]> =>
  rows<{ labels: string[]; courses: string[] }>(
    db,
    `
    with own as (
      select g.course_id, array_agg(l.label order by l.position) as labels from grading_policy g join scheme_level l on l.scheme_id = g.scheme_id group by g.course_id)
    select o.labels, array_agg(c.code || ' ' || c.run order by c.code, c.run) as courses from own o join course c on c.id = o.course_id
    where c.removed_at is null and c.archived_at is null group by o.labels order by count(*) desc, o.labels`,
  );

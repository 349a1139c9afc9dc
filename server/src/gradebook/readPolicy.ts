import type { Category, LatePolicy, Policy } from '@rosemary/core';
import { type Db, maybe, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { millis } from '../platform/instants.ts';
import { categoryOf, type CategoryRow, lateJson, lateOf, type PolicyRow } from './policyRows.ts';

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
  const row = await maybe<PolicyRow>(
    db,
    `
    select total, whole_drop_lowest, is_renormalised, is_missing_zero, decimals, shows_floor_and_reach, (late_rate_percent * 1000)::int as late_rate_percent, late_step_minutes, late_base,
           (late_cap_percent * 1000)::int as late_cap_percent, (late_floor_percent * 1000)::int as late_floor_percent, late_grace_minutes, version, scheme_id
    from grading_policy where course_id = $1`,
    [courseId],
  );
  if (row === null) throw notFound();
  const late = lateOf(row);
  const categories = await rows<CategoryRow>(
    db,
    `
    select id, title, (weight_percent * 1000)::int as weight_percent, method, drop_lowest, keep_best, drop_highest, is_extra_credit, is_capped, declared_items, (declared_points * 1000)::int as declared_points,
           ${lateJson('l')} as own_late
    from category c left join category_late l on l.category_id = c.id where course_id = $1 order by position, title`,
    [courseId],
  );
  const levels = await rows<{ label: string; cut_point: number }>(
    db,
    'select label, (cut_point * 1000)::int as cut_point from scheme_level where scheme_id = $1 order by position',
    [row.scheme_id],
  );
  const periods = await rows<{ id: string; title: string; weight: number; starts_at: Date | null; ends_at: Date | null }>(
    db,
    `select p.id, p.title, (p.weight_percent * 1000)::int as weight, p.starts_on::timestamp at time zone c.time_zone as starts_at, (p.ends_on + 1)::timestamp at time zone c.time_zone as ends_at
     from grading_period p join course c on c.id = p.course_id where p.course_id = $1 order by p.position`,
    [courseId],
  );
  return {
    row,
    late,
    ownLate: new Map(categories.flatMap((c) => (c.own_late === null ? [] : [[c.id, c.own_late]]))),
    policy: {
      total: row.total,
      whole: { dropLowest: row.whole_drop_lowest, keepBest: 0, dropHighest: 0, isCapped: false },
      isRenormalised: row.is_renormalised,
      isMissingZero: row.is_missing_zero,
      decimals: row.decimals,
      categories: categories.map((c): Category => categoryOf(c, late)),
      levels: levels.map((l) => ({ label: l.label, cutPoint: l.cut_point })),
      periods: periods
        .filter((p) => p.weight > 0)
        .map((p) => ({ id: p.id, title: p.title, weightPercent: p.weight, startsAt: millis(p.starts_at), endsAt: millis(p.ends_at) })),
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

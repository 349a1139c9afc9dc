import { randomUUID } from 'node:crypto';
import type { PolicyChange, PolicyPast, PolicyView } from '@rosemary/api';
import { canDropHighest, countOf, decimalText, formatPoints, readTotal, schemeFault } from '@rosemary/core';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, conflict, invalid } from '../platform/errors.ts';
import { calculate } from './cells.ts';
import { readFacts } from './facts.ts';
import { lateValues } from './policyRows.ts';
import { getPolicy } from './readPolicy.ts';

export async function getPolicyChange(db: Db, courseId: string): Promise<PolicyChange> {
  const { policy, row, ownLate } = await getPolicy(db, courseId);
  return {
    version: row.version,
    total: row.total,
    wholeDropLowest: row.whole_drop_lowest,
    isRenormalised: row.is_renormalised,
    isMissingZero: row.is_missing_zero,
    decimals: row.decimals,
    showsFloorAndReach: row.shows_floor_and_reach,
    lateRatePercent: row.late_rate_percent,
    lateStepMinutes: row.late_step_minutes,
    lateBase: row.late_base,
    lateCapPercent: row.late_cap_percent,
    lateFloorPercent: row.late_floor_percent,
    lateGraceMinutes: row.late_grace_minutes,
    categories: policy.categories.map((c) => ({
      id: c.id,
      title: c.title,
      weightPercent: c.weightPercent,
      method: c.method,
      dropLowest: c.dropLowest,
      keepBest: c.keepBest,
      dropHighest: c.dropHighest,
      isExtraCredit: c.isExtraCredit,
      isCapped: c.isCapped,
      declaredItems: c.declaredItems,
      declaredPoints: c.declaredPoints,
      late: ownLate.get(c.id) ?? null,
    })),
    levels: policy.levels.map((l) => ({ label: l.label, cutPoint: l.cutPoint })),
  };
}

export async function getPolicyView(db: Db, courseId: string, now: number): Promise<PolicyView> {
  const change = await getPolicyChange(db, courseId);
  const facts = await readFacts(db, courseId);
  const calculation = calculate(facts, now, false);
  return {
    ...change,
    weightsSum: change.categories.filter((c) => !c.isExtraCredit).reduce((sum, c) => sum + c.weightPercent, 0),
    totals: facts.people.map((p) => ({
      id: p.enrolmentId,
      name: `${p.familyName}, ${p.givenName}`,
      percent: readTotal(calculation.totalsOf(calculation.cellsOf(p)).soFar.ratio, facts.policy.decimals, [])?.percent ?? null,
    })),
  };
}

export function checkPolicy(change: PolicyChange): void {
  const fault = schemeFault(change.levels.map((l) => ({ label: l.label, cutPoint: formatPoints(l.cutPoint) })));
  if (fault !== null) throw invalid('levels', fault);
  const titles = change.categories.map((c) => c.title.toLowerCase());
  const twice = change.categories.find((c, n) => titles.indexOf(c.title.toLowerCase()) !== n);
  if (twice !== undefined) throw invalid('categories', `Two categories are called “${twice.title}”. Give one another name.`);
  if (
    change.total === 'weights' &&
    change.categories.length > 0 &&
    change.categories.every((c) => c.isExtraCredit || c.weightPercent === 0)
  ) {
    throw invalid('categories', 'Every weight is 0, so no total could be made. Give at least one category a weight.');
  }
}

/** Leaving out the highest is offered where no better mark could lower a total by it. */
async function checkHighest(db: Db, courseId: string, change: PolicyChange): Promise<void> {
  const wanting = change.categories.filter((c) => c.dropHighest > 0);
  if (wanting.length === 0) return;
  const items = await rows<{ category_id: string; possible: number; multiplier: number; isExtraCredit: boolean }>(
    db,
    'select category_id, (possible * 1000)::int as possible, (multiplier * 1000)::int as multiplier, is_extra_credit as "isExtraCredit" from grade_column c where course_id = $1 and category_id = any($2) and removed_at is null and not exists (select 1 from item i where i.id = c.item_id and i.removed_at is not null)',
    [courseId, wanting.flatMap((c) => (c.id === null ? [] : [c.id]))],
  );
  const bad = wanting.find(
    (c) =>
      !canDropHighest(
        c.method,
        items.filter((i) => i.category_id === c.id),
      ),
  );
  if (bad !== undefined)
    throw invalid(
      'categories',
      `“${bad.title}” cannot leave out the highest: it goes by equal share only, without multipliers and without extra credit, or a better mark could lower a total.`,
    );
}

/** A category that was removed comes back as itself, where a change of policy of this course once held it. */
async function wasHere(db: Db, courseId: string, categoryId: string): Promise<boolean> {
  const found = await maybe(
    db,
    `select 1 as one from audit where course_id = $1 and action = 'policy changed' and before -> 'categories' @> $2::jsonb and not exists (select 1 from category where id = $3) limit 1`,
    [courseId, JSON.stringify([{ id: categoryId }]), categoryId],
  );
  return found !== null;
}

/** The changes of a policy, the latest first, each with the policy before and after it. */
export async function listPolicyChanges(db: Db, courseId: string): Promise<PolicyPast[]> {
  const found = await rows<{ id: string; at: Date; who: string; before: PolicyChange; after: PolicyChange }>(
    db,
    `select a.id, a.at, p.given_name || ' ' || p.family_name as who, a.before, a.after from audit a join person p on p.id = a.actor_id
     where a.course_id = $1 and a.action = 'policy changed' and a.before is not null and a.after is not null order by a.id desc limit 100`,
    [courseId],
  );
  return found.map((row) => ({ ...row, at: row.at.toISOString() }));
}

async function saveLevels(db: Db, courseId: string, schemeId: string | null, levels: PolicyChange['levels']): Promise<void> {
  let id = schemeId;
  if (id === null) {
    id =
      (await rows<{ id: string }>(db, "insert into scheme (course_id, title) values ($1, 'letters') returning id", [courseId]))[0]?.id ??
      null;
    await run(db, 'update grading_policy set scheme_id = $2 where course_id = $1', [courseId, id]);
  }
  await run(db, 'delete from scheme_level where scheme_id = $1', [id]);
  await run(
    db,
    `insert into scheme_level (scheme_id, position, label, cut_point)
    select $1, n, label, cut / 1000.0 from unnest($2::text[], $3::numeric[]) with ordinality as t(label, cut, n)`,
    [id, levels.map((l) => l.label), levels.map((l) => l.cutPoint)],
  );
}

async function saveCategories(db: Db, courseId: string, change: PolicyChange): Promise<void> {
  const kept = change.categories.flatMap((c) => (c.id === null ? [] : [c.id]));
  const inUse = await maybe<{ title: string; many: string }>(
    db,
    `
    select c.title, count(*) as many from category c join grade_column o on o.category_id = c.id and o.removed_at is null left join item i on i.id = o.item_id where i.removed_at is null and c.course_id = $1 and not (c.id = any($2)) group by c.title limit 1`,
    [courseId, kept],
  );
  if (inUse !== null)
    throw invalid(
      'categories',
      `“${inUse.title}” still holds ${countOf(inUse.many, 'column')}. Give ${inUse.many === '1' ? 'it' : 'them'} another category first.`,
    );
  await run(
    db,
    'update grade_column set category_id = null where course_id = $1 and category_id is not null and not (category_id = any($2))',
    [courseId, kept],
  );
  await run(
    db,
    'update unit set default_category_id = null where course_id = $1 and default_category_id is not null and not (default_category_id = any($2))',
    [courseId, kept],
  );
  await run(db, 'delete from category where course_id = $1 and not (id = any($2))', [courseId, kept]);
  // Titles may change places, so they step aside first.
  await run(db, "update category set title = 'was ' || id where course_id = $1", [courseId]);
  const put = change.categories.map((c, position) => ({ ...c, position, id: c.id ?? randomUUID() }));
  await run(
    db,
    `insert into category (id, course_id, title, position, weight_percent, method, drop_lowest, keep_best, drop_highest, is_extra_credit, is_capped, declared_items, declared_points)
     select t.id, $1, t.title, t.position, t.weight, t.method, t.drop_lowest, t.keep_best, t.drop_highest, t.is_extra_credit, t.is_capped, t.items, t.points
     from unnest($2::uuid[], $3::text[], $4::int[], $5::numeric[], $6::text[], $7::int[], $8::int[], $9::int[], $10::boolean[], $11::boolean[], $12::int[], $13::numeric[])
       as t(id, title, position, weight, method, drop_lowest, keep_best, drop_highest, is_extra_credit, is_capped, items, points)
     on conflict (id) do update set title = excluded.title, position = excluded.position, weight_percent = excluded.weight_percent, method = excluded.method, drop_lowest = excluded.drop_lowest,
       keep_best = excluded.keep_best, drop_highest = excluded.drop_highest, is_extra_credit = excluded.is_extra_credit, is_capped = excluded.is_capped, declared_items = excluded.declared_items,
       declared_points = excluded.declared_points where category.course_id = $1`,
    [
      courseId,
      put.map((c) => c.id),
      put.map((c) => c.title),
      put.map((c) => c.position),
      put.map((c) => decimalText(c.weightPercent)),
      put.map((c) => c.method),
      put.map((c) => c.dropLowest),
      put.map((c) => c.keepBest),
      put.map((c) => c.dropHighest),
      put.map((c) => c.isExtraCredit),
      put.map((c) => c.isCapped),
      put.map((c) => c.declaredItems),
      put.map((c) => decimalText(c.declaredPoints)),
    ],
  );
  await run(db, 'delete from category_late where category_id = any($1)', [put.map((c) => c.id)]);
  const late = put.flatMap((c) => (c.late === null ? [] : [[c.id, ...lateValues(c.late)]]));
  const column = (n: number): unknown[] => late.map((values) => values[n]);
  await run(
    db,
    `insert into category_late (category_id, rate_percent, step_minutes, base, cap_percent, floor_percent, grace_minutes)
     select * from unnest($1::uuid[], $2::numeric[], $3::int[], $4::text[], $5::numeric[], $6::numeric[], $7::int[])`,
    [0, 1, 2, 3, 4, 5, 6].map(column),
  );
}

/** Applies a policy; refused with the present one when it changed since it was read. */
export async function applyPolicy(db: Db, courseId: string, change: PolicyChange): Promise<{ before: PolicyChange; after: PolicyChange }> {
  checkPolicy(change);
  await maybe(db, 'select version from grading_policy where course_id = $1 for update', [courseId]);
  const before = await getPolicyChange(db, courseId);
  if (before.version !== change.version) throw conflict(before);
  const gone = change.categories.filter((c) => c.id !== null && !before.categories.some((b) => b.id === c.id));
  for (const c of gone)
    if (!(await wasHere(db, courseId, c.id ?? '')))
      throw new AppError('invalid', `The category “${c.title}” is no longer here.`, [{ field: 'categories', text: 'no longer here' }]);
  await checkHighest(db, courseId, change);
  await run(
    db,
    `update grading_policy set total = $2, whole_drop_lowest = $3, is_renormalised = $4, is_missing_zero = $5, decimals = $6, shows_floor_and_reach = $7, late_rate_percent = $8, late_step_minutes = $9, late_base = $10,
    late_cap_percent = $11, late_floor_percent = $12, late_grace_minutes = $13, version = version + 1 where course_id = $1`,
    [
      courseId,
      change.total,
      change.wholeDropLowest,
      change.isRenormalised,
      change.isMissingZero,
      change.decimals,
      change.showsFloorAndReach,
      decimalText(change.lateRatePercent),
      change.lateStepMinutes,
      change.lateBase,
      decimalText(change.lateCapPercent),
      decimalText(change.lateFloorPercent),
      change.lateGraceMinutes,
    ],
  );
  await saveCategories(db, courseId, change);
  const scheme = await maybe<{ scheme_id: string | null }>(db, 'select scheme_id from grading_policy where course_id = $1', [courseId]);
  await saveLevels(db, courseId, scheme?.scheme_id ?? null, change.levels);
  return { before, after: await getPolicyChange(db, courseId) };
}

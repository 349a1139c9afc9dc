import type { PolicyChange, PolicyPast, PolicyPeriod, PolicyView } from '@rosemary/api';
import { canDropHighest, decimalText, formatPoints, periodOf, readTotal, schemeFault } from '@rosemary/core';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { conflict, invalid } from '../platform/errors.ts';
import { calculate } from './cells.ts';
import { readFacts } from './facts.ts';
import { getPolicy } from './readPolicy.ts';
import { listPlaces, movedBetween, requireKnown, saveLevels, saveParts } from './savePolicy.ts';

/** All grading periods, also those without a weight. */
const listPeriods = (db: Db, courseId: string): Promise<PolicyPeriod[]> =>
  rows<PolicyPeriod & Record<string, unknown>>(
    db,
    `select id, title, (weight_percent * 1000)::int as "weightPercent", starts_on::text as "startsOn", ends_on::text as "endsOn" from grading_period where course_id = $1 order by position`,
    [courseId],
  );

export async function getPolicyChange(db: Db, courseId: string): Promise<PolicyChange> {
  const [{ policy, row, ownLate }, periods] = await Promise.all([getPolicy(db, courseId), listPeriods(db, courseId)]);
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
      declaredIn: [...(c.declaredIn ?? [])],
      late: ownLate.get(c.id) ?? null,
    })),
    wholeKeepBest: row.whole_keep_best,
    wholeDropHighest: row.whole_drop_highest,
    wholeIsCapped: row.whole_is_capped,
    passPercent: row.pass_percent,
    periods,
    levels: policy.levels.map((l) => ({ label: l.label, cutPoint: l.cutPoint, value: l.value ?? null })),
    moves: [],
  };
}

export async function getPolicyView(db: Db, courseId: string, now: number): Promise<PolicyView> {
  const change = await getPolicyChange(db, courseId);
  const facts = await readFacts(db, courseId);
  const calculation = calculate(facts, now, false);
  return {
    ...change,
    weightsSum: change.categories.filter((c) => !c.isExtraCredit).reduce((sum, c) => sum + c.weightPercent, 0),
    columns: facts.columns.map((column) => ({
      id: column.id,
      title: column.title,
      possible: column.possible,
      categoryId: column.categoryId,
      periodId: column.periodId,
      inPeriodId: periodOf({ periodId: null, dueAt: column.dated.dueAt }, facts.policy.periods)?.id ?? null,
    })),
    totals: facts.people.map((p) => ({
      id: p.enrolmentId,
      name: `${p.familyName}, ${p.givenName}`,
      percent: readTotal(calculation.totalsOf(calculation.cellsOf(p)).soFar.ratio, facts.policy.decimals, [])?.percent ?? null,
    })),
  };
}

/** Grading periods have days in order, none of which is in two of them. */
function checkPeriods(periods: readonly PolicyPeriod[]): void {
  const titles = periods.map((p) => p.title.toLowerCase());
  const twice = periods.find((p, n) => titles.indexOf(p.title.toLowerCase()) !== n);
  if (twice !== undefined) throw invalid('periods', `Two grading periods are called “${twice.title}”. Give one another name.`);
  const halfDated = periods.find((p) => (p.startsOn === null) !== (p.endsOn === null));
  if (halfDated !== undefined) throw invalid('periods', `“${halfDated.title}” needs both its first and its last day, or neither.`);
  const turned = periods.find((p) => p.startsOn !== null && p.endsOn !== null && p.endsOn < p.startsOn);
  if (turned !== undefined)
    throw invalid(
      'periods',
      `“${turned.title}” ends on ${turned.endsOn}, before it begins on ${turned.startsOn}. Give it a later last day.`,
    );
  const dated = periods.filter((p) => p.startsOn !== null).sort((a, b) => (a.startsOn ?? '').localeCompare(b.startsOn ?? ''));
  const over = dated.findIndex((p, n) => n > 0 && (p.startsOn ?? '') <= (dated[n - 1]?.endsOn ?? ''));
  if (over > 0)
    throw invalid(
      'periods',
      `“${dated[over]?.title}” begins on ${dated[over]?.startsOn}, while “${dated[over - 1]?.title}” still goes on until ${dated[over - 1]?.endsOn}. Let it begin later.`,
    );
}

/** Letters have names of their own and fall to 0. */
export function checkLevels(field: string, levels: PolicyChange['levels']): void {
  const labels = levels.map((l) => l.label.toLowerCase());
  const alike = levels.find((l, n) => labels.indexOf(l.label.toLowerCase()) !== n);
  if (alike !== undefined) throw invalid(field, `Two letters are called “${alike.label}”. Give one another name.`);
  const fault = schemeFault(levels.map((l) => ({ label: l.label, cutPoint: formatPoints(l.cutPoint) })));
  if (fault !== null) throw invalid(field, fault);
}

export function checkPolicy(change: PolicyChange): void {
  checkPeriods(change.periods);
  checkLevels('levels', change.levels);
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

/** Applies a policy; refused with the present one when it changed since it was read. */
export async function applyPolicy(db: Db, courseId: string, change: PolicyChange): Promise<{ before: PolicyChange; after: PolicyChange }> {
  checkPolicy(change);
  await maybe(db, 'select version from grading_policy where course_id = $1 for update', [courseId]);
  const before = await getPolicyChange(db, courseId);
  if (before.version !== change.version) throw conflict(before);
  await requireKnown(db, courseId, before, change);
  const places = await listPlaces(db, courseId);
  await run(
    db,
    `update grading_policy set total = $2, whole_drop_lowest = $3, is_renormalised = $4, is_missing_zero = $5, decimals = $6, shows_floor_and_reach = $7, late_rate_percent = $8, late_step_minutes = $9, late_base = $10,
    late_cap_percent = $11, late_floor_percent = $12, late_grace_minutes = $13, whole_keep_best = $14, whole_drop_highest = $15, whole_is_capped = $16, pass_percent = $17, version = version + 1 where course_id = $1`,
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
      change.wholeKeepBest,
      change.wholeDropHighest,
      change.wholeIsCapped,
      change.passPercent === null ? null : decimalText(change.passPercent),
    ],
  );
  await saveParts(db, courseId, change);
  await checkHighest(db, courseId, change);
  const scheme = await maybe<{ scheme_id: string | null }>(db, 'select scheme_id from grading_policy where course_id = $1', [courseId]);
  await saveLevels(db, courseId, scheme?.scheme_id ?? null, change.levels);
  // Each side carries where the columns stood that the change moved, so that taking it back moves them back.
  const now = await listPlaces(db, courseId);
  const after = await getPolicyChange(db, courseId);
  return { before: { ...before, moves: movedBetween(places, now) }, after: { ...after, moves: movedBetween(now, places) } };
}

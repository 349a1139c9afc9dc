import { decimalText, type Category, type LatePolicy, type Method } from '@rosemary/core';

/** A late policy as core takes it, of a row of `column_late` or `category_late`; null where there is none. */
export const lateJson = (alias: string): string =>
  `case when ${alias}.rate_percent is not null then json_build_object('ratePercent', (${alias}.rate_percent * 1000)::int, 'stepMinutes', ${alias}.step_minutes, 'base', ${alias}.base, 'capPercent', (${alias}.cap_percent * 1000)::int, 'floorPercent', (${alias}.floor_percent * 1000)::int, 'graceMinutes', ${alias}.grace_minutes) end`;

/** The columns of such a row, in their order. */
export const lateValues = (late: LatePolicy): readonly unknown[] => [
  decimalText(late.ratePercent),
  late.stepMinutes,
  late.base,
  decimalText(late.capPercent),
  decimalText(late.floorPercent),
  late.graceMinutes,
];

interface LateRow {
  late_rate_percent: number;
  late_step_minutes: number;
  late_base: 'earned' | 'possible';
  late_cap_percent: number;
  late_floor_percent: number;
  late_grace_minutes: number;
}
export interface PolicyRow extends LateRow {
  total: 'weights' | Method;
  whole_drop_lowest: number;
  whole_keep_best: number;
  whole_drop_highest: number;
  whole_is_capped: boolean;
  pass_percent: number | null;
  is_renormalised: boolean;
  is_missing_zero: boolean;
  decimals: number;
  shows_floor_and_reach: boolean;
  version: number;
  scheme_id: string | null;
}
export interface CategoryRow {
  id: string;
  title: string;
  weight_percent: number;
  method: Method;
  drop_lowest: number;
  keep_best: number;
  drop_highest: number;
  is_extra_credit: boolean;
  is_capped: boolean;
  declared_items: number;
  declared_points: number;
  declared_in: Category['declaredIn'] | null;
  own_late: LatePolicy | null;
}

/** No rate means no late policy; the grace then still says when work is missing, so it is kept with a rate of 0. */
export function lateOf(row: LateRow): LatePolicy {
  return {
    ratePercent: row.late_rate_percent,
    stepMinutes: row.late_step_minutes,
    base: row.late_base,
    capPercent: row.late_cap_percent,
    floorPercent: row.late_floor_percent,
    graceMinutes: row.late_grace_minutes,
  };
}

export function categoryOf(row: CategoryRow, late: LatePolicy | null): Category {
  return {
    id: row.id,
    title: row.title,
    weightPercent: row.weight_percent,
    method: row.method,
    dropLowest: row.drop_lowest,
    keepBest: row.keep_best,
    dropHighest: row.drop_highest,
    isExtraCredit: row.is_extra_credit,
    isCapped: row.is_capped,
    declaredItems: row.declared_items,
    declaredPoints: row.declared_points,
    declaredIn: row.declared_in ?? [],
    late: row.own_late ?? late,
  };
}

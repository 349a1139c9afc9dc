import { exactPoints, ratio, simplest, toRatio, type Exact, type Ratio } from '../exact/ratio.ts';
import { formatPoints, pointsInWords, type Thousandths } from '../exact/points.ts';
import { countOf } from '../exact/countOf.ts';

export const CURVE_KINDS = ['add', 'scale', 'root', 'mean'] as const;
export type CurveKind = (typeof CURVE_KINDS)[number];

/** A curve on the results of one column; all points in thousandths. */
export interface Curve {
  readonly kind: CurveKind;
  /** Points added; the points that become full marks; the points that the mean becomes. Null for the square root. */
  readonly amount: Thousandths | null;
  readonly isCapped: boolean;
  /** For a mean: what is added to each result, worked out when the curve was set, and from how many marks. */
  readonly shift: { readonly value: Ratio; readonly marks: number } | null;
}

/** What a curve made of a result, with the rule in words. */
export interface CurveAccount {
  readonly from: Thousandths;
  readonly to: Exact;
  readonly rule: string;
}

/** The whole number nearest to the square root of a whole number, halves up: k where (k − ½)² ≤ value < (k + ½)². */
function nearestRoot(value: bigint): bigint {
  let root = BigInt(Math.floor(Math.sqrt(Number(value))));
  while (root * root > value) root -= 1n;
  while ((root + 1n) * (root + 1n) <= value) root += 1n;
  // (2k + 1)² ≤ 4·value means that value lies at or above (k + ½)².
  return (2n * root + 1n) * (2n * root + 1n) <= 4n * value ? root + 1n : root;
}

/**
 * What is added to every mark so that their mean becomes `target`; null where there is no mark. Marks are those that are finished: exempt and
 * missing ones and those of sample students are left out by whoever asks. Exact; all in thousandths of a point.
 * Worked example: marks of 10 and 13 points and a target of 15: 3.5 points.
 */
export function meanShift(marks: readonly Thousandths[], target: Thousandths): Ratio | null {
  if (marks.length === 0) return null;
  const sum = marks.reduce((total, mark) => total + mark, 0);
  return ratio(target).sub(ratio(sum, marks.length));
}

/**
 * A result after a curve.
 *
 * Rules, for a result r of p possible points: *add* r + k; *scale* r·p/k, so that k becomes full marks; *root* max(r, p·√(r/p)), rounded half up
 * to a thousandth of a point; *mean* r + s with the same s for all. Capped it is at most p; never below 0. Without possible points only *add*
 * does anything. Everything is exact but the root.
 * Worked example: 49 of 100 by the square root is 70; 18 of 20 where 19 becomes full marks is 18 18/19.
 */
export function applyCurve(curve: Curve, raw: Thousandths, possible: Thousandths): Exact {
  const r = ratio(raw);
  const curved = ((): Ratio => {
    if (curve.kind === 'add') return r.add(curve.amount ?? 0);
    if (curve.kind === 'mean') return curve.shift === null ? r : r.add(curve.shift.value);
    if (possible === 0) return r;
    if (curve.kind === 'scale') return curve.amount === null || curve.amount === 0 ? r : r.mul(possible).div(curve.amount);
    const root = ratio(nearestRoot(BigInt(raw) * BigInt(possible)));
    return root.compare(r) > 0 ? root : r;
  })();
  const most = ratio(possible);
  // A result above the points that was given stays: a cap takes nothing away that was there before.
  const cap = r.compare(most) > 0 ? r : most;
  const capped = curve.isCapped && curved.compare(cap) > 0 ? cap : curved;
  return simplest(capped.compare(0) < 0 ? ratio(0) : capped);
}

/** A curve in words: `3 points added`, `19 of 20 points are full marks`, `square root of the share`. */
export function curveInWords(curve: Curve, possible: Thousandths): string {
  const amount = curve.amount ?? 0;
  const words = {
    add: `${pointsInWords(amount)} added`,
    scale: `${formatPoints(amount)} of ${pointsInWords(possible)} are full marks`,
    root: 'square root of the share of the points',
    mean:
      curve.shift === null
        ? `mean set to ${pointsInWords(amount)}`
        : `${curve.shift.value.compare(0) < 0 ? '−' : ''}${exactPoints(curve.shift.value.abs())} points added, so that the mean of ${countOf(curve.shift.marks, 'mark')} became ${formatPoints(amount)}`,
  }[curve.kind];
  return `${words}${curve.isCapped ? ', at most full marks' : ''}`;
}

/** A result after a curve, with what is needed to say so; the result itself where there is no curve. */
export function curveOf(
  curve: Curve | null,
  raw: Thousandths,
  possible: Thousandths,
): { readonly result: Exact; readonly account: CurveAccount | null } {
  if (curve === null) return { result: raw, account: null };
  const result = applyCurve(curve, raw, possible);
  return { result, account: { from: raw, to: result, rule: `curve: ${curveInWords(curve, possible)}` } };
}

/**
 * What is wrong with a curve that is asked for, in a sentence; null where nothing is. `marks` are the finished ones.
 * Worked example: a mean without any mark: “There is no mark yet …”.
 */
export function curveFault(curve: Pick<Curve, 'kind' | 'amount'>, possible: Thousandths, marks: number): string | null {
  if (possible === 0 && curve.kind !== 'add') return 'This column is worth 0 points, so only points can be added to it.';
  if (curve.kind === 'root') return null;
  if (curve.amount === null) return 'Type a number of points.';
  if (curve.kind === 'scale' && curve.amount === 0) return 'Full marks cannot be 0 points. Type a number above 0.';
  if (curve.kind === 'mean' && marks === 0) return 'There is no mark yet whose mean could be set. Mark some work first.';
  if (curve.kind === 'mean' && curve.amount > possible) return `The mean cannot be above the ${pointsInWords(possible)} of this column.`;
  return null;
}

/** A value of a curve as a number for drawing only: a chart has no use for exact fractions. */
export const drawnPoints = (value: Exact): number => toRatio(value).div(1000).valueOf();

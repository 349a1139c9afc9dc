import { ONE, ratio, simplest, toRatio, ZERO, type Exact, type Ratio } from '../exact/ratio.ts';
import type { GradedCell, GradedItem } from './cell.ts';
import { leaveOutHighest, leaveOutLowest, type Candidate } from './dropping.ts';
import type { Method } from './policy.ts';

/** Why an item stands in a total with the value it has. */
export type Basis = 'mark' | 'missing' | 'no mark yet' | 'full marks' | 'closed' | 'not built yet';

/** One item in one total, exactly as it was counted. */
export interface ItemLine {
  readonly item: GradedItem;
  readonly cell: GradedCell;
  readonly earned: Exact;
  readonly basis: Basis;
  leftOut: 'lowest' | 'highest' | null;
}

export interface Dropping { readonly dropLowest: number; readonly keepBest: number; readonly dropHighest: number }

export interface CategoryTotal {
  readonly lines: readonly ItemLine[];
  readonly method: Method;
  /** Points of the kept work (or shares times multipliers), in thousandths times thousandths; see `ratio` for the result. */
  readonly earned: Ratio;
  readonly possible: Ratio;
  /** earned / possible; null where no ordinary item counted. */
  readonly ratio: Ratio | null;
  readonly isCapped: boolean;
}

const HUNDRED_POINTS = 100_000;

function isExtra(line: ItemLine): boolean {
  return line.item.isExtraCredit || line.item.possible === 0;
}

function shareOf(line: ItemLine): Ratio {
  const possible = line.item.possible === 0 ? HUNDRED_POINTS : line.item.possible;
  return typeof line.earned === 'number' ? ratio(line.earned, possible) : line.earned.div(possible);
}

/** Σ m·e, kept in plain whole numbers as long as every value is one. */
function sumPoints(lines: readonly ItemLine[]): Ratio {
  let whole = 0;
  let fine = ZERO;
  for (const line of lines) {
    if (typeof line.earned === 'number') whole += line.item.multiplier * line.earned;
    else fine = fine.add(line.earned.mul(line.item.multiplier));
  }
  return fine === ZERO ? ratio(whole) : fine.add(ratio(whole));
}

/** Σ m·(e/p), adding first what has the same p. */
function sumShares(lines: readonly ItemLine[]): Ratio {
  const byPossible = new Map<number, number>();
  let sum = ZERO;
  for (const line of lines) {
    const possible = line.item.possible === 0 ? HUNDRED_POINTS : line.item.possible;
    if (typeof line.earned === 'number') {
      byPossible.set(possible, (byPossible.get(possible) ?? 0) + line.item.multiplier * line.earned);
    } else sum = sum.add(line.earned.mul(line.item.multiplier).div(possible));
  }
  for (const [possible, earned] of byPossible) sum = sum.add(ratio(earned, possible));
  return sum;
}

function candidateOf(line: ItemLine, method: Method): Candidate {
  const { item } = line;
  const byPoints = method === 'points';
  const numerator: Exact = byPoints && typeof line.earned === 'number' ? item.multiplier * line.earned
    : byPoints ? (line.earned as Ratio).mul(item.multiplier) : simplest(shareOf(line).mul(item.multiplier));
  return { numerator, denominator: byPoints ? item.multiplier * item.possible : item.multiplier, dueAt: item.dueAt, order: item.order };
}

/** Marks the lines that are left out; candidates are the counted lines that are not extra credit. */
function leaveOut(lines: readonly ItemLine[], method: Method, dropping: Dropping): void {
  const ordinary = lines.filter((line) => !isExtra(line) && line.item.multiplier > 0);
  const lowest = Math.max(dropping.dropLowest, dropping.keepBest > 0 ? ordinary.length - dropping.keepBest : 0);
  if (lowest <= 0 && dropping.dropHighest <= 0) return;
  const extras = lines.filter(isExtra);
  const extra = method === 'points' ? sumPoints(extras) : sumShares(extras);
  const out = leaveOutLowest(ordinary.map((line) => candidateOf(line, method)), lowest, extra);
  for (const place of out) (ordinary[place] as ItemLine).leftOut = 'lowest';
  if (method !== 'share' || dropping.dropHighest <= 0) return;
  const rest = ordinary.filter((line) => line.leftOut === null);
  const high = leaveOutHighest(rest.map((line) => candidateOf(line, method)), dropping.dropHighest, extra);
  for (const place of high) (rest[place] as ItemLine).leftOut = 'highest';
}

/**
 * The result of one category for one student from the lines that count.
 *
 * By points r = Σ mᵢeᵢ / Σ mᵢpᵢ; by equal share r = Σ mᵢ(eᵢ/pᵢ) / Σ mᵢ. Extra-credit items and items worth 0 add to
 * the numerator only. No ordinary item: `ratio` is null, not zero. With `isCapped` r is at most 1.
 * Worked example: 48/60, 45.125/60, 33/40 kept, 37.5/60 left out: 126.125 of 160, ratio 0.78828125.
 */
export function totalCategory(lines: readonly ItemLine[], method: Method, dropping: Dropping, isCapped: boolean): CategoryTotal {
  leaveOut(lines, method, dropping);
  let kept = lines;
  for (const line of lines) if (line.leftOut !== null) { kept = lines.filter((l) => l.leftOut === null); break; }
  const earned = method === 'points' ? sumPoints(kept) : sumShares(kept);
  let denominator = 0;
  for (const line of kept) {
    if (!isExtra(line)) denominator += method === 'points' ? line.item.multiplier * line.item.possible : line.item.multiplier;
  }
  const possible = ratio(denominator);
  const exact = denominator > 0 ? toRatio(earned).div(denominator) : null;
  const overFull = exact !== null && isCapped && exact.compare(ONE) > 0;
  return { lines, method, earned, possible, ratio: overFull ? ONE : exact, isCapped: overFull };
}

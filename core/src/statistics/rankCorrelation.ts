type Interval = readonly [low: number, high: number];
/** How two measures go together by their ranks. */
export interface RankCorrelation {
  readonly number: number;
  /** Spearman’s ρ from −1 to 1; null below ten pairs, or where one of the two does not vary. */
  readonly rho: number | null;
  /** Its 95 % interval; null where there is none. */
  readonly interval: Interval | null;
}
/** How two measures go together along a straight line. */
export interface LinearCorrelation {
  readonly number: number;
  /** Pearson’s r from −1 to 1; null below ten pairs, or where one of the two does not vary. */
  readonly r: number | null;
  readonly interval: Interval | null;
}
type Pairs = readonly (readonly [number, number])[];

const LEAST_PAIRS = 10;
const Z_95 = 1.959_963_984_540_054;

/** Ranks from 1 in the order of the values; values that are alike share the mean of their ranks. */
function midRanks(values: readonly number[]): number[] {
  const order = values.map((value, place) => ({ value, place })).sort((a, b) => a.value - b.value);
  const ranks = values.map(() => 0);
  for (let from = 0; from < order.length;) {
    let to = from;
    while (to + 1 < order.length && order[to + 1]?.value === order[from]?.value) to += 1;
    for (let n = from; n <= to; n += 1) ranks[order[n]?.place ?? 0] = (from + to) / 2 + 1;
    from = to + 1;
  }
  return ranks;
}

/** Pearson’s correlation of two lists of one length; null where one does not vary. */
function correlation(a: readonly number[], b: readonly number[]): number | null {
  const meanOf = (list: readonly number[]): number => list.reduce((sum, v) => sum + v, 0) / list.length;
  const [meanA, meanB] = [meanOf(a), meanOf(b)];
  let [both, ofA, ofB] = [0, 0, 0];
  for (const [n, value] of a.entries()) {
    const [da, db] = [value - meanA, (b[n] ?? 0) - meanB];
    both += da * db;
    ofA += da * da;
    ofB += db * db;
  }
  return ofA === 0 || ofB === 0 ? null : both / Math.sqrt(ofA * ofB);
}

/** The 95 % interval of a correlation by Fisher’s z; `inflation` is what the variance 1 / (n − 3) is multiplied by. */
function intervalOf(correlation: number, number: number, inflation: number): Interval {
  // At the ends z is infinite: there is nothing to either side.
  if (Math.abs(correlation) > 1 - 1e-12) return [Math.sign(correlation), Math.sign(correlation)];
  const z = Math.atanh(correlation);
  const half = Z_95 * Math.sqrt(inflation / (number - 3));
  return [Math.tanh(z - half), Math.tanh(z + half)];
}
/** Computed correlations end some last digits of the machine beside −1 and 1. */
const trimmed = (correlation: number): number => (Math.abs(correlation) > 1 - 1e-12 ? Math.sign(correlation) : correlation);
function requireNumbers(pairs: Pairs): void {
  if (pairs.some((pair) => pair.some((v) => !Number.isFinite(v)))) throw new RangeError('A value that is no number has no rank.');
}

/**
 * Spearman’s rank correlation with mid-ranks, and its 95 % interval by Fisher’s z with the variance 1.06 / (n − 3). Null below ten pairs and
 * where one of the measures does not vary. That two measures go together is no cause. A value that is not finite throws.
 * Source: Spearman 1904; Fieller, Hartley and Pearson 1957 for the variance.
 * Worked example: of ten pairs in the same order ρ is 1; of ten in the opposite order −1.
 */
export function rankCorrelation(pairs: Pairs): RankCorrelation {
  requireNumbers(pairs);
  const { length: number } = pairs;
  const rho = number < LEAST_PAIRS ? null : correlation(midRanks(pairs.map(([a]) => a)), midRanks(pairs.map(([, b]) => b)));
  return rho === null ? { number, rho, interval: null } : { number, rho: trimmed(rho), interval: intervalOf(rho, number, 1.06) };
}

/**
 * Pearson’s correlation, and its 95 % interval by Fisher’s z with the variance 1 / (n − 3). Null below ten pairs and where one of the measures does not
 * vary. A value that is not finite throws.
 * Source: Pearson 1895; Fisher 1921 for the interval.
 * Worked example: of ten points on a rising line r is 1, on a falling one −1.
 */
export function linearCorrelation(pairs: Pairs): LinearCorrelation {
  requireNumbers(pairs);
  const { length: number } = pairs;
  const r =
    number < LEAST_PAIRS
      ? null
      : correlation(
          pairs.map(([a]) => a),
          pairs.map(([, b]) => b),
        );
  return r === null ? { number, r, interval: null } : { number, r: trimmed(r), interval: intervalOf(r, number, 1) };
}

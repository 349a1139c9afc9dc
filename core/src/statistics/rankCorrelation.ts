/** How two measures go together by their ranks. */
export interface RankCorrelation {
  readonly number: number;
  /** Spearman’s ρ from −1 to 1; null below ten pairs, or where one of the two does not vary. */
  readonly rho: number | null;
  /** Its 95 % interval; null where there is none. */
  readonly interval: readonly [low: number, high: number] | null;
}

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

/**
 * Spearman’s rank correlation with mid-ranks, and its 95 % interval by Fisher’s z with the variance 1.06 / (n − 3). Null below ten pairs and
 * where one of the measures does not vary. That two measures go together is no cause. A value that is not finite throws.
 * Source: Spearman 1904; Fieller, Hartley and Pearson 1957 for the variance.
 * Worked example: of ten pairs in the same order ρ is 1; of ten in the opposite order −1.
 */
export function rankCorrelation(pairs: readonly (readonly [number, number])[]): RankCorrelation {
  if (pairs.some((pair) => pair.some((v) => !Number.isFinite(v)))) throw new RangeError('A value that is no number has no rank.');
  const { length: number } = pairs;
  const nothing = { number, rho: null, interval: null };
  if (number < LEAST_PAIRS) return nothing;
  const rho = correlation(midRanks(pairs.map(([a]) => a)), midRanks(pairs.map(([, b]) => b)));
  if (rho === null) return nothing;
  // At the ends z is infinite: there is nothing to either side.
  if (Math.abs(rho) > 1 - 1e-12) return { number, rho: Math.sign(rho), interval: [Math.sign(rho), Math.sign(rho)] };
  const z = Math.atanh(rho);
  const half = Z_95 * Math.sqrt(1.06 / (number - 3));
  return { number, rho, interval: [Math.tanh(z - half), Math.tanh(z + half)] };
}

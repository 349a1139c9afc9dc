import { fQuantile } from '../statistics/fDistribution.ts';

export interface Icc {
  readonly value: number;
  readonly low: number;
  readonly high: number;
}
/** What an ICC(1,1) is made of: ratings of each work, and the mean squares between works and within them. */
export interface OneWay {
  readonly each: number;
  readonly between: number;
  readonly within: number;
}
/** One row a work, one column a marker; of ICC(1,1) the columns have no order. */
export type Ratings = readonly (readonly number[])[];

interface Squares {
  readonly n: number;
  readonly k: number;
  /** Mean squares: between works, within works, between markers, what is left. */
  readonly works: number;
  readonly within: number;
  readonly markers: number;
  readonly rest: number;
}

function squares(ratings: Ratings): Squares | null {
  const n = ratings.length;
  const k = ratings[0]?.length ?? 0;
  if (ratings.some((row) => row.length !== k)) throw new RangeError('Every work has as many ratings as any other.');
  if (n < 3 || k < 2) return null;
  const all = ratings.flat();
  const mean = (numbers: readonly number[]): number => numbers.reduce((a, b) => a + b, 0) / numbers.length;
  const grand = mean(all);
  const rows = ratings.map(mean);
  const columns = Array.from({ length: k }, (_, c) => mean(ratings.map((row) => row[c] as number)));
  const ofWorks = k * rows.reduce((s, m) => s + (m - grand) ** 2, 0);
  const ofMarkers = n * columns.reduce((s, m) => s + (m - grand) ** 2, 0);
  const total = all.reduce((s, x) => s + (x - grand) ** 2, 0);
  return {
    n,
    k,
    works: ofWorks / (n - 1),
    within: (total - ofWorks) / (n * (k - 1)),
    markers: ofMarkers / (k - 1),
    rest: Math.max(0, total - ofWorks - ofMarkers) / ((n - 1) * (k - 1)),
  };
}

/**
 * ICC(1,1): how much of the spread of single scores lies between works, where pairs of markers rotate. With its 95 % interval and the
 * mean squares it is made of.
 *
 * (MSB − MSW) / (MSB + (k − 1) MSW), one-way random effects; the interval by the F distribution. `ratings` is works × markers, as
 * many for each. Fewer than three works, or no spread at all, give null; unequal rows throw.
 * Source: P. E. Shrout and J. L. Fleiss, Intraclass correlations, Psychological Bulletin 86 (1979); their table 2 of six works and
 * four judges gives 0.17, which a test holds.
 */
export function iccRotating(ratings: Ratings): (Icc & OneWay) | null {
  const s = squares(ratings);
  if (s === null || (s.works === 0 && s.within === 0)) return null;
  const { n, k, works, within } = s;
  const value = (works - within) / (works + (k - 1) * within);
  const oneWay = { each: k, between: works, within };
  if (within === 0) return { value, low: value, high: value, ...oneWay };
  const f = works / within;
  const low = f / fQuantile(0.975, n - 1, n * (k - 1));
  const high = f * fQuantile(0.975, n * (k - 1), n - 1);
  return { value, low: (low - 1) / (low + k - 1), high: (high - 1) / (high + k - 1), ...oneWay };
}

/**
 * ICC(2,1): the same where the same markers marked everything, and a marker who is always harder counts as disagreement. With its
 * 95 % interval.
 *
 * (MSR − MSE) / (MSR + (k − 1) MSE + k (MSC − MSE) / n), two-way random effects, absolute agreement, single measures. Shapes and
 * errors as for `iccRotating`.
 * Source: Shrout and Fleiss (1979), whose table 2 gives 0.29, which a test holds; interval as there, by Satterthwaite’s degrees of
 * freedom.
 */
export function iccSame(ratings: Ratings): Icc | null {
  const s = squares(ratings);
  if (s === null || (s.works === 0 && s.within === 0)) return null;
  const { n, k, works, markers, rest } = s;
  const value = (works - rest) / (works + (k - 1) * rest + (k * (markers - rest)) / n);
  if (rest === 0 && markers === 0) return { value, low: value, high: value };
  // Worked out from the mean squares themselves: their ratio has no value where one marker is harder by the same everywhere.
  const ofMarkers = k * value * markers;
  const ofRest = (n * (1 + (k - 1) * value) - k * value) * rest;
  const degrees = (ofMarkers + ofRest) ** 2 / (ofMarkers ** 2 / (k - 1) + ofRest ** 2 / ((n - 1) * (k - 1)));
  const [up, down] = [fQuantile(0.975, n - 1, degrees), fQuantile(0.975, degrees, n - 1)];
  const spread = k * markers + (k * n - k - n) * rest;
  return {
    value,
    low: (n * (works - up * rest)) / (up * spread + n * works),
    high: (n * (down * works - rest)) / (spread + n * down * works),
  };
}

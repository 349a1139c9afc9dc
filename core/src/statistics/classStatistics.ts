import { ratio, roundHalfUp, toRatio, type Exact, type Ratio } from '../exact/ratio.ts';

/** How a class did at one item, to be read: points with one decimal. */
export interface ClassStatistics {
  readonly number: number;
  readonly mean: string;
  readonly median: string;
  readonly spread: string;
}

/** The square root of an exact value in whole tenths, rounded half up exactly: k where (k − ½)² ≤ 100·value < (k + ½)². */
function rootInTenths(value: Ratio): number {
  const quadrupled = value.mul(400);
  const reaches = (k: number): boolean => ratio((2 * k - 1) ** 2).compare(quadrupled) <= 0;
  let k = Math.max(0, Math.round(Math.sqrt(value.valueOf() * 100)));
  while (k > 0 && !reaches(k)) k -= 1;
  while (reaches(k + 1)) k += 1;
  return k;
}
const tenthsText = (tenths: number): string => `${Math.floor(tenths / 10)}.${tenths % 10}`;

/** Below this many results nobody is told how the class did: it would tell on single students. */
export const LEAST_RESULTS = 5;

/**
 * Number, mean, median and spread of the results of one item, given as exact thousandths of a point. The mean and the median
 * (of an even number the mean of the middle two) are exact and rounded half up to a tenth of a point; the spread is the standard
 * deviation of a sample (n − 1), rounded likewise. Fewer than five results give null.
 * Worked example: 40, 42, 44, 46 and 48 points: 5 results, mean 44.0, median 44.0, spread 3.2.
 */
export function classStatistics(results: readonly Exact[]): ClassStatistics | null {
  if (results.length < LEAST_RESULTS) return null;
  const sorted = results.map(toRatio).sort((a, b) => a.compare(b));
  const many = sorted.length;
  const mean = sorted.reduce((sum, r) => sum.add(r), ratio(0)).div(many);
  const [below, above] = [sorted[Math.floor((many - 1) / 2)], sorted[Math.floor(many / 2)]];
  if (below === undefined || above === undefined) return null;
  const squares = sorted.reduce((sum, r) => sum.add(r.sub(mean).mul(r.sub(mean))), ratio(0)).div(many - 1);
  return {
    number: many,
    mean: roundHalfUp(mean.div(1000), 1),
    median: roundHalfUp(below.add(above).div(2000), 1),
    spread: tenthsText(rootInTenths(squares.div(1_000_000))),
  };
}

import { LEAST_RESULTS } from './classStatistics.ts';
import { fQuantile } from './fDistribution.ts';

/** How the same students changed between two pieces of work, as shares of the points. */
export interface PairedChange {
  readonly number: number;
  /** Mean of the differences, after less before; null where nobody has both. */
  readonly mean: number | null;
  /** The 95 % interval of the mean; null below five pairs. */
  readonly interval: readonly [low: number, high: number] | null;
  /** The mean in standard deviations (of a sample) of the differences; null below five pairs or where all changed alike. */
  readonly effect: number | null;
  readonly rose: number;
  readonly fell: number;
}

/** The two-sided quantile of Student’s t at 95 %: the root of the F quantile with 1 and `degrees` degrees of freedom. */
const tAt95 = (degrees: number): number => Math.sqrt(fQuantile(0.95, 1, degrees));

/**
 * The change of students who have both results: mean difference with its 95 % t interval, effect size d = mean / s with s of a sample (n − 1) of
 * the differences, and how many rose and fell. Shares are numbers from 0; a pair with a value that is not finite throws.
 * Source: Student 1908 for the interval; Cohen 1988 for d of paired differences (often written d_z).
 * Worked example: from 0.5, 0.6, 0.4, 0.7, 0.5 to 0.6, 0.8, 0.5, 0.7, 0.6: mean 0.1, interval 0.012 to 0.188, d = 1.414.
 */
export function pairedChange(pairs: readonly (readonly [before: number, after: number])[]): PairedChange {
  if (pairs.some((pair) => pair.some((v) => !Number.isFinite(v)))) throw new RangeError('A result that is no number cannot be compared.');
  const differences = pairs.map(([before, after]) => after - before);
  const { length: number } = differences;
  const mean = number === 0 ? null : differences.reduce((sum, d) => sum + d, 0) / number;
  const counts = { rose: differences.filter((d) => d > 0).length, fell: differences.filter((d) => d < 0).length };
  if (mean === null || number < LEAST_RESULTS) return { number, mean, interval: null, effect: null, ...counts };
  const spread = Math.sqrt(differences.reduce((sum, d) => sum + (d - mean) ** 2, 0) / (number - 1));
  const half = (tAt95(number - 1) * spread) / Math.sqrt(number);
  // Differences that are alike but for the last digits of the machine have no spread.
  const isFlat = spread < 1e-12;
  return { number, mean, interval: [mean - half, mean + half], effect: isFlat ? null : mean / spread, ...counts };
}

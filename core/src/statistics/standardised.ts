import { LEAST_RESULTS } from './classStatistics.ts';
import { quantile } from './quantile.ts';

/**
 * Each result of a class on one piece of work in standard deviations from its mean: (share − mean) / s with s of a sample (n − 1). Null where there
 * are fewer than five results, or all are alike. A share that is not finite throws.
 * Worked example: 0.4, 0.5, 0.6, 0.7, 0.8 become −1.265, −0.632, 0, 0.632 and 1.265.
 */
export function standardised(shares: readonly number[]): readonly number[] | null {
  if (shares.some((v) => !Number.isFinite(v))) throw new RangeError('A result that is no number cannot be standardised.');
  if (shares.length < LEAST_RESULTS) return null;
  const mean = shares.reduce((sum, v) => sum + v, 0) / shares.length;
  const spread = Math.sqrt(shares.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (shares.length - 1));
  return spread < 1e-12 ? null : shares.map((v) => (v - mean) / spread);
}

const LAST = 3;
/**
 * How far a student’s last three standardised results lie below their own level, which is the median of those before: their mean less that
 * median, negative for a fall. Results in the order of their dates. Null below five results: then there is no level to fall from.
 * Worked example: 0.5, 0.7, 0.6, −0.5, −0.4, −0.6 falls by 1.1: from 0.6 to −0.5.
 */
export function changeFromOwnLevel(results: readonly number[]): number | null {
  if (results.length < LEAST_RESULTS) return null;
  const last = results.slice(-LAST);
  const level = quantile(results.slice(0, -LAST), 0.5);
  return level === null ? null : last.reduce((sum, v) => sum + v, 0) / LAST - level;
}

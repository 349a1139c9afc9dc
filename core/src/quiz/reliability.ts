import { fQuantile } from '../statistics/fDistribution.ts';

export interface Reliability {
  readonly alpha: number;
  /** The 95 % interval of alpha by Feldt; null where it has none (alpha is 1). */
  readonly low: number | null;
  readonly high: number | null;
  /** KR-20, where every question is right or wrong and nothing between; else null. */
  readonly kr20: number | null;
  /** The standard error of measurement, in points. */
  readonly sem: number;
  /** What it was worked out from; variances by n − 1, in points squared. */
  readonly from: {
    readonly people: number;
    /** Those that everybody had and that count. */
    readonly questions: number;
    /** Those left out, since not everybody had them or they were dropped. */
    readonly leftOut: number;
    readonly itemVariances: number;
    readonly totalVariance: number;
    /** F for the lower and the upper end of the interval. */
    readonly fLow: number;
    readonly fHigh: number;
  };
}

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
function variance(values: readonly number[], ddof: 0 | 1): number {
  const m = mean(values);
  return values.reduce((s, x) => s + (x - m) ** 2, 0) / (values.length - ddof);
}

/**
 * How reliable a whole test is: Cronbach's alpha with Feldt's interval, KR-20, and the standard error of measurement.
 *
 * `earned` is people × questions, in points. It is worked out over the questions that all attempts share; one that somebody did not have
 * (null), or that was dropped (0 points in `scale`), is left out of k, the variances and the totals. None (null) with fewer than three
 * people, fewer than two such questions, or totals that do not vary. alpha = k/(k − 1) · (1 − Σ var / var of totals), for which the convention
 * of the variances cancels; KR-20 with population variances throughout; SEM = s·√(1 − alpha) with the sample s. Interval:
 * 1 − (1 − alpha)·F, with F's quantiles at n − 1 and (n − 1)(k − 1) degrees of freedom. `scale` gives the points of each question, to
 * tell right or wrong from what lies between.
 * Sources: L. J. Cronbach, Psychometrika 16 (1951); G. F. Kuder and M. W. Richardson, Psychometrika 2 (1937); L. S. Feldt, Psychometrika
 * 30 (1965). Worked example: the six works and four judges in table 2 of P. E. Shrout and J. L. Fleiss, Psychological Bulletin 86 (1979),
 * whose ICC(3,4) of 0.91 is alpha of the same table; a test holds it.
 */
export function reliability(earned: readonly (readonly (number | null)[])[], scale: readonly number[]): Reliability | null {
  if (earned.some((row) => row.length !== scale.length)) throw new RangeError('Every attempt has a place for every question.');
  const shared = scale.flatMap((points, i) => (points > 0 && earned.every((row) => row[i] !== null) ? [i] : []));
  const [n, k] = [earned.length, shared.length];
  if (n < 3 || k < 2) return null;
  const matrix = earned.map((row) => shared.map((i) => row[i] as number));
  const totals = matrix.map((row) => row.reduce((a, b) => a + b, 0));
  const columns = shared.map((_, i) => matrix.map((row) => row[i] as number));
  const spread = variance(totals, 1);
  if (spread <= 1e-12) return null;
  const itemVariances = columns.reduce((s, column) => s + variance(column, 1), 0);
  const alpha = (k / (k - 1)) * (1 - itemVariances / spread);
  const isRightOrWrong = columns.every((column, i) => column.every((x) => x === 0 || x === scale[shared[i] as number]));
  const pq = columns.reduce((s, column) => s + variance(column, 0), 0);
  const [d1, d2] = [n - 1, (n - 1) * (k - 1)];
  const hasInterval = alpha < 1;
  const [fLow, fHigh] = [fQuantile(0.975, d1, d2), fQuantile(0.025, d1, d2)];
  return {
    alpha,
    low: hasInterval ? 1 - (1 - alpha) * fLow : null,
    high: hasInterval ? 1 - (1 - alpha) * fHigh : null,
    kr20: isRightOrWrong ? (k / (k - 1)) * (1 - pq / variance(totals, 0)) : null,
    sem: Math.sqrt(spread * Math.max(0, 1 - alpha)),
    from: { people: n, questions: k, leftOut: scale.length - k, itemVariances, totalVariance: spread, fLow, fHigh },
  };
}

/**
 * The reliability to be expected of a test `times` as long, of questions like these: Spearman and Brown's formula m·r / (1 + (m − 1)·r).
 * `times` is above 0. Source: C. Spearman and W. Brown, British Journal of Psychology 3 (1910), 271–295 and 296–322.
 * Worked example: twice as long as a test with 0.60: 0.75.
 */
export function expectedReliability(value: number, times: number): number | null {
  if (!(times > 0)) throw new RangeError('A test is so many times as long, which is more than 0.');
  const below = 1 + (times - 1) * value;
  return below <= 0 ? null : (times * value) / below;
}

export interface Limits {
  /** Mean of second minus first. */
  readonly mean: number;
  /** Between these about 95 of 100 differences lie. */
  readonly low: number;
  readonly high: number;
  readonly number: number;
}

/**
 * How far two markers lie apart: the mean of their differences (second − first) and its limits of agreement, mean ± 1.96 standard
 * deviations of the differences (of a sample, n − 1). Fewer than three pairs give null.
 * Source: J. M. Bland and D. G. Altman, Lancet 327 (1986).
 * Worked example: differences 1, 2 and 3: mean 2, limits 0.04 and 3.96.
 */
export function limitsOfAgreement(pairs: readonly (readonly [number, number])[]): Limits | null {
  if (pairs.length < 3) return null;
  const differences = pairs.map(([a, b]) => b - a);
  const mean = differences.reduce((s, d) => s + d, 0) / differences.length;
  const spread = Math.sqrt(differences.reduce((s, d) => s + (d - mean) ** 2, 0) / (differences.length - 1));
  return { mean, low: mean - 1.96 * spread, high: mean + 1.96 * spread, number: pairs.length };
}

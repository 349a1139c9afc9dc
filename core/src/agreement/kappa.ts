/** Two judgements of one work on one criterion, each as the place of its level from 0. */
export type LevelPair = readonly [number, number];

/** What a kappa is made of: the mean squared distance of the pairs in levels, as it is and as chance alone would give. */
export interface KappaParts {
  readonly observed: number;
  readonly expected: number;
}

/**
 * Weighted kappa with quadratic weights: how far two markers agree on levels beyond what chance would give, from 1 (always) over 0
 * (as by chance) to below 0 (less than by chance). With the two distances it is made of.
 *
 * κ = 1 − observed / expected, where observed is the mean over the pairs of (i − j)² and expected the same over every first with every
 * second judgement. `levels` is the number of levels k, at least 2; a place outside 0 … k − 1 throws. Fewer than two pairs, or
 * markers who each gave one and the same level to all (nothing to disagree about by chance), give null.
 * Source: J. Cohen, Weighted kappa, Psychological Bulletin 70 (1968); quadratic weights as in Fleiss and Cohen (1973).
 * Worked example: pairs 0‑0, 1‑1, 2‑2, 2‑1 on three levels: observed 0.25, expected 1.25, κ = 0.8.
 */
export function kappaInParts(pairs: readonly LevelPair[], levels: number): (KappaParts & { readonly kappa: number }) | null {
  if (levels < 2) throw new RangeError('A scale has two levels at least.');
  if (pairs.some((pair) => pair.some((p) => !Number.isInteger(p) || p < 0 || p >= levels)))
    throw new RangeError('A level outside the scale.');
  if (pairs.length < 2) return null;
  const count = (side: 0 | 1): number[] => Array.from({ length: levels }, (_, l) => pairs.filter((pair) => pair[side] === l).length);
  const [first, second] = [count(0), count(1)];
  const observed = pairs.reduce((sum, [a, b]) => sum + (a - b) ** 2, 0) * pairs.length;
  let expected = 0;
  for (let i = 0; i < levels; i += 1)
    for (let j = 0; j < levels; j += 1) expected += (i - j) ** 2 * (first[i] as number) * (second[j] as number);
  const squared = pairs.length ** 2;
  return expected === 0 ? null : { kappa: 1 - observed / expected, observed: observed / squared, expected: expected / squared };
}

/** `kappaInParts` without its parts. Example: pairs 0‑0, 1‑1, 2‑2, 2‑1 on three levels: 0.8. */
export const weightedKappa = (pairs: readonly LevelPair[], levels: number): number | null => kappaInParts(pairs, levels)?.kappa ?? null;

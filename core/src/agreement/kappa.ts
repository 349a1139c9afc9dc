/** Two judgements of one work on one criterion, each as the place of its level from 0. */
export type LevelPair = readonly [number, number];

/**
 * Weighted kappa with quadratic weights: how far two markers agree on levels beyond what chance would give, from 1 (always) over 0
 * (as by chance) to below 0 (less than by chance).
 *
 * κ = 1 − Σ w·observed / Σ w·expected, with w = (i − j)² / (k − 1)², observed the shares of pairs, expected the products of the two
 * markers' own shares. `levels` is the number of levels k, at least 2; a place outside 0 … k − 1 throws. Fewer than two pairs, or
 * markers who each gave one and the same level to all (nothing to disagree about by chance), give null.
 * Source: J. Cohen, Weighted kappa, Psychological Bulletin 70 (1968); quadratic weights as in Fleiss and Cohen (1973).
 * Worked example: pairs 0‑0, 1‑1, 2‑2, 2‑1 on three levels: κ = 0.8.
 */
export function weightedKappa(pairs: readonly LevelPair[], levels: number): number | null {
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
  return expected === 0 ? null : 1 - observed / expected;
}

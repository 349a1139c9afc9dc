/**
 * The quantile of a list at a share from 0 to 1, by linear interpolation between order statistics (type 7 of Hyndman and Fan):
 * position (n − 1) · share. Null for an empty list. The list need not be sorted and is not changed.
 * Worked example: the quartiles of 1, 2, 3, 4 are 1.75, 2.5 and 3.25.
 */
export function quantile(values: readonly number[], share: number): number | null {
  if (share < 0 || share > 1) throw new RangeError(`A share lies between 0 and 1, not at ${share}.`);
  return quantileOfSorted(
    [...values].sort((a, b) => a - b),
    share,
  );
}

/** The same of a list that is sorted already, so that several quantiles of it sort it once. Example: of 1, 2, 3, 4 at 0.25 it is 1.75. */
export function quantileOfSorted(sorted: readonly number[], share: number): number | null {
  if (sorted.length === 0) return null;
  const at = (sorted.length - 1) * share;
  const below = sorted[Math.floor(at)] as number;
  const above = sorted[Math.ceil(at)] as number;
  return below + (above - below) * (at - Math.floor(at));
}

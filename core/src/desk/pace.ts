/**
 * Minutes that marking `count` works will take: the median of one's own recent works of this item where there are at
 * least five, else the item's own estimate. Rounded to five minutes above ten, never zero for something.
 * Worked example: 14 works, estimate 8 min, no pace: 110.
 */
export function markingEstimate(count: number, estimateMinutes: number, ownMinutes: readonly number[]): number {
  if (count === 0) return 0;
  const sorted = [...ownMinutes].sort((a, b) => a - b);
  const middle = Math.floor(sorted.length / 2);
  const median =
    sorted.length < 5
      ? estimateMinutes
      : sorted.length % 2 === 1
        ? (sorted[middle] as number)
        : ((sorted[middle - 1] as number) + (sorted[middle] as number)) / 2;
  const minutes = count * median;
  return minutes <= 10 ? Math.max(1, Math.round(minutes)) : Math.round(minutes / 5) * 5;
}

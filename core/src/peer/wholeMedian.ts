/**
 * The median of whole numbers as a whole number: of an even number of them the mean of the two in between, rounded half up. Of none it is 0.
 * Worked example: 1, 9, 4 give 4; 1, 4 give 3.
 */
export function wholeMedian(values: readonly number[]): number {
  if (values.length === 0) return 0;
  const ordered = [...values].sort((a, b) => a - b);
  const half = Math.floor(ordered.length / 2);
  if (ordered.length % 2 === 1) return ordered[half] ?? 0;
  return Math.floor(((ordered[half - 1] ?? 0) + (ordered[half] ?? 0) + 1) / 2);
}

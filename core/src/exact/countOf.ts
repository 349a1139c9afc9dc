/**
 * A count with its noun, which agrees with it. `plural` is given where it is not the noun with an s.
 * Worked example: `countOf(1, 'point')` is `1 point`, `countOf(2, 'category', 'categories')` is `2 categories`.
 */
export function countOf(many: number | string, noun: string, plural = `${noun}s`): string {
  return `${many} ${String(many) === '1' ? noun : plural}`;
}

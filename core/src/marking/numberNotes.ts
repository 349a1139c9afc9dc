interface Box {
  readonly x: number;
  readonly y: number;
}
/** Where a note lies, as far as its order needs it: words by their offset, areas by page and by their first box in shares of the page. */
type Place =
  | { readonly kind: 'text'; readonly from: number }
  | { readonly kind: 'pdf'; readonly page: number; readonly boxes: readonly Box[] }
  | { readonly kind: 'picture'; readonly boxes: readonly Box[] };

/** What of a place comes first counts most: page, then from top to bottom, then from left to right. */
function placeOf(at: Place): readonly [number, number, number] {
  if (at.kind === 'text') return [0, at.from, 0];
  const [first] = at.boxes;
  return [at.kind === 'pdf' ? at.page : 0, first?.y ?? 0, first?.x ?? 0];
}

/**
 * The notes on an attempt with their numbers, in the order in which they stand for whoever reads: those on the written answer first, by
 * their words; then file after file as they were handed in (`fileIds`), in each by page, from top to bottom, then from left to right. Notes
 * on files that are not named come last; notes at the very same place keep the order they are given in. Numbers begin with 1.
 * Worked example: notes at word offsets 90 and 10 get the numbers 2 and 1, and stand in the order 10, 90.
 */
export function numberNotes<N extends { readonly fileId: string | null; readonly anchor: Place }>(
  notes: readonly N[],
  fileIds: readonly string[],
): (N & { readonly number: number })[] {
  const fileOf = (note: N): number => {
    if (note.fileId === null) return -1;
    const at = fileIds.indexOf(note.fileId);
    return at < 0 ? fileIds.length : at;
  };
  return notes
    .map((note, given) => ({ note, keys: [fileOf(note), ...placeOf(note.anchor), given] }))
    .sort((a, b) => a.keys.map((key, n) => key - (b.keys[n] ?? 0)).find((difference) => difference !== 0) ?? 0)
    .map(({ note }, n) => ({ ...note, number: n + 1 }));
}

/** An answer with what it has been given; null waits. */
export interface MarkedAnswer {
  readonly id: string;
  readonly given: number | null;
  readonly reason: string;
}

/** Answers that say the same and have been given the same. */
export interface MarkedAlike<A extends MarkedAnswer> {
  readonly isFinished: boolean;
  readonly list: readonly A[];
}

/**
 * A group of like answers parted by what each has been given: those that wait together, and those that have the same points and comment. What
 * is finished is then never marked along with what waits, nor one mark written over another unseen.
 *
 * Those that wait come first, then the largest part. Worked example: 33 alike, of which 27 have 3 and 6 have 2.5: two parts, of 27 and 6.
 */
export function splitByMark<A extends MarkedAnswer>(group: readonly A[]): readonly MarkedAlike<A>[] {
  const parts = new Map<string, A[]>();
  for (const answer of group) {
    const key = answer.given === null ? 'waits' : JSON.stringify([answer.given, answer.reason]);
    parts.set(key, [...(parts.get(key) ?? []), answer]);
  }
  return [...parts]
    .map(([key, list]) => ({ isFinished: key !== 'waits', list }))
    .sort((a, b) => Number(a.isFinished) - Number(b.isFinished) || b.list.length - a.list.length);
}

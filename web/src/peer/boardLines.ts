import type { BoardLine, BoardReview, BoardWork, PeerBoard } from '@rosemary/api';

/** A student on the board, with the work, what others saw in it, and what they gave. */
export interface ShownLine {
  readonly line: BoardLine;
  readonly work: BoardWork | null;
  /** Of this student’s work. */
  readonly received: readonly BoardReview[];
  readonly gives: readonly BoardReview[];
}

/** The lines of a board, each with its reviews. */
export function boardLines(board: PeerBoard): readonly ShownLine[] {
  const works = new Map(board.works.map((w) => [w.id, w]));
  const [of, by] = [new Map<string, BoardReview[]>(), new Map<string, BoardReview[]>()];
  const put = (map: Map<string, BoardReview[]>, key: string, review: BoardReview): void => {
    const held = map.get(key);
    if (held === undefined) map.set(key, [review]);
    else held.push(review);
  };
  for (const review of board.reviews) {
    put(of, review.workId, review);
    if (review.role === 'peer' && review.reviewerId !== null) put(by, review.reviewerId, review);
  }
  return board.lines.map((line) => ({
    line,
    work: works.get(line.workId ?? '') ?? null,
    received: of.get(line.workId ?? '') ?? [],
    gives: by.get(line.enrolmentId) ?? [],
  }));
}

const has =
  (sign: BoardReview['signs'][number]['sign']) =>
  (r: BoardReview): boolean =>
    r.signs.some((s) => s.sign === sign);
const isGiven = (r: BoardReview): boolean => r.state === 'given' || r.state === 'set aside';

/** Which lines are wanted, in words, and what makes one of them so. */
export const WANTED = {
  all: { words: 'everybody', test: () => true },
  missing: { words: 'nothing handed in', test: ({ line }: ShownLine) => line.workId === null },
  none: { words: 'no review given', test: ({ gives }: ShownLine) => gives.length > 0 && !gives.some(isGiven) },
  some: { words: 'reviews still to give', test: ({ gives }: ShownLine) => gives.some((r) => !isGiven(r)) },
  few: { words: 'too few reviews', test: ({ work }: ShownLine) => work !== null && work.isOpenBecause !== null },
  far: {
    words: 'a review far from the rest',
    test: ({ received }: ShownLine) => received.some((r) => r.state === 'given' && has('far from the rest')(r)),
  },
  look: {
    words: 'words or haste worth a look',
    test: ({ gives }: ShownLine) =>
      gives.some((r) => r.state === 'given' && (has('no words')(r) || has('copied words')(r) || has('quick')(r))),
  },
  reported: {
    words: 'a reported review',
    test: ({ received }: ShownLine) => received.some((r) => r.reportedWhy !== '' && r.state !== 'set aside'),
  },
  aside: { words: 'a review set aside', test: ({ received }: ShownLine) => received.some((r) => r.state === 'set aside') },
} as const satisfies { readonly [key: string]: { readonly words: string; readonly test: (line: ShownLine) => boolean } };
export type Wanted = keyof typeof WANTED;

/** What can be deleted in a course and put back. */
export const BIN_KINDS = ['unit', 'item', 'announcement', 'objective', 'groups', 'file', 'folder'] as const;
export type BinKind = (typeof BIN_KINDS)[number];

/** Something deleted, as its owner knows it. */
export interface Removed {
  readonly kind: BinKind;
  readonly id: string;
  readonly title: string;
  /** What comes back with it, in words; empty where it is all there is. */
  readonly holds: string;
  readonly removedAt: string;
}
export interface BinEntry extends Removed {
  /** Who deleted it; empty where that is not known any more. */
  readonly by: string;
}

/** One act in a course: who did what to what, and when. */
export interface HistoryAct {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  /** What was done, in words: `item added`. */
  readonly what: string;
  /** The thing it was done to, by its title; null where it has none. */
  readonly title: string | null;
}
export interface CourseHistory {
  readonly acts: readonly HistoryAct[];
  /** The rest, for the next page; null where this is the last. */
  readonly before: string | null;
}
export interface Bin {
  readonly entries: readonly BinEntry[];
  readonly days: number;
}

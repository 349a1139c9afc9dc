import type { Thousandths } from '../exact/points.ts';
import type { DoneRule } from './doneRules.ts';
import type { Visiting } from './doing.ts';

/** What a kind looks at of its own items before a course is opened. */
export interface LookedAt {
  readonly title: string;
  /** Nothing is written in it and no picture stands in it. */
  readonly isEmpty: boolean;
  /** Due for everybody, a section, a group or a student. */
  readonly hasDue: boolean;
  /** Whether text, a file or anything else can be handed in. */
  readonly takesWork: boolean;
  readonly doneRule: DoneRule;
  /** Students review each other’s works of it. */
  readonly isReviewed: boolean;
}

export interface KindFault {
  readonly weight: 'mend' | 'look';
  readonly text: string;
  readonly place: 'text' | 'setting' | 'dueAt' | 'doneRule';
}

/** What an item begins with when its teacher has chosen nothing yet. */
interface Beginning {
  readonly possible: Thousandths;
  /** Minutes it asks of a student, and of its marker for one work. */
  readonly estimatedMinutes: number;
  readonly markingMinutes: number;
  readonly releaseMode: 'finished' | 'hand';
  readonly counts: boolean;
}

/**
 * A kind of item: its word, what can be done with it, what makes it done, what it begins with, and what it is told of before
 * the course is opened. Every kind is one line of `KINDS_OF_ITEM`; nothing else in core asks for a kind by its name.
 */
export interface KindOfItem {
  /** In the middle of a sentence: “a class activity”. */
  readonly word: string;
  /** What of it other students can review: works that are handed in, what each wrote in a discussion, the essays of an attempt, or nothing. */
  readonly reviewed: 'works' | 'posts' | 'essays' | 'nothing';
  /** Handed in, marked or talked about; what is not is only read. */
  readonly isWork: boolean;
  /** What waits for a marker: works, the answers of attempts, or nothing. */
  readonly marking: 'work' | 'attempts' | 'none';
  /** Its points are set on the item; otherwise they are the sum of what it is made of. */
  readonly hasOwnPoints: boolean;
  /** Takes place in class, so that it asks for no time beside it. */
  readonly isInClass: boolean;
  /** Is done where it stands, so that the minutes it is open are those it takes. */
  readonly isOnScreen: boolean;
  /** Has a text or a note of its own, before which something can be said to one class. */
  readonly hasText: boolean;
  /** Something to read, which may stand outside the units. */
  readonly canStand: boolean;
  /** Stands in the gradebook: as it is, where it counts, or never. */
  readonly column: 'always' | 'where it counts' | 'never';
  /** The rules of being done that it can have; the first is the one it begins with. */
  readonly doneRules: readonly [DoneRule, ...DoneRule[]];
  /** What somebody does there who types; who does not reads. */
  readonly typing: Visiting;
  /** What it is called once it was handed in, and what makes it so: “done when …”. */
  readonly handedInState: string;
  readonly handedInRule: string;
  readonly begins: Beginning;
  readonly faults: (item: LookedAt) => readonly KindFault[];
}

/** The rules of something that is read. */
const READ_RULES = ['opened', 'ticked', 'never'] as const satisfies readonly DoneRule[];
/** The rules of something that is handed in. */
export const WORK_RULES = ['handed in', 'opened', 'ticked', 'marked', 'score', 'never'] as const satisfies readonly DoneRule[];
export const HANDED_IN = { handedInState: 'handed in', handedInRule: 'handed in' } as const;
/** What there is to read, look at or follow: done when opened, and never in the gradebook. */
export const MATERIAL = {
  reviewed: 'nothing',
  isWork: false,
  marking: 'none',
  hasOwnPoints: true,
  isInClass: false,
  isOnScreen: false,
  hasText: true,
  canStand: true,
  column: 'never',
  doneRules: READ_RULES,
  typing: 'reading',
  ...HANDED_IN,
} as const satisfies Omit<KindOfItem, 'word' | 'begins' | 'faults'>;
/** What material begins with, when it takes so many minutes. */
export const materialOf = (estimatedMinutes: number): Beginning => ({
  possible: 0,
  estimatedMinutes,
  markingMinutes: 0,
  releaseMode: 'hand',
  counts: true,
});
export const NO_FAULTS = (): readonly KindFault[] => [];

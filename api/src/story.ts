import type { CellState, DayOfActivity, ItemKind } from '@rosemary/core';
import type { ProgressDetail } from './progress.ts';
import type { WordFinding, WordNote } from './words.ts';

/** One piece of work of a student, with its state and, where it may be seen, how the class did. */
export interface StoryWork {
  readonly columnId: string;
  readonly itemId: string | null;
  readonly kind: ItemKind | null;
  readonly title: string;
  readonly dueAt: string | null;
  readonly handedInAt: string | null;
  readonly state: CellState;
  /** The result as it is read, or the state in words. */
  readonly text: string;
  readonly share: number | null;
  readonly feedback: string;
  /** Lower quartile, median and upper quartile of the class, of five results at least. */
  readonly class: readonly [low: number, median: number, high: number] | null;
}

/** The whole story of one student in one course. */
export interface StudentStory {
  readonly enrolmentId: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly section: string;
  readonly soFar: string | null;
  readonly floor: string | null;
  readonly reach: string | null;
  readonly works: readonly StoryWork[];
  /** Null where the course shows its students nothing of their progress. */
  readonly progress: ProgressDetail | null;
  readonly startsOn: string;
  readonly days: number;
  readonly active: readonly DayOfActivity[];
  readonly arrangements: readonly string[];
  readonly messages: readonly { readonly id: string; readonly title: string; readonly at: string; readonly many: number }[];
  /** For staff only; null on a student’s own page. */
  readonly staff: {
    readonly userName: string;
    readonly notes: readonly WordNote[];
    readonly findings: readonly WordFinding[];
    /** The other courses in which the one who looks teaches this student. */
    readonly courses: readonly {
      readonly courseId: string;
      readonly enrolmentId: string;
      readonly title: string;
      readonly term: string;
      readonly soFar: string | null;
    }[];
  } | null;
}

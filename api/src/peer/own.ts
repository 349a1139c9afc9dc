import type { DocumentNode, ReviewDoor, ReviewRole, ReviewState, SamplesWhen, WorkingLine } from '@rosemary/core';
import type { OwnLeave, ShownWork } from './after.ts';
import type { ReceivedReview } from './review.ts';

/** One line of what a student is to review. */
export interface OwedLine {
  readonly id: string;
  readonly role: ReviewRole;
  /** “First work”; or whose it is, where names are seen. */
  readonly title: string;
  readonly state: ReviewState;
  readonly door: ReviewDoor;
}

/** A peer review as a student sees it: when, what to give, what came. */
export interface OwnPeer {
  readonly prompt: DocumentNode;
  readonly worksDueAt: string | null;
  readonly reviewsOpenAt: string | null;
  readonly reviewsDueAt: string | null;
  readonly resultsAt: string | null;
  readonly owes: number;
  readonly owed: readonly OwedLine[];
  readonly samples: readonly OwedLine[];
  readonly samplesWhen: SamplesWhen;
  /** Why there is nothing to review; null where there is. */
  readonly waits: string | null;
  readonly showsAuthors: boolean;
  readonly showsReviewers: boolean;
  /** Null until results are out. */
  readonly received: readonly ReceivedReview[] | null;
  readonly work: WorkingLine | null;
  readonly reviewing: WorkingLine | null;
  /** What they allow with their own work; null while there is none. */
  readonly leave: OwnLeave | null;
  readonly shown: readonly ShownWork[];
  readonly closing: DocumentNode | null;
  /** Until when the work can be revised after its reviews; null where it cannot. */
  readonly revisionDueAt: string | null;
}

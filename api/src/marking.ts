import type { Counting, DocumentNode, StackState, WorkingLine } from '@rosemary/core';
import { document, id, Joi, points, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';
import type { Judged, RubricView } from './assignment.ts';
import type { CourseFile } from './files.ts';
import type { NoteView } from './notes.ts';
import type { RevisionView, WorkWord } from './revision.ts';
import type { Adjustments } from './adjustments.ts';
import type { AttemptView, DatesView } from './student.ts';

export interface MarkChange {
  readonly version: number;
  readonly choices: { readonly [criterionId: string]: string };
  readonly score: number | null;
  readonly scoreReason: string;
  readonly feedback: DocumentNode | null;
  readonly adjustments?: Adjustments;
  /** Points within a range, in thousandths, or how many errors, by criterion. */
  readonly given?: { readonly [criterionId: string]: number };
  readonly comments?: { readonly [criterionId: string]: string };
}

export const markChange = Joi.object<MarkChange, true>({
  version: version(),
  choices: Joi.object().pattern(id(), id()).max(LIMITS.criteria).required(),
  score: points().allow(null).required().label('Score'),
  scoreReason: Joi.string().allow('').max(LIMITS.reason).required().label('Reason'),
  feedback: document().allow(null).required().label('Feedback'),
  given: Joi.object().pattern(id(), whole(0, 10_000_000)).max(LIMITS.criteria).label('What was typed at a criterion'),
  comments: Joi.object().pattern(id(), Joi.string().allow('').max(LIMITS.noteBody)).max(LIMITS.criteria).label('Words on a criterion'),
  adjustments: Joi.object().pattern(
    id(),
    Joi.object({
      points: whole(-10_000_000, 10_000_000).required().label('Adjustment'),
      reason: Joi.string().trim().allow('').max(LIMITS.reason).required().label('Reason'),
    }),
  ),
});

export interface Finish {
  readonly version: number;
  readonly isAboveConfirmed: boolean;
}

export const finish = Joi.object<Finish, true>({ version: version(), isAboveConfirmed: Joi.boolean().required() });

export interface FinishUndo {
  readonly version: number;
}
export const finishUndo = Joi.object<FinishUndo, true>({ version: version() });

export interface Release {
  readonly enrolmentIds: string[] | null;
}

export const release = Joi.object<Release, true>({ enrolmentIds: Joi.array().max(5000).items(id()).allow(null).required() });

export interface MarkingList {
  readonly items: readonly {
    readonly id: string;
    readonly isQuiz: boolean;
    readonly title: string;
    readonly unit: string;
    readonly dueAt: string | null;
    readonly handedIn: number;
    readonly students: number;
    readonly waits: number;
    readonly finished: number;
    readonly released: number;
    readonly oldest: string | null;
    readonly estimate: string | null;
    readonly pace: string;
  }[];
}

export interface StackEntry {
  readonly enrolmentId: string;
  readonly personId: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly section: string;
  readonly sectionId: string | null;
  readonly state: StackState;
  readonly handedInAt: string | null;
  readonly lateText: string | null;
  readonly scoreText: string | null;
  readonly words: number;
  readonly attempt: number;
  readonly files: number;
  readonly marker: string | null;
  /** To whom it is shared out to be marked. */
  readonly sharedTo: readonly string[];
  readonly notes: number;
  /** The group whose work it is, with its members; empty where it is one student's. */
  readonly group: string;
  readonly members: readonly string[];
  /** The name is hidden from those who mark; the identifier is then the work's, not the student's. */
  readonly isVeiled: boolean;
  /** Whole percent of its words that stand elsewhere, where that was looked at. */
  readonly matchPercent: number | null;
  /** Something was said about it that this marker has not read. */
  readonly hasNewWords: boolean;
  /** What its student called it: its first heading. Empty where there is none, or while names are hidden. */
  readonly title: string;
  /** The first file handed in. */
  readonly original: { readonly name: string; readonly url: string } | null;
}

export interface Stack {
  readonly item: {
    readonly id: string;
    readonly title: string;
    readonly possible: number;
    readonly dueAt: string | null;
    readonly releaseMode: string;
    readonly markers: 1 | 2;
    /** Names of some of them are hidden. */
    readonly isVeiled: boolean;
  };
  readonly entries: readonly StackEntry[];
  readonly waits: number;
  readonly estimate: string | null;
  readonly pace: string;
  readonly releasable: number;
}

export interface MarkView {
  readonly version: number;
  readonly choices: { readonly [criterionId: string]: string };
  readonly score: number | null;
  readonly scoreReason: string;
  readonly feedback: DocumentNode | null;
  readonly state: 'draft' | 'finished' | 'released';
  readonly savedAt: string | null;
  readonly marker: string | null;
  readonly total: number | null;
  readonly fromRubric: number | null;
  readonly isComplete: boolean;
  readonly adjustments: Adjustments;
  readonly given: { readonly [criterionId: string]: number };
  readonly comments: { readonly [criterionId: string]: string };
  /** What the student reads: this mark, or the version before it while this one is taken up again. */
  readonly studentReads: 'nothing' | 'this' | 'an earlier version';
}

/** A group whose work is marked as one. */
export interface MarkedGroup {
  readonly title: string;
  readonly members: readonly { readonly enrolmentId: string; readonly name: string }[];
}

export interface Work {
  readonly entry: StackEntry;
  readonly attempts: readonly AttemptView[];
  readonly notes: readonly NoteView[];
  readonly mark: MarkView;
  readonly rubric: RubricView | null;
  readonly possible: number;
  readonly working: WorkingLine;
  readonly instructions: DocumentNode | null;
  readonly dates: DatesView;
  readonly revision: RevisionView | null;
  readonly words: readonly WorkWord[];
  /** What the student has begun and not handed in; null once something is. */
  readonly draft: {
    readonly document: DocumentNode | null;
    readonly files: readonly CourseFile[];
    readonly link: string;
    readonly savedAt: string | null;
  } | null;
  readonly judged: Judged;
  /** Which of several attempts counts. */
  readonly counted: Counting;
  readonly group: MarkedGroup | null;
  readonly part: MarkingPart;
  /** Files and voice that go with the overall feedback. */
  readonly feedbackFiles: readonly CourseFile[];
}

/** What the reader does with this work; where two mark, what each of them gave is seen once both stand by it. */
export interface MarkingPart {
  readonly kind: 'marks' | 'agrees' | 'looks';
  readonly isOneOfTwo: boolean;
  readonly marks: readonly { readonly marker: string; readonly state: 'draft' | 'finished'; readonly mark: MarkView | null }[];
}

/** Who would see what if finished marks were released now. */
export interface ReleasePreview {
  readonly students: readonly {
    readonly name: string;
    readonly section: string;
    readonly score: string;
    readonly notes: number;
    readonly hasRubric: boolean;
    readonly hasFeedback: boolean;
  }[];
  /** Marks taken up again, which stay until they are finished once more. */
  readonly held: readonly string[];
  readonly showsNames: boolean;
}

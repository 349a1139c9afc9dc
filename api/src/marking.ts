import type { DocumentNode, StackState, WorkingLine } from '@rosemary/core';
import { document, id, Joi, points, version } from './joi.ts';
import { LIMITS } from './limits.ts';
import type { Judged, RubricView } from './assignment.ts';
import type { CourseFile } from './files.ts';
import type { NoteView } from './notes.ts';
import type { RevisionView, WorkWord } from './revision.ts';
import type { AttemptView, DatesView } from './student.ts';

export interface MarkChange {
  readonly version: number;
  readonly choices: { readonly [criterionId: string]: string };
  readonly score: number | null;
  readonly scoreReason: string;
  readonly feedback: DocumentNode | null;
}

export const markChange = Joi.object<MarkChange, true>({
  version: version(),
  choices: Joi.object().pattern(id(), id()).max(LIMITS.criteria).required(),
  score: points().allow(null).required().label('Score'),
  scoreReason: Joi.string().allow('').max(LIMITS.reason).required().label('Reason'),
  feedback: document().allow(null).required().label('Feedback'),
});

export interface Finish {
  readonly version: number;
  readonly isAboveConfirmed: boolean;
}

export const finish = Joi.object<Finish, true>({ version: version(), isAboveConfirmed: Joi.boolean().required() });

export interface Release {
  readonly enrolmentIds: string[] | null;
}

export const release = Joi.object<Release, true>({ enrolmentIds: Joi.array().max(5000).items(id()).allow(null).required() });

export interface MarkingList {
  readonly items: readonly {
    readonly id: string;
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
  readonly notes: number;
  /** Something was said about it that this marker has not read. */
  readonly hasNewWords: boolean;
}

export interface Stack {
  readonly item: {
    readonly id: string;
    readonly title: string;
    readonly possible: number;
    readonly dueAt: string | null;
    readonly releaseMode: string;
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
}

import type { DocumentNode, StackState, WorkingLine } from '@rosemary/core';
import { document, id, Joi, points, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';
import type { RubricView } from './assignment.ts';
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

/** A place in a work: a range of the written answer, or words on a page of a PDF with their boxes as shares of the page. */
export type Anchor =
  | { readonly kind: 'text'; readonly from: number; readonly to: number }
  | {
      readonly kind: 'pdf';
      readonly page: number;
      readonly boxes: { readonly x: number; readonly y: number; readonly w: number; readonly h: number }[];
    };

const share = (): Joi.NumberSchema => Joi.number().min(0).max(1).required();

export const anchor = Joi.alternatives<Anchor>(
  Joi.object({
    kind: Joi.string().valid('text').required(),
    from: whole(0, 1_000_000).required(),
    to: whole(1, 1_000_000).greater(Joi.ref('from')).required(),
  }),
  Joi.object({
    kind: Joi.string().valid('pdf').required(),
    page: whole(1, 5000).required(),
    boxes: Joi.array()
      .min(1)
      .max(120)
      .required()
      .items(Joi.object({ x: share(), y: share(), w: share(), h: share() })),
  }),
);

export interface NewNote {
  readonly id: string;
  readonly attemptId: string;
  readonly fileId: string | null;
  readonly anchor: Anchor;
  readonly quote: string;
  readonly body: string;
}

export const newNote = Joi.object<NewNote, true>({
  id: id().required(),
  attemptId: id().required(),
  fileId: id().allow(null).required(),
  anchor: anchor.required(),
  quote: Joi.string().max(2000).required(),
  body: Joi.string().trim().min(1).max(LIMITS.noteBody).required().label('Note'),
});

export interface NoteChange {
  readonly body: string;
  readonly version: number;
}

export const noteChange = Joi.object<NoteChange, true>({
  body: Joi.string().trim().min(1).max(LIMITS.noteBody).required().label('Note'),
  version: version(),
});

export interface Release {
  readonly enrolmentIds: string[] | null;
}

export const release = Joi.object<Release, true>({ enrolmentIds: Joi.array().max(5000).items(id()).allow(null).required() });

export interface NoteView {
  readonly id: string;
  readonly attemptId: string;
  readonly fileId: string | null;
  readonly anchor: Anchor;
  readonly quote: string;
  readonly body: string;
  readonly author: string;
  readonly version: number;
}

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
  readonly acceptsText: boolean;
}

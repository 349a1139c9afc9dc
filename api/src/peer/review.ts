import type { DocumentNode, ReviewDoor, ReviewRole, ReviewState } from '@rosemary/core';
import type { RubricView } from '../assignment.ts';
import type { CourseFile } from '../files.ts';
import { Joi, id, version, whole } from '../joi.ts';
import { LIMITS } from '../limits.ts';
import { type Anchor, anchor } from '../notes.ts';

/** What a reviewer chose and wrote. */
export interface ReviewContent {
  readonly choices: { readonly [criterionId: string]: string };
  /** Points within a range, in thousandths, or how many were counted. */
  readonly given: { readonly [criterionId: string]: number };
  readonly comments: { readonly [criterionId: string]: string };
  readonly words: string;
}

export interface ReviewChange extends ReviewContent {
  readonly version: number;
  /** How long it was worked on since it was last saved. */
  readonly seconds: number;
}

export const reviewContentShape = {
  choices: Joi.object().pattern(id(), id()).max(LIMITS.criteria).required(),
  given: Joi.object().pattern(id(), whole(0, 10_000_000)).max(LIMITS.criteria).required().label('What was typed at a criterion'),
  comments: Joi.object()
    .pattern(id(), Joi.string().allow('').max(LIMITS.noteBody))
    .max(LIMITS.criteria)
    .required()
    .label('Words on a criterion'),
  words: Joi.string().allow('').max(20_000).required().label('Words'),
};

export const reviewChange = Joi.object<ReviewChange, true>({
  version: version(),
  ...reviewContentShape,
  seconds: whole(0, 3600).required(),
});

export interface ReviewHandIn {
  readonly version: number;
}

export const reviewHandIn = Joi.object<ReviewHandIn, true>({ version: version() });

/** A work as a reviewer reads it. */
export interface ReadWorkView {
  /** Null where it is no attempt, but posts or answers of a quiz. */
  readonly attemptId: string | null;
  readonly document: DocumentNode | null;
  readonly wordCount: number;
  readonly link: string;
  readonly files: readonly CourseFile[];
}

export interface ReviewNote {
  readonly id: string;
  readonly attemptId: string | null;
  readonly fileId: string | null;
  readonly anchor: Anchor;
  readonly quote: string;
  readonly body: string;
  readonly version: number;
}

/** A note is written, changed and taken off by the same address; an empty one is taken off. */
export interface ReviewNoteChange {
  readonly fileId: string | null;
  readonly anchor: Anchor;
  readonly quote: string;
  readonly body: string;
  readonly version: number;
}

export const reviewNoteChange = Joi.object<ReviewNoteChange, true>({
  fileId: id().allow(null).required(),
  anchor: anchor.required(),
  quote: Joi.string().allow('').max(2000).required(),
  body: Joi.string().trim().allow('').max(LIMITS.noteBody).required().label('Note'),
  version: version(),
});

/** A review that somebody got, once results are out. */
export interface ReceivedReview extends ReviewContent {
  readonly id: string;
  readonly by: string;
  readonly isOwn: boolean;
  readonly isTeacher: boolean;
  readonly form: RubricView;
  readonly total: number | null;
  readonly notes: readonly ReviewNote[];
  /** What its author took up: notes and criteria by identifier. */
  readonly answered: readonly string[];
  readonly answer: string;
  readonly isThanked: boolean;
  readonly reportedWhy: string;
  readonly answerVersion: number;
}

export interface ReviewAnswer {
  readonly version: number;
  readonly answer: string;
  readonly isThanked: boolean;
  readonly reportedWhy: string;
}

export const reviewAnswer = Joi.object<ReviewAnswer, true>({
  version: version(),
  answer: Joi.string().allow('').max(4000).required().label('Answer'),
  isThanked: Joi.boolean().required(),
  reportedWhy: Joi.string().trim().allow('').max(2000).required().label('Why it is reported'),
});

/** One review as the student who gives it sees it. */
export interface OwnReview extends ReviewContent {
  readonly id: string;
  readonly itemTitle: string;
  readonly title: string;
  readonly role: ReviewRole;
  readonly state: ReviewState;
  readonly door: ReviewDoor;
  readonly dueAt: string | null;
  readonly prompt: DocumentNode;
  readonly form: RubricView;
  readonly leastWords: number;
  readonly work: ReadWorkView;
  readonly notes: readonly ReviewNote[];
  readonly savedAt: string | null;
  readonly handedInAt: string | null;
  readonly version: number;
}

/** Which point of a review its author took up: a note, or the words on a criterion. */
export interface PointAnswer {
  readonly point: { readonly noteId: string } | { readonly criterionId: string };
  readonly isAnswered: boolean;
}

export const pointAnswer = Joi.object<PointAnswer, true>({
  point: Joi.alternatives(Joi.object({ noteId: id().required() }), Joi.object({ criterionId: id().required() })).required(),
  isAnswered: Joi.boolean().required(),
});

/** What came of saving a review. */
export interface ReviewSaved {
  readonly version: number;
  readonly savedAt: string;
}

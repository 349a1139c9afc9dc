import type { DocumentNode, ReviewDoor } from '@rosemary/core';
import type { RubricView } from '../assignment.ts';
import { Joi, document, id, version } from '../joi.ts';
import { type ReviewContent, reviewContentShape } from './review.ts';

/** A sample work with the teacher’s own assessment, for those who teach. */
export interface PeerSample extends ReviewContent {
  readonly id: string;
  readonly itemTitle: string;
  readonly title: string;
  readonly document: DocumentNode;
  /** “Written here”, or from where it was taken. */
  readonly origin: string;
  readonly form: RubricView;
  readonly unjudged: readonly string[];
  readonly practised: number;
  readonly version: number;
}

export interface SampleChange extends ReviewContent {
  readonly version: number;
  readonly title: string;
  readonly document: DocumentNode;
}

export const sampleChange = Joi.object<SampleChange, true>({
  version: version(),
  title: Joi.string().trim().min(1).max(200).required().label('Title'),
  document: document().required().label('The work'),
  ...reviewContentShape,
});

/** Nothing is taken: a sample work is written here. */
export interface NewSample {
  readonly from: {
    readonly submissionId: string;
    /** Where its authors said nothing here: the teacher says that they gave leave elsewhere. */
    readonly saysLeave: boolean;
  } | null;
}

export const newSample = Joi.object<NewSample, true>({
  from: Joi.object({ submissionId: id().required(), saysLeave: Joi.boolean().required() }).allow(null).required(),
});

export interface SampleRemoval {
  readonly isRemoved: boolean;
}

export const sampleRemoval = Joi.object<SampleRemoval, true>({ isRemoved: Joi.boolean().required() });

/** A work of another course that could be a sample. */
export interface SampleSource {
  readonly submissionId: string;
  readonly course: string;
  readonly itemTitle: string;
  readonly author: string;
  /** Points that were given out, in thousandths. */
  readonly result: number | null;
  readonly possible: number;
  readonly wordCount: number;
  readonly files: number;
  readonly hasLeave: boolean;
}

/** A sample work as a student practises on it. */
export interface OwnSample extends ReviewContent {
  readonly id: string;
  readonly itemTitle: string;
  readonly title: string;
  readonly door: ReviewDoor;
  readonly prompt: DocumentNode;
  readonly form: RubricView;
  readonly document: DocumentNode;
  readonly wordCount: number;
  readonly savedAt: string | null;
  readonly handedInAt: string | null;
  readonly version: number;
  /** The teacher’s own; null until the student’s is whole and compared. */
  readonly teacher: ReviewContent | null;
}

import type { DocumentNode } from '@rosemary/core';
import { document, id, Joi } from './joi.ts';
import { markChange, type MarkChange } from './marking.ts';

/** A short answer as it is marked together with those that are alike. */
export interface AnswerEntry {
  readonly id: string;
  readonly name: string;
  readonly text: string;
  readonly state: string;
  readonly scoreText: string | null;
}
export interface AnswerList {
  readonly answers: readonly AnswerEntry[];
  /** Works whose text is too long to be held against others at a glance. */
  readonly longer: number;
}

/** One judgement for several works; none of them that is finished already is touched unless it is said so. */
export interface MarkTogether extends Pick<MarkChange, 'choices' | 'given' | 'comments' | 'score' | 'scoreReason'> {
  readonly workIds: string[];
  readonly feedback: DocumentNode | null;
  readonly finishes: boolean;
  readonly overFinished: boolean;
}
export const markTogether = Joi.object<MarkTogether, true>({
  workIds: Joi.array().min(1).max(500).unique().items(id()).required().label('Works'),
  choices: markChange.extract('choices') as Joi.ObjectSchema,
  given: markChange.extract('given') as Joi.ObjectSchema,
  comments: markChange.extract('comments') as Joi.ObjectSchema,
  score: markChange.extract('score') as Joi.NumberSchema,
  scoreReason: markChange.extract('scoreReason') as Joi.StringSchema,
  feedback: document().allow(null).required(),
  finishes: Joi.boolean().required(),
  overFinished: Joi.boolean().required(),
});

export interface MarkedTogether {
  readonly rows: readonly {
    readonly id: string;
    readonly name: string;
    readonly outcome: 'finished' | 'kept' | 'left';
    readonly reason: string;
  }[];
}

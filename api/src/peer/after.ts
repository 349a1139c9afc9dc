import { type DocumentNode, SHOWN_HOW, type ShownHow } from '@rosemary/core';
import { Joi, document, version } from '../joi.ts';
import type { ReadWorkView } from './review.ts';
import { word } from './word.ts';

/** What an author lets be done with a work. */
export interface OwnLeave {
  readonly version: number;
  readonly toClass: ShownHow;
  readonly toLater: boolean;
}

export const ownLeave = Joi.object<OwnLeave, true>({
  version: version(),
  toClass: word(SHOWN_HOW, 'Who may read your work'),
  toLater: Joi.boolean().required(),
});

/** A work that is shown to the class. */
export interface ShownWork {
  readonly workId: string;
  /** Whose it is, or “A work of your class”. */
  readonly by: string;
  readonly isOwn: boolean;
  readonly words: string;
}

/** A shown work as a student reads it. */
export interface ShownWorkView extends ShownWork {
  readonly itemTitle: string;
  readonly work: ReadWorkView;
}

export interface ShowingWork {
  readonly isShown: boolean;
  readonly isNamed: boolean;
  /** Where its authors said nothing here: the teacher says that they gave leave elsewhere. */
  readonly saysLeave: boolean;
  readonly words: string;
}

export const showingWork = Joi.object<ShowingWork, true>({
  isShown: Joi.boolean().required(),
  isNamed: Joi.boolean().required(),
  saysLeave: Joi.boolean().required(),
  words: Joi.string().trim().allow('').max(4000).required().label('Words on it'),
});

/** The teacher’s closing word to everybody. */
export interface ClosingWord {
  readonly version: number;
  readonly document: DocumentNode | null;
}

export const closingWord = Joi.object<ClosingWord, true>({
  version: version(),
  document: document().allow(null).required().label('Closing word'),
});

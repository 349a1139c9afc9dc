import { id, Joi } from './joi.ts';
import type { NoteView } from './notes.ts';

/** A marker asks for the work once more. */
export interface RevisionAsk {
  readonly words: string;
  readonly dueAt: string;
}
export const revisionAsk = Joi.object<RevisionAsk, true>({
  words: Joi.string().trim().min(1).max(4000).required().label('What to revise'),
  dueAt: Joi.string().isoDate().required().label('New date'),
});

export interface RevisionView {
  readonly id: string;
  readonly words: string;
  readonly dueAt: string;
  readonly askedAt: string;
  readonly askedBy: string;
  /** A new attempt came since. */
  readonly isAnswered: boolean;
}

/** What the student sees of it: with the notes that go out with it. */
export interface OwnRevision extends RevisionView {
  readonly notes: readonly NoteView[];
}

export interface NoteAnswer {
  readonly isAnswered: boolean;
}
export const noteAnswer = Joi.object<NoteAnswer, true>({ isAnswered: Joi.boolean().required() });

/** One thing said about a work; the id makes a retry say it once. */
export interface NewWorkWord {
  readonly id: string;
  readonly body: string;
}
export const newWorkWord = Joi.object<NewWorkWord, true>({
  id: id().required(),
  body: Joi.string().trim().min(1).max(8000).required().label('Message'),
});

export interface WorkWord {
  readonly id: string;
  readonly author: string;
  readonly isStaff: boolean;
  readonly isOwn: boolean;
  readonly isNew: boolean;
  readonly body: string;
  readonly at: string;
}

/** Handed in by staff for a student whose work came by other means. */
export interface HandInFor {
  readonly key: string;
  readonly note: string;
  readonly handedInAt: string;
  /** What the student has in draft goes in with it. */
  readonly takesDraft: boolean;
}
export const handInFor = Joi.object<HandInFor, true>({
  key: Joi.string().min(8).max(80).required(),
  note: Joi.string().trim().min(1).max(2000).required().label('How it came'),
  handedInAt: Joi.string().isoDate().required().label('When it came'),
  takesDraft: Joi.boolean().required(),
});

import type { Thousandths } from '../../exact/points.ts';
import type { PastedKind } from './pastedQuestion.ts';
import type { Rich } from './rich.ts';

/** A question while its lines are gathered. */
export interface Draft {
  readonly at: number;
  readonly number: number | null;
  /** What the title above it says that it is. */
  kind: PastedKind | null;
  /** What its own line says that it is. */
  ownKind: PastedKind | null;
  head: Rich[];
  options: DraftOption[];
  /** Numbered things in it. */
  things: { readonly number: number; readonly style: string; words: Rich }[];
  answers: string[];
  truth: boolean | null;
  points: Thousandths | null;
  feedback: { right: string[]; wrong: string[]; general: string[] };
  doubts: string[];
}
export interface DraftOption {
  words: Rich;
  isRight: boolean;
  readonly letter: string | null;
  /** The line it stood in, with its letter. */
  readonly line?: Rich;
  readonly isStar: boolean;
}
export const newDraft = (at: number, number: number | null, kind: PastedKind | null): Draft => ({
  ...{ at, number, kind, ownKind: null, head: [], options: [], things: [], answers: [], truth: null, points: null },
  ...{ feedback: { right: [], wrong: [], general: [] }, doubts: [] },
});
/** Whether it has answers of any sort: what follows without a number is then the next. */
export const isAnswered = (draft: Draft): boolean => draft.options.length >= 2 || draft.answers.length > 0 || draft.truth !== null;

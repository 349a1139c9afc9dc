import type { Thousandths } from '../../exact/points.ts';
import type { Tolerance } from '../question.ts';

/**
 * A question recognised in a list that was typed or pasted, to be looked at before it is made. Its words, and those of its answers, may hold
 * `<b>` and `<i>`: the styles of the text it was copied from.
 */
export interface PastedQuestion {
  /** The line it begins on, counted from 1. */
  readonly line: number;
  readonly words: string;
  readonly points: Thousandths | null;
  readonly key: PastedKey;
  readonly feedback: PastedFeedback;
  /** What is still missing, in words; empty where it could be asked as it is. */
  readonly faults: readonly string[];
  /** What was understood in one way and could be meant in another. */
  readonly doubts: readonly string[];
}
export interface PastedChoice {
  readonly words: string;
  readonly isRight: boolean;
}
export interface PastedPair {
  readonly left: string;
  readonly right: string;
}
export type PastedKey =
  | { readonly kind: 'single' | 'several' | 'truth'; readonly choices: readonly PastedChoice[] }
  | { readonly kind: 'numeric'; readonly value: string; readonly tolerance: Tolerance; readonly unit: string | null }
  | { readonly kind: 'short'; readonly accepted: readonly string[] }
  | { readonly kind: 'blanks'; readonly parts: readonly (string | { readonly answer: string })[] }
  | { readonly kind: 'matching'; readonly pairs: readonly PastedPair[] }
  | { readonly kind: 'essay' };
export type PastedKind = PastedKey['kind'];
/** The kinds that a list can hold, in the order in which they are offered. */
export const PASTED_KINDS: readonly PastedKind[] = ['single', 'several', 'truth', 'short', 'numeric', 'blanks', 'matching', 'essay'];

export interface PastedFeedback {
  readonly right: string;
  readonly wrong: string;
  readonly general: string;
}
export const NO_FEEDBACK: PastedFeedback = { right: '', wrong: '', general: '' };

/** A list as it was understood: its questions, and the lines that belong to none, such as titles of parts. */
export interface PastedList {
  readonly questions: readonly PastedQuestion[];
  readonly leftOut: readonly { readonly line: number; readonly words: string }[];
}

export const NOT_MARKED = 'No answer is marked as right. Put a * before or after it, or “Answer: B” below.';

/**
 * What a key still lacks, in words that name the mend; empty where it could be asked as it is.
 * Worked example: two answers to choose from and none marked: “No answer is marked as right. …”.
 */
export function pastedFaults(key: PastedKey, words: string): readonly string[] {
  const faults: string[] = words.trim() === '' && key.kind !== 'blanks' ? ['Nothing is asked here. Type the question.'] : [];
  switch (key.kind) {
    case 'single':
    case 'several':
    case 'truth': {
      const right = key.choices.filter((c) => c.isRight).length;
      if (right === 0) faults.push(NOT_MARKED);
      if (key.choices.length < 2) faults.push('There is one answer to choose from. Give another.');
      if (right > 1 && key.kind !== 'several')
        faults.push('More than one answer is marked as right. Choose one, or make it several choices.');
      break;
    }
    case 'numeric':
      if (key.value.trim() === '') faults.push('The number that is right is missing. Put “Answer:” and the number below.');
      break;
    case 'short':
      if (key.accepted.length === 0) faults.push('No answer is accepted yet. Put “Answer:” and the words below.');
      break;
    case 'blanks':
      if (key.parts.some((part) => typeof part !== 'string' && part.answer.trim() === ''))
        faults.push('A blank has no answer yet. Put “Answer:” and its words below.');
      break;
    case 'matching':
      if (key.pairs.length < 2) faults.push('One pair can only be matched in one way. Give another.');
      if (key.pairs.some((pair) => pair.left.trim() === '' || pair.right.trim() === ''))
        faults.push('A pair has only one side. Give the other.');
      break;
    default:
  }
  return faults;
}

import type { Ratio } from '../../exact/ratio.ts';
import { ZERO } from '../../exact/ratio.ts';
import type { Answer, AskedQuestion, Choice, QuestionContent, QuestionKey } from '../question.ts';
import type { DocumentNode } from '../../document/plainText.ts';
import type { KeyCells, KeyRead, Reading } from './tableCells.ts';

/** The share of a question's points that an answer earned, and the rule that gave it in words; null waits for a person. */
export interface QuestionScore {
  readonly share: Ratio | null;
  readonly rule: string;
}
export const given = (value: Ratio, rule: string): QuestionScore => ({ share: value, rule });
export const NOTHING = given(ZERO, 'Nothing was answered.');

/** What a new key can be begun from. */
export interface Beginning {
  readonly newId: () => string;
  /** The answers to choose from that the question had under another kind. */
  readonly held: readonly Choice[] | null;
  readonly from: QuestionKey | null;
}
/** How one attempt asks: its seed, and its numbers put into what is said. */
export interface Asking {
  readonly questionId: string;
  readonly seed: string;
  readonly isShuffled: boolean;
  readonly said: (node: DocumentNode) => DocumentNode;
}

/**
 * A kind of question: how its key begins, what of it a student sees, what is wrong in it, how it is read, scored, guessed, and written in a
 * table. Its word and its usual minutes stand in `drawInWords.ts` and `blueprint.ts`, which every page may load.
 */
export interface KindOfQuestion<K extends QuestionKey> {
  /** How it is answered: an answer of another kind is none to it. */
  readonly takes: Answer['kind'];
  readonly begin: (beginning: Beginning) => K;
  readonly asked: (key: K, asking: Asking, content: QuestionContent) => Partial<AskedQuestion>;
  readonly faults: (key: K, content: QuestionContent) => readonly string[];
  /** What is right, in lines to be read; `wanted` follows from one student's numbers. */
  readonly inWords: (key: K, wanted: Ratio | undefined) => readonly string[];
  /** What an answer earns before floor and cap; null is no answer to a question of this kind. A person marks where the share is null. */
  readonly score: (key: K, answer: Answer, wanted: Ratio | undefined) => QuestionScore | null;
  /** What guessing earns on average, no less than `least`; null where it has no chance that could be told. */
  readonly guessing: (key: K, least: Ratio | null) => Ratio | null;
  /** Answers that lie near what the key accepts. */
  readonly near: (key: K) => readonly string[];
  readonly cells: (key: K, content: QuestionContent) => KeyCells;
  readonly read: (reading: Reading) => KeyRead;
}

export const asksNothingMore = (): Partial<AskedQuestion> => ({});
export const cannotBeGuessed = (): null => null;
export const nothingNear = (): readonly string[] => [];

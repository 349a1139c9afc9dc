import { withFilesAt, type DocumentNode } from '../document/plainText.ts';
import { roundHalfUp, type Ratio } from '../exact/ratio.ts';
import { drawValues, shownDecimals } from './calculated.ts';
import { kindOfQuestion } from './kinds/kinds.ts';
import type { AskedQuestion, QuestionContent, QuestionKey } from './question.ts';

/** The values of a calculated question as they are read, by the name of their parameter. */
export function valueTexts(key: QuestionKey, values: ReadonlyMap<string, Ratio>): ReadonlyMap<string, string> {
  if (key.kind !== 'calculated') return new Map();
  return new Map(key.question.parameters.map((p) => [p.name, roundHalfUp(values.get(p.name) as Ratio, shownDecimals(p))]));
}

/**
 * A document with the numbers of this student in the places kept for them, in bold; a place whose name is not known shows the name.
 * Worked example: “a wheel of {teeth} teeth” with teeth 80 reads “a wheel of **80** teeth”.
 */
export function withValues(node: DocumentNode, values: ReadonlyMap<string, string>): DocumentNode {
  if (node.type === 'value') {
    const name = String(node.attrs?.name ?? '');
    const text = values.get(name);
    return text === undefined ? { type: 'text', text: name } : { type: 'text', text, marks: [{ type: 'bold' }] };
  }
  return node.content === undefined ? node : { ...node, content: node.content.map((child) => withValues(child, values)) };
}

const BARE = {
  choices: [],
  hasDontKnow: false,
  blanks: [],
  lefts: [],
  rights: [],
  things: [],
  units: [],
  isUnitNeeded: false,
  decimals: null,
  picture: null,
} as const;

/**
 * A question as one attempt gets it, made from the attempt's seed: the same each time, its numbers drawn, its answers in their order, and
 * nothing of the key. `isShuffled` mixes answers to choose; those of true or false stay, pairs and things to order are mixed always.
 * Where a calculated question has no values (its conditions never hold) it throws: `keyFaults` says so before a quiz opens.
 * Worked example: three answers A, B, C with some seed: C, A, B; nowhere does it say that B is right.
 */
export function askQuestion(content: QuestionContent, questionId: string, seed: string, isShuffled: boolean): AskedQuestion {
  const { key } = content;
  const values = valuesOf(key, questionId, seed);
  const said = (node: DocumentNode): DocumentNode => (values.size === 0 ? node : withValues(node, values));
  const base = { ...BARE, kind: key.kind, words: said(content.words) };
  return { ...base, ...kindOfQuestion(key.kind).asked(key, { questionId, seed, isShuffled, said }, content) };
}

/** The numbers of one student at one question, as they are read; none where it has none. */
export function valuesOf(key: QuestionKey, questionId: string, seed: string): ReadonlyMap<string, string> {
  if (key.kind !== 'calculated') return new Map();
  const drawn = drawValues(key.question, `${seed} values ${questionId}`);
  if (!drawn.ok) throw new RangeError(drawn.reason);
  return valueTexts(key, drawn.drawn.values);
}

/** The answer that follows from one student's numbers; undefined where the question is not calculated. */
export function wantedOf(key: QuestionKey, questionId: string, seed: string): Ratio | undefined {
  if (key.kind !== 'calculated') return undefined;
  const drawn = drawValues(key.question, `${seed} values ${questionId}`);
  return drawn.ok ? drawn.drawn.answer : undefined;
}

/**
 * A question whose files are fetched elsewhere: in its words, its answers, what is said afterwards, and its picture. `at` gives the address of
 * a file. Worked example: a question of another course, its picture fetched through the bank of this one.
 */
export function questionFilesAt<T extends QuestionContent>(content: T, at: (fileId: string) => string): T {
  const said = (node: DocumentNode | null): DocumentNode | null => (node === null ? null : withFilesAt(node, at));
  const { key, feedback, picture } = content;
  return {
    ...content,
    words: withFilesAt(content.words, at),
    key:
      'choices' in key
        ? { ...key, choices: key.choices.map((c) => ({ ...c, words: withFilesAt(c.words, at), feedback: said(c.feedback) })) }
        : key,
    feedback: { right: said(feedback.right), wrong: said(feedback.wrong), general: said(feedback.general) },
    picture: picture === null ? null : { ...picture, src: at(picture.fileId) },
  };
}

import { withFilesAt, type DocumentNode } from '../document/plainText.ts';
import { roundHalfUp, type Ratio } from '../exact/ratio.ts';
import { answerOrder } from './assemble.ts';
import { drawValues, shownDecimals } from './calculated.ts';
import type { QuestionKey, QuestionKind } from './question.ts';

/** The picture of a hotspot, a file of the course. */
export interface QuestionPicture {
  readonly fileId: string;
  readonly src: string;
  readonly alt: string;
}
/** What is said once the answer is in: to whoever was wholly right, to everybody else, and to all. */
export interface QuestionFeedback {
  readonly right: DocumentNode | null;
  readonly wrong: DocumentNode | null;
  readonly general: DocumentNode | null;
}
/** One version of a question: what is asked, with its key. */
export interface QuestionContent {
  readonly words: DocumentNode;
  readonly key: QuestionKey;
  readonly feedback: QuestionFeedback;
  readonly picture: QuestionPicture | null;
}

/** A question as its student gets it: nothing in it tells of the key. */
export interface AskedQuestion {
  readonly kind: QuestionKind;
  readonly words: DocumentNode;
  /** The answers to choose from, in this student's order. */
  readonly choices: readonly { readonly id: string; readonly words: DocumentNode }[];
  readonly hasDontKnow: boolean;
  readonly blanks: readonly string[];
  readonly lefts: readonly string[];
  readonly rights: readonly string[];
  /** The things to be put in order. */
  readonly things: readonly string[];
  readonly units: readonly string[];
  readonly isUnitNeeded: boolean;
  readonly decimals: number | null;
  readonly picture: QuestionPicture | null;
}

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
} as const;

/** Shuffled always, for the order they were typed in is the key. */
const mixed = (things: readonly string[], seed: string, questionId: string): readonly string[] =>
  answerOrder([...new Set(things)], new Set(), seed, questionId);

/**
 * A question as one attempt gets it, made from the attempt's seed: the same each time, its numbers drawn, its answers in their order, and
 * nothing of the key. `isShuffled` mixes answers to choose; those of true or false stay, pairs and things to order are mixed always.
 * Where a calculated question has no values (its conditions never hold) it throws: `keyFaults` says so before a quiz opens.
 * Worked example: three answers A, B, C with some seed: C, A, B; nowhere does it say that B is right.
 */
export function askQuestion(content: QuestionContent, questionId: string, seed: string, isShuffled: boolean): AskedQuestion {
  const { key, picture } = content;
  const values = valuesOf(key, questionId, seed);
  const said = (node: DocumentNode): DocumentNode => (values.size === 0 ? node : withValues(node, values));
  const base = { ...BARE, kind: key.kind, words: said(content.words), picture: key.kind === 'hotspot' ? picture : null };
  switch (key.kind) {
    case 'single':
    case 'several':
    case 'truth': {
      const ids = key.choices.map((c) => c.id);
      const order = isShuffled && key.kind !== 'truth' ? answerOrder(ids, new Set(), seed, questionId) : ids;
      const choices = order.flatMap((id) => key.choices.filter((c) => c.id === id).map((c) => ({ id, words: said(c.words) })));
      return { ...base, choices, hasDontKnow: key.hasDontKnow };
    }
    case 'numeric':
    case 'calculated':
      return {
        ...base,
        units: key.rules.units.map((u) => u.name),
        isUnitNeeded: key.rules.isUnitNeeded,
        decimals: key.rules.decimals,
      };
    case 'blanks':
      return { ...base, blanks: key.blanks.map((b) => b.id) };
    case 'matching':
      return {
        ...base,
        lefts: key.pairs.flatMap((p) => (p.left === '' ? [] : [p.left])),
        rights: mixed(
          key.pairs.map((p) => p.right),
          seed,
          questionId,
        ),
      };
    case 'ordering':
      return { ...base, things: mixed(key.order, seed, questionId) };
    default:
      return base;
  }
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

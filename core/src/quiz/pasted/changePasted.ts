import type { Thousandths } from '../../exact/points.ts';
import { pastedFaults, type PastedChoice, type PastedKey, type PastedKind, type PastedQuestion } from './pastedQuestion.ts';
import { readRich, runsOf } from './rich.ts';
import { keyOfAnswer } from './toQuestion.ts';

/** Somebody has looked at it: nothing is doubted any more, and what is missing is found anew. */
const looked = (question: PastedQuestion, key: PastedKey, words = question.words): PastedQuestion => ({
  ...question,
  words,
  key,
  faults: pastedFaults(key, words),
  doubts: [],
});

/** What the key says in words that another kind can begin with. */
function answersOf(key: PastedKey): readonly string[] {
  switch (key.kind) {
    case 'single':
    case 'several':
    case 'truth':
      return key.choices.filter((c) => c.isRight).map((c) => c.words);
    case 'numeric':
      return key.value === '' ? [] : [key.unit === null ? key.value : `${key.value} ${key.unit}`];
    case 'short':
      return key.accepted;
    case 'blanks':
      return key.parts.flatMap((part) => (typeof part === 'string' || part.answer === '' ? [] : [part.answer]));
    default:
      return [];
  }
}
const choicesOf = (key: PastedKey): readonly PastedChoice[] =>
  'choices' in key && key.kind !== 'truth'
    ? key.choices
    : key.kind === 'matching'
      ? key.pairs.map((pair) => ({ words: pair.left, isRight: false }))
      : answersOf(key).map((words) => ({ words, isRight: true }));

function keyAs(kind: PastedKind, key: PastedKey, words: string): PastedKey {
  const answers = answersOf(key);
  switch (kind) {
    case 'single': {
      const first = choicesOf(key).findIndex((c) => c.isRight);
      return { kind, choices: choicesOf(key).map((c, n) => ({ ...c, isRight: n === first })) };
    }
    case 'several':
      return { kind, choices: choicesOf(key) };
    case 'truth': {
      const isTrue = /^(?:t|true|yes)$/i.test(answers[0] ?? '');
      const isFalse = /^(?:f|false|no)$/i.test(answers[0] ?? '');
      return {
        kind,
        choices: [
          { words: 'True', isRight: isTrue },
          { words: 'False', isRight: isFalse },
        ],
      };
    }
    case 'short':
      return { kind, accepted: [...answers] };
    case 'numeric': {
      const read = keyOfAnswer(answers[0] ?? '');
      return read.kind === 'numeric' ? read : { kind, value: '', tolerance: { kind: 'absolute', amount: '0' }, unit: null };
    }
    case 'blanks': {
      if (key.kind === 'blanks') return key;
      // A blank behind the words, where none stands in them.
      const pieces = words.split(/_{2,200}/);
      const gaps = pieces.length > 1 ? pieces : [`${words} `, ''];
      return {
        kind,
        parts: gaps
          .flatMap((piece, n): (string | { answer: string })[] => (n === gaps.length - 1 ? [piece] : [piece, { answer: answers[n] ?? '' }]))
          .filter((part) => part !== ''),
      };
    }
    case 'matching':
      return { kind, pairs: key.kind === 'matching' ? key.pairs : choicesOf(key).map((c) => ({ left: c.words, right: '' })) };
    default:
      return { kind: 'essay' };
  }
}

/**
 * The same question as another kind, with all of its key that the kind can use.
 * Worked example: a single choice made a short answer accepts the words that were right.
 */
export const asKind = (question: PastedQuestion, kind: PastedKind): PastedQuestion =>
  looked(question, keyAs(kind, question.key, question.words));

/** Turns one answer right or wrong; of a single choice and of a statement exactly that one is right. Example: of A*, B: B turned gives A, B*. */
export function turnRight(question: PastedQuestion, at: number): PastedQuestion {
  const { key } = question;
  if (!('choices' in key)) return question;
  const choices = key.choices.map((c, n) =>
    key.kind === 'several' ? (n === at ? { ...c, isRight: !c.isRight } : c) : { ...c, isRight: n === at },
  );
  return looked(question, { ...key, choices });
}

/** Another answer in words: of a number with its tolerance, of a text each accepted one parted by `;`, of a blank by its place. Example: `28800 ± 5 %`. */
export function withAnswer(question: PastedQuestion, text: string, at = 0): PastedQuestion {
  const { key } = question;
  if (key.kind === 'blanks') {
    let blank = -1;
    const parts = key.parts.map((part) => (typeof part === 'string' || (blank += 1) !== at ? part : { answer: text }));
    return looked(question, { kind: 'blanks', parts });
  }
  if (key.kind === 'short') {
    const accepted = text
      .split(';')
      .map((one) => one.trim())
      .filter((one) => one !== '');
    return looked(question, { kind: 'short', accepted });
  }
  if (key.kind === 'numeric') {
    const read = keyOfAnswer(text.trim());
    return looked(question, read.kind === 'numeric' ? read : { ...key, value: '' });
  }
  return question;
}
/** Other points; null is what a question has without being told. Example: 2000 is 2 points. */
export const withPoints = (question: PastedQuestion, points: Thousandths | null): PastedQuestion => ({ ...question, points });

/** The words of a line in runs of one style, to be shown. Example: `a <b>b</b>` is `a ` plain and `b` bold. */
export const pastedRuns = (line: string): ReturnType<typeof runsOf> => runsOf(readRich(line));

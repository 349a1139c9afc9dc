import type { DocumentNode } from '../document/plainText.ts';
import { choice } from './kinds/choices.ts';
import { kindOfQuestion } from './kinds/kinds.ts';
import { PLAIN_NUMBER } from './kinds/numbers.ts';
import { plainText } from './kinds/texts.ts';
import type { QuestionFeedback, QuestionKey, QuestionKind } from './question.ts';
import type { PastedQuestion } from './pasted/pastedQuestion.ts';
import { readRich, runsOf } from './pasted/rich.ts';

const ALL = 100_000;
const MARK_OF = { b: 'bold', i: 'italic' } as const;
/** One line of words with the styles it was copied with. */
const inLine = (text: string): DocumentNode[] =>
  runsOf(readRich(text)).map((run) => ({
    type: 'text',
    text: run.text,
    ...(run.styles.length === 0 ? {} : { marks: run.styles.map((style) => ({ type: MARK_OF[style] })) }),
  }));
const styled = (text: string): DocumentNode => ({
  type: 'doc',
  content: text.split('\n').map((part) => (part === '' ? { type: 'paragraph' } : { type: 'paragraph', content: inLine(part) })),
});
const feedbackOf = (words: string): DocumentNode | null => (words.trim() === '' ? null : styled(words));
/**
 * The key a new question of a kind begins with; `newId` gives identifiers that are not used elsewhere. What a question of another kind had
 * and this one can use is kept: answers to choose from, and accepted texts.
 * Worked example: from a single choice to several choices: the same answers, the same one right.
 */
export function newKey(kind: QuestionKind, newId: () => string, from: QuestionKey | null = null): QuestionKey {
  return kindOfQuestion(kind).begin({ newId, held: from !== null && 'choices' in from ? from.choices : null, from });
}

/** Weights in thousandths of a percent for so many blanks, alike and adding to 100 %; the last takes what is left over. Example: 3: 33333, 33333, 33334. */
export function alikeWeights(many: number): readonly number[] {
  const each = Math.floor(ALL / Math.max(1, many));
  return Array.from({ length: many }, (_, n) => (n === many - 1 ? ALL - each * (many - 1) : each));
}

function blanksOf(
  parts: readonly (string | { readonly answer: string })[],
  newId: () => string,
): { words: DocumentNode; key: QuestionKey } {
  const weights = alikeWeights(parts.filter((p) => typeof p !== 'string').length);
  const blanks: Extract<QuestionKey, { kind: 'blanks' }>['blanks'][number][] = [];
  const content = parts.flatMap((part): DocumentNode[] => {
    if (typeof part === 'string') return inLine(part.replace(/\n/g, ' '));
    const id = newId();
    blanks.push({ id, weight: weights[blanks.length] ?? 0, rules: plainText(part.answer) });
    return [{ type: 'blank', attrs: { id, size: 0 } }];
  });
  return { words: { type: 'doc', content: [{ type: 'paragraph', content }] }, key: { kind: 'blanks', blanks } };
}

/** A question that was recognised in a list, ready to be made. Example: two answers with one marked: a single choice with its key. */
export function fromPasted(
  pasted: PastedQuestion,
  newId: () => string,
): { readonly words: DocumentNode; readonly key: QuestionKey; readonly feedback?: QuestionFeedback } {
  const { right, wrong, general } = pasted.feedback;
  const isSaid = [right, wrong, general].some((words) => words.trim() !== '');
  const feedback = { right: feedbackOf(right), wrong: feedbackOf(wrong), general: feedbackOf(general) };
  return { ...asked(pasted, newId), ...(isSaid ? { feedback } : {}) };
}
function asked(pasted: PastedQuestion, newId: () => string): { readonly words: DocumentNode; readonly key: QuestionKey } {
  const { key } = pasted;
  const words = styled(pasted.words);
  switch (key.kind) {
    case 'single':
    case 'several':
    case 'truth': {
      const choices = key.choices.map((c) => ({ ...choice(newId(), '', c.isRight), words: styled(c.words) }));
      return key.kind === 'several'
        ? { words, key: { kind: 'several', choices: choices, rule: 'less wrong', hasDontKnow: false } }
        : { words, key: { kind: key.kind, choices, hasDontKnow: false } };
    }
    case 'numeric':
      return {
        words,
        key: {
          kind: 'numeric',
          rules: {
            ...PLAIN_NUMBER,
            units: key.unit === null ? [] : [{ name: key.unit, factor: '1' }],
            accepted: [{ value: key.value, tolerance: key.tolerance, share: ALL }],
          },
        },
      };
    case 'short':
      return { words, key: { kind: 'short', rules: plainText(...key.accepted) } };
    case 'blanks':
      return blanksOf(key.parts, newId);
    case 'matching':
      return { words, key: { kind: 'matching', pairs: key.pairs } };
    default:
      return { words, key: { kind: 'essay' } };
  }
}

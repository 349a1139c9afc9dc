import type { Answer, KeyOf, QuestionKey, QuestionKind } from '../question.ts';
import { single } from './single/single.ts';
import { truth } from './truth/truth.ts';
import { several } from './several/several.ts';
import { numeric } from './numeric/numeric.ts';
import { calculated } from './calculated/calculated.ts';
import { short } from './short/short.ts';
import { blanks } from './blanks/blanks.ts';
import { matching } from './matching/matching.ts';
import { ordering } from './ordering/ordering.ts';
import { hotspot } from './hotspot/hotspot.ts';
import { essay } from './essay/essay.ts';
import { file } from './file/file.ts';
import type { KindOfQuestion } from './kindOfQuestion.ts';

/** Every kind of question. A new one is a folder and a line here; the compiler names the other tables. */
const KINDS: { readonly [K in QuestionKind]: KindOfQuestion<KeyOf<K>> } = {
  single,
  truth,
  several,
  numeric,
  calculated,
  short,
  blanks,
  matching,
  ordering,
  hotspot,
  essay,
  file,
};

/**
 * Whether an answer is of the kind that a question takes. Nobody has to say which: a page sends what its question asks for.
 *
 * @param kind - of the question
 * @param answer - as it came; nothing at all fits every question
 * @returns true where it can be an answer to it; “I do not know” fits what is chosen from a list
 * @example fitsQuestion('truth', { kind: 'choice', id: 'a' }) // true
 * @example fitsQuestion('truth', { kind: 'work' }) // false
 */
export function fitsQuestion(kind: QuestionKind, answer: { readonly kind: Answer['kind'] } | null): boolean {
  if (answer === null) return true;
  const { takes } = KINDS[kind];
  return answer.kind === takes || (answer.kind === 'dontKnow' && (takes === 'choice' || takes === 'choices'));
}

/** A kind by its name. It is only ever given keys of its own kind: the name is that of the key. */
export const kindOfQuestion = (kind: QuestionKind): KindOfQuestion<QuestionKey> => KINDS[kind] as unknown as KindOfQuestion<QuestionKey>;

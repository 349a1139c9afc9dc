import type { Ratio } from '../exact/ratio.ts';
import { kindOfQuestion } from './kinds/kinds.ts';
import type { QuestionKey } from './question.ts';

/**
 * What is right, in lines to be read, for whoever may know. `wanted` is the answer that follows from one student's numbers.
 * Worked example: a number 28800 within 1 %: `28800 ± 1 %`; pairs one a line: `lever – locks the train`.
 */
export function keyInWords(key: QuestionKey, wanted: Ratio | undefined): readonly string[] {
  return kindOfQuestion(key.kind).inWords(key, wanted);
}

import { nodesOfType, plainText } from '../document/plainText.ts';
import { kindOfQuestion } from './kinds/kinds.ts';
import type { QuestionContent } from './question.ts';

/** The number of the rules below. Raise it when one of them changes: what was found by older rules and kept is then found again. */
export const KEY_RULES = 1;

/**
 * What keeps a question from being asked as it is, in words that name the value and the mend; empty where nothing does.
 * Worked example: blanks weighted 50 and 49 %: “The weights of the blanks add up to 99 %, and must to 100 %.”
 */
export function keyFaults(content: QuestionContent): readonly string[] {
  const hasWords =
    plainText(content.words).trim() !== '' ||
    nodesOfType(content.words, 'picture').length > 0 ||
    nodesOfType(content.words, 'blank').length > 0;
  return [
    ...new Set([
      ...(hasWords ? [] : ['Nothing is asked yet. Type the question.']),
      ...kindOfQuestion(content.key.kind).faults(content.key, content),
    ]),
  ];
}

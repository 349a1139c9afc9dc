import { kindOfQuestion } from './kinds/kinds.ts';
import type { QuestionKey } from './question.ts';

/**
 * Answers that lie near what a key accepts, to see what it takes of them: each once, at most forty.
 * Worked example: for `lever`: `lver`, `levver`, `lveer`, `levers`, `the lever`, `not lever`, …
 */
export function nearMisses(key: QuestionKey): readonly string[] {
  return [...new Set(kindOfQuestion(key.kind).near(key))].slice(0, 40);
}

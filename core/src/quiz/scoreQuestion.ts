import { ONE, ratio, ZERO, type Ratio } from '../exact/ratio.ts';
import { given, NOTHING, type QuestionScore } from './kinds/kindOfQuestion.ts';
import { kindOfQuestion } from './kinds/kinds.ts';
import type { Answer, ScoredQuestion } from './question.ts';

export type { QuestionScore } from './kinds/kindOfQuestion.ts';

const sum = (parts: readonly Ratio[]): Ratio => parts.reduce((total, part) => total.add(part), ZERO);

function scoreAnswer({ key, wanted }: ScoredQuestion, answer: Answer): QuestionScore {
  if (answer.kind === 'work') return { share: null, rule: 'Waits for somebody to mark it.' };
  const nothing =
    answer.kind === 'dontKnow'
      ? '“I do not know” is worth nothing and takes nothing away.'
      : 'This is no answer to a question of this kind.';
  return kindOfQuestion(key.kind).score(key, answer, wanted) ?? given(ZERO, nothing);
}

/**
 * What an answer earns: an exact share of the question's points, with the rule that gave it. Never more than all of them; below nothing
 * only as far as the question's floor allows. Essays, files and whatever was given as work (on paper) wait for a person (`share` null);
 * nothing given is 0 in every kind, and so is an answer of another kind than the question.
 *
 * Rules (domain, Quiz): several choices: (right picks − wrong picks) / right answers; matching: share of right pairs; ordering:
 * 1 − Kendall distance / maximum; numeric: |x − a| ≤ tolerance after conversion of units.
 * Worked example: three right answers, two of them picked and one wrong one: (2 − 1) / 3.
 */
export function scoreQuestion(question: ScoredQuestion, answer: Answer | null): QuestionScore {
  const { points, floor } = question;
  if (answer === null) return NOTHING;
  const score = scoreAnswer(question, answer);
  const earned = score.share ?? ZERO;
  if (earned.compare(ONE) > 0) return { ...score, share: ONE };
  const least = floor === null || points === 0 ? null : ratio(floor, points);
  return least !== null && earned.compare(least) < 0
    ? given(least, `${score.rule} ${floor === 0 ? 'It takes nothing away.' : 'It takes no more away.'}`)
    : score;
}

/**
 * The score of an attempt in thousandths of a point: the exact sum of its questions, rounded half up once, here; null while any of them
 * waits. A sum below nothing is nothing.
 * Worked example: a third of 1 point and two thirds of 2: 1.667 points.
 */
export function attemptScore(parts: readonly { readonly points: number; readonly share: Ratio | null }[]): number | null {
  if (parts.some((p) => p.share === null)) return null;
  const total = sum(parts.map((p) => (p.share ?? ZERO).mul(ratio(p.points))));
  if (total.compare(ZERO) < 0) return 0;
  return Number((2n * total.n + total.d) / (2n * total.d));
}

/**
 * What somebody who guesses at random can expect of a question, as an exact share of its points; null where guessing has no chance that
 * could be told. Each answer counts as it would be scored: never below the question's floor, so wrong answers that cost something do
 * not cancel right ones where nothing is deducted. Pairs are guessed among the right sides that differ, those that only distract
 * included.
 * Worked example: four answers, one right, the others −50 %, floor 0: (1 + 0 + 0 + 0) / 4 = 1/4.
 */
export function expectedByGuessing(question: Pick<ScoredQuestion, 'key' | 'points' | 'floor'>): Ratio | null {
  const { key, points, floor } = question;
  const least = floor === null || points === 0 ? null : ratio(floor, points);
  return kindOfQuestion(key.kind).guessing(key, least);
}

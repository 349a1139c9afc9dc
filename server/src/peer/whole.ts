import { unjudgedCriteria, wordCount, type RubricCriterion } from '@rosemary/core';
import { AppError, invalid } from '../platform/errors.ts';
import type { ReviewRow } from './reviewRows.ts';

/** Why a review cannot be written now, to whoever writes it. */
export const WHY = {
  'hand in first': 'Hand in your own work first; then you can review.',
  'not yet': 'Reviews are not open yet. What you wrote stays in this browser.',
  past: 'The reviews were due, so this one stays as it was.',
  'samples first': 'Assess the sample works first.',
  'own work first': 'Assess your own work first.',
  'others first': 'Review the works of the others first.',
} as const;

/** Every criterion that gives points is judged, and words are as long as asked for; else the refusal names what is missing. */
export function requireWhole(
  criteria: readonly RubricCriterion[],
  review: Pick<ReviewRow, 'choices' | 'given' | 'comments' | 'words'>,
  leastWords: number,
): void {
  const open = unjudgedCriteria(criteria, review);
  if (open.length > 0)
    throw new AppError(
      'invalid',
      `Not judged yet: ${open.map((c) => `“${c.title}”`).join(', ')}. Choose a level for each.`,
      open.map((c) => ({ field: `choices.${c.id}`, text: 'Choose a level.' })),
    );
  const counts = criteria.map((c) => ({ c, words: wordCount(review.comments[c.id] ?? '') })).filter(({ c }) => c.form === 'comment');
  const short = counts.find(({ words }) => words < leastWords);
  if (short !== undefined)
    throw invalid(`comments.${short.c.id}`, `“${short.c.title}” has ${short.words} words; at least ${leastWords} are asked for.`);
  if (counts.length === 0 && wordCount(review.words) < leastWords)
    throw invalid('words', `Your words are ${wordCount(review.words)}; at least ${leastWords} are asked for.`);
}

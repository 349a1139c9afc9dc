import type { ReviewContent } from '@rosemary/api';
import { formatPoints, rubricScore, type RubricCriterion } from '@rosemary/core';

/** What two windows made of the same work, by its points and its words. */
export const versionsOf = (criteria: readonly RubricCriterion[], theirs: ReviewContent, mine: ReviewContent) => {
  const points = (content: ReviewContent): string => formatPoints(rubricScore(criteria, content.choices, content.given).score);
  return [
    { what: 'Points', theirs: points(theirs), mine: points(mine) },
    { what: 'Words', theirs: theirs.words, mine: mine.words },
  ];
};

import type { Thousandths } from '../exact/points.ts';
import { criterionPoints, givesPoints, type RubricCriterion, type RubricLevel } from '../grading/rubric.ts';

/** What one review gives: points by criterion, only of those that were judged. */
export interface ReviewScores {
  readonly id: string;
  readonly reviewerId: string;
  readonly workId: string;
  readonly points: { readonly [criterionId: string]: Thousandths };
}

/** The most a criterion gives, in thousandths. */
export const mostOf = (criterion: { readonly levels: readonly Pick<RubricLevel, 'points'>[] }): Thousandths =>
  criterion.levels.reduce((most, l) => Math.max(most, l.points), 0);

/** The criteria of a form that give points: what results are made of. */
export const scoredCriteria = <T extends RubricCriterion>(criteria: readonly T[]): readonly T[] =>
  criteria.filter((c) => givesPoints(c) && mostOf(c) > 0);

/**
 * The points of a review by criterion, from what was chosen and counted; criteria that are judged in words, or not at all yet, are left out.
 * Example: a level of 8 points of the first of two criteria: `{ first: 8000 }`.
 */
export function pointsByCriterion(
  criteria: readonly RubricCriterion[],
  choices: { readonly [criterionId: string]: string },
  given: { readonly [criterionId: string]: number },
): { readonly [criterionId: string]: Thousandths } {
  return Object.fromEntries(
    scoredCriteria(criteria).flatMap((c) => {
      const points = criterionPoints(c, { choices, given });
      return points === null ? [] : [[c.id, points]];
    }),
  );
}

/** The sum of a review in thousandths. Example: 8 and 6 points: 14000. */
export const sumOfReview = (review: Pick<ReviewScores, 'points'>): Thousandths =>
  Object.values(review.points).reduce((sum, points) => sum + points, 0);

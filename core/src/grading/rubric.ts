import type { Thousandths } from '../exact/points.ts';

export interface RubricLevel {
  readonly id: string;
  readonly title: string;
  readonly descriptor: string;
  readonly points: Thousandths;
}
export interface RubricCriterion {
  readonly id: string;
  readonly title: string;
  readonly levels: readonly RubricLevel[];
}

/**
 * The score from chosen levels: their sum, and whether every criterion has one. A choice that names no level of its
 * criterion is not counted. `possible` is the sum of each criterion's best level.
 * Worked example: 15 of 20 and 15 of 15 chosen, two criteria open: score 30, not complete.
 */
export function rubricScore(
  criteria: readonly RubricCriterion[],
  choices: { readonly [criterionId: string]: string },
): {
  readonly score: Thousandths;
  readonly possible: Thousandths;
  readonly isComplete: boolean;
} {
  let score = 0;
  let possible = 0;
  let chosen = 0;
  for (const criterion of criteria) {
    possible += criterion.levels.reduce((most, level) => Math.max(most, level.points), 0);
    const level = criterion.levels.find((l) => l.id === choices[criterion.id]);
    if (level !== undefined) {
      score += level.points;
      chosen += 1;
    }
  }
  return { score, possible, isComplete: criteria.length > 0 && chosen === criteria.length };
}

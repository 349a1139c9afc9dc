import type { Thousandths } from '../exact/points.ts';

/** How a criterion is judged: by a level, a tick, points within the range of a level, a count of errors, or in words alone. */
export const CRITERION_FORMS = ['levels', 'check', 'range', 'count', 'comment'] as const;
export type CriterionForm = (typeof CRITERION_FORMS)[number];

export interface RubricLevel {
  readonly id: string;
  readonly title: string;
  readonly descriptor: string;
  readonly points: Thousandths;
  /** Of a range: the least it may be given; its points are the most. */
  readonly least?: Thousandths | null;
  /** Of a count: reached with up to so many; null with any number. */
  readonly upTo?: number | null;
}
export interface RubricCriterion {
  readonly id: string;
  readonly title: string;
  readonly form?: CriterionForm;
  readonly levels: readonly RubricLevel[];
}

/** What a marker chose and typed: a level of each criterion; points within its range, or the number counted. */
export interface RubricChoices {
  readonly choices: { readonly [criterionId: string]: string };
  readonly given: { readonly [criterionId: string]: number };
}

/** The level of a count that a number reaches: the first whose bound it does not pass. Worked example: 3 of bounds 0, 2, 5, none: the third. */
export function levelOfCount(levels: readonly RubricLevel[], count: number): RubricLevel | null {
  const ordered = [...levels].sort((a, b) => (a.upTo ?? Infinity) - (b.upTo ?? Infinity));
  return ordered.find((l) => count <= (l.upTo ?? Infinity)) ?? null;
}

/** The points one criterion gives, or null where it is not judged yet. A choice that names no level of its criterion is none. */
export function criterionPoints(criterion: RubricCriterion, { choices, given }: RubricChoices): Thousandths | null {
  const typed = given[criterion.id];
  if (criterion.form === 'count') return typed === undefined ? null : (levelOfCount(criterion.levels, typed)?.points ?? null);
  const level = criterion.levels.find((l) => l.id === choices[criterion.id]);
  if (level === undefined) return null;
  if (criterion.form !== 'range' || typed === undefined) return level.points;
  return Math.min(level.points, Math.max(level.least ?? level.points, typed));
}

/** Whether a criterion gives points at all. */
export const givesPoints = (criterion: RubricCriterion): boolean => criterion.form !== 'comment';

/**
 * The score from what was chosen and typed: the sum over the criteria, and whether every one that gives points is judged.
 * `possible` is the sum of each criterion's best level. A range without a number gives the most of its level; a number outside it
 * counts as the nearer end. A rubric of words alone scores 0 and is never complete: its score is typed.
 * Worked example: 15 of 20 and 15 of 15 chosen, two criteria open: score 30, not complete.
 */
export function rubricScore(
  criteria: readonly RubricCriterion[],
  choices: RubricChoices['choices'],
  given: RubricChoices['given'] = {},
): {
  readonly score: Thousandths;
  readonly possible: Thousandths;
  readonly isComplete: boolean;
} {
  let [score, possible, judged, scored] = [0, 0, 0, 0];
  for (const criterion of criteria) {
    if (!givesPoints(criterion)) continue;
    scored += 1;
    possible += criterion.levels.reduce((most, level) => Math.max(most, level.points), 0);
    const points = criterionPoints(criterion, { choices, given });
    if (points === null) continue;
    score += points;
    judged += 1;
  }
  return { score, possible, isComplete: scored > 0 && judged === scored };
}

import { ratio, type Ratio } from '../exact/ratio.ts';
import type { Thousandths } from '../exact/points.ts';
import type { RubricCriterion } from '../grading/rubric.ts';
import { mostOf, type ReviewScores } from './reviewScores.ts';
import { STRICTNESSES, type Strictness } from './setting.ts';

/** How many levels away still count as the same, in halves of a level. */
const TOLERANCE_IN_HALVES: { readonly [strictness in Strictness]: number } = { strict: 0, firm: 1, fair: 2, mild: 3, lax: 4 };

/** The tolerance in levels. Example: `toleranceOf('fair')` is 1. */
export const toleranceOf = (strictness: Strictness): Ratio => ratio(TOLERANCE_IN_HALVES[strictness], 2);

/** In words, for whoever chooses. Example: “firm: half a level off still counts as the same”. */
export const strictnessInWords = (strictness: Strictness): string =>
  `${strictness}: ${
    {
      strict: 'only the very same counts',
      firm: 'half a level off still counts as the same',
      fair: 'one level off still counts as the same',
      mild: 'one and a half levels off still count as the same',
      lax: 'two levels off still count as the same',
    }[strictness]
  }`;

/**
 * Where points stand on the levels of a criterion: 0 at the lowest, 1 at the next, and between two levels in proportion. Levels with the
 * same points are one. Points beyond the ends stand at the end.
 * Worked example: levels of 0, 4, 7 and 10 points: 5.5 points stand at 1.5.
 */
export function placeOnLevels(criterion: Pick<RubricCriterion, 'levels'>, points: Ratio): Ratio {
  const levels = [...new Set(criterion.levels.map((l) => l.points))].sort((a, b) => a - b);
  const at = levels.findIndex((l) => points.compare(l) <= 0);
  if (at === 0) return ratio(0);
  if (at === -1) return ratio(Math.max(0, levels.length - 1));
  const [low, high] = [levels[at - 1] ?? 0, levels[at] ?? 0];
  return ratio(at - 1).add(points.sub(low).div(high - low));
}

export interface CriterionNearness {
  readonly criterionId: string;
  readonly given: Thousandths;
  /** What the others made of it, in points, exactly. */
  readonly others: Ratio;
  /** Distance, tolerance and the largest distance, in levels. */
  readonly distance: Ratio;
  readonly tolerance: Ratio;
  readonly largest: Ratio;
  readonly share: Ratio;
}

export interface Nearness {
  readonly share: Ratio;
  readonly criteria: readonly CriterionNearness[];
}

/**
 * How near a review is to what the others saw, from 0 to 1: for each criterion 1 − max(0, distance − tolerance) / (largest − tolerance),
 * in levels, where the largest distance is from the lowest level to the highest; then the mean over the criteria, each by its points.
 * The tolerance is never more than half of the largest distance, so that a criterion of two levels still tells right from wrong. Where
 * the others judged none of its criteria there is no nearness: null.
 *
 * `others` is the consensus of the other reviews by criterion, in millionths of the criterion’s most, as `consensus` gives it.
 * Worked example: levels of 0, 1, 2 and 3 points, 1 given, the others at 3, fair: distance 2, 1 beyond the tolerance of 1, of 2
 * possible: 0.5.
 */
export function nearness(
  criteria: readonly RubricCriterion[],
  review: Pick<ReviewScores, 'points'>,
  others: { readonly [criterionId: string]: number } | null,
  strictness: Strictness,
): Nearness | null {
  const judged = criteria.flatMap((criterion): CriterionNearness[] => {
    const [given, share] = [review.points[criterion.id], others?.[criterion.id]];
    if (given === undefined || share === undefined) return [];
    const seen = ratio(BigInt(share) * BigInt(mostOf(criterion)), 1_000_000n);
    const largest = ratio(Math.max(0, new Set(criterion.levels.map((l) => l.points)).size - 1));
    const wide = toleranceOf(strictness);
    const tolerance = wide.compare(largest.div(2)) > 0 ? largest.div(2) : wide;
    const distance = placeOnLevels(criterion, ratio(given)).sub(placeOnLevels(criterion, seen)).abs();
    const beyond = distance.sub(tolerance);
    const near = beyond.compare(0) <= 0 ? ratio(1) : ratio(1).sub(beyond.div(largest.sub(tolerance)));
    return [{ criterionId: criterion.id, given, others: seen, distance, tolerance, largest, share: near }];
  });
  if (judged.length === 0) return null;
  const most = (id: string): number => mostOf(criteria.find((c) => c.id === id) ?? { levels: [] });
  const sum = judged.reduce((all, j) => all.add(j.share.mul(most(j.criterionId))), ratio(0));
  return { share: sum.div(judged.reduce((all, j) => all + most(j.criterionId), 0)), criteria: judged };
}

/** A review that somebody was to give, and what came of it. */
export interface OwedReview {
  readonly reviewId: string;
  readonly state: 'given' | 'not due' | 'missing' | 'set aside with credit' | 'set aside without credit';
  /** Of a review that was given and counts; null where nobody else reviewed that work. */
  readonly nearness: Ratio | null;
}

/**
 * What reviewing earned, as a share from 0 to 1: by *nearness* the mean over the reviews owed, one that is missing or set aside without
 * credit counting 0, one that cannot be compared or is not due yet left out; by *done* the share that was given. What is set aside with credit is left out
 * of nearness and counts as given where given is what counts. Null where nothing can be judged: no reviews owed, or none comparable.
 * Worked example: three owed, 1 and 0.5 near and one missing: 0.5.
 */
export function reviewingShare(owed: readonly OwedReview[], by: 'nearness' | 'done'): Ratio | null {
  const values = owed.flatMap((review): Ratio[] => {
    if (review.state === 'not due') return [];
    if (review.state === 'missing' || review.state === 'set aside without credit') return [ratio(0)];
    if (by === 'done') return [ratio(1)];
    return review.state === 'given' && review.nearness !== null ? [review.nearness] : [];
  });
  if (values.length === 0) return null;
  return values.reduce((sum, v) => sum.add(v), ratio(0)).div(values.length);
}

/** What each strictness would give, for whoever chooses: the mean and the least share of those who can be judged. */
export interface StrictnessEffect {
  readonly strictness: Strictness;
  readonly mean: Ratio | null;
  readonly least: Ratio | null;
}

/** The shares of a class under each strictness. `sharesOf` gives those of everybody under one; null is not judged. */
export function strictnessEffects(sharesOf: (strictness: Strictness) => readonly (Ratio | null)[]): readonly StrictnessEffect[] {
  return STRICTNESSES.map((strictness) => {
    const shares = sharesOf(strictness).filter((s) => s !== null);
    if (shares.length === 0) return { strictness, mean: null, least: null };
    return {
      strictness,
      mean: shares.reduce((sum, s) => sum.add(s), ratio(0)).div(shares.length),
      least: shares.reduce((least, s) => (s.compare(least) < 0 ? s : least)),
    };
  });
}

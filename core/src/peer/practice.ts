import type { Thousandths } from '../exact/points.ts';
import { ratio, type Ratio } from '../exact/ratio.ts';
import { criterionPoints, type RubricChoices, type RubricCriterion } from '../grading/rubric.ts';
import { placeOnLevels } from './reviewing.ts';
import { scoredCriteria } from './reviewScores.ts';

/** One criterion of a sample work, as a student and as the teacher judged it. */
export interface PracticeLine {
  readonly criterionId: string;
  readonly mine: Thousandths;
  readonly theirs: Thousandths;
  /** How many levels the student stands above the teacher; below, negative. */
  readonly away: Ratio;
}

/**
 * A student’s assessment of a sample work beside the teacher’s, criterion by criterion of the form, in its order. Criteria in words alone
 * have no place in it, and neither have those that one of the two did not judge: a form can grow after a sample was assessed.
 * Worked example: levels of 0, 4, 7 and 10 points, the student gives 10 and the teacher 4: two levels above.
 */
export function comparePractice(criteria: readonly RubricCriterion[], mine: RubricChoices, theirs: RubricChoices): readonly PracticeLine[] {
  return scoredCriteria(criteria).flatMap((c): PracticeLine[] => {
    const [own, taught] = [criterionPoints(c, mine), criterionPoints(c, theirs)];
    if (own === null || taught === null) return [];
    const away = placeOnLevels(c, ratio(own)).sub(placeOnLevels(c, ratio(taught)));
    return [{ criterionId: c.id, mine: own, theirs: taught, away }];
  });
}

/**
 * How far apart two judgements are, in words: by levels where they stand on levels, as above or below where they stand between them.
 * Example: two levels above: “2 levels higher than the teacher”; the same: “as the teacher”.
 */
export function awayInWords(away: Ratio): string {
  const sign = away.compare(0);
  if (sign === 0) return 'as the teacher';
  const side = `${sign > 0 ? 'higher' : 'lower'} than the teacher`;
  const [n, d] = [away.abs().n, away.abs().d];
  if (d !== 1n) return n < d ? `less than a level ${side}` : `more than ${n / d === 1n ? 'a level' : `${n / d} levels`} ${side}`;
  return `${n === 1n ? '1 level' : `${n} levels`} ${side}`;
}

/** The criteria that give points and are not judged yet: a review is whole, and a sample work seen by students, once there are none. */
export const unjudgedCriteria = <T extends RubricCriterion>(criteria: readonly T[], judged: RubricChoices): readonly T[] =>
  scoredCriteria(criteria).filter((c) => criterionPoints(c, judged) === null);

/** What was judged on a form, said by the places of its criteria and levels instead of their identifiers: so it fits a copy of the form. */
export interface JudgedByPlace {
  readonly levels: readonly (number | null)[];
  readonly given: readonly (number | null)[];
  readonly comments: readonly string[];
}

interface Judged extends RubricChoices {
  readonly comments: { readonly [criterionId: string]: string };
}

/** What was judged, by places. Example: the third level of the first of two criteria: `levels` is `[2, null]`. */
export const judgedByPlace = (criteria: readonly RubricCriterion[], { choices, given, comments }: Judged): JudgedByPlace => ({
  levels: criteria.map((c) => {
    const at = c.levels.findIndex((l) => l.id === choices[c.id]);
    return at === -1 ? null : at;
  }),
  given: criteria.map((c) => given[c.id] ?? null),
  comments: criteria.map((c) => comments[c.id] ?? ''),
});

/** The way back: what was judged, by the identifiers of this form. A place that it does not have is left out. */
export function judgedOnForm(criteria: readonly RubricCriterion[], judged: JudgedByPlace): Judged {
  const by = <T>(value: (c: RubricCriterion, n: number) => T | undefined): { readonly [id: string]: T } =>
    Object.fromEntries(
      criteria.flatMap((c, n): [string, T][] => {
        const found = value(c, n);
        return found === undefined ? [] : [[c.id, found]];
      }),
    );
  return {
    choices: by((c, n) => c.levels[judged.levels[n] ?? -1]?.id),
    given: by((_, n) => judged.given[n] ?? undefined),
    comments: by((_, n) => (judged.comments[n] === '' ? undefined : judged.comments[n])),
  };
}

import { formatPoints, type Thousandths } from '../exact/points.ts';
import { countOf } from '../exact/countOf.ts';
import { exactPoints, exactText, ratio, type Ratio, roundHalfUp } from '../exact/ratio.ts';
import type { WorkingLine } from '../grading/working.ts';
import type { ScoredCriterion, WorkConsensus } from './consensus.ts';
import type { Nearness, OwedReview } from './reviewing.ts';
import type { PeerChoices } from './setting.ts';

const line = (rule: string, value: string, look: WorkingLine['look'] = 'plain', lines: readonly WorkingLine[] = []): WorkingLine => ({
  rule,
  value,
  look,
  itemId: null,
  lines,
});

/** An exact number of thousandths, rounded half up to a whole one. */
export const roundedThousandths = (value: Ratio): Thousandths => Number(roundHalfUp(value, 0).replace('−', '-'));

/** A result in points with the lines it comes from; null where there is none yet. */
export interface PeerResult {
  readonly points: Thousandths;
  readonly working: WorkingLine;
}

type HowWorksAreJudged = Pick<PeerChoices, 'workFrom' | 'teacherCounts' | 'teacherWeight'>;

const EQUAL_WORDS = {
  'one review': 'the plain mean, because there is one review',
  'all equal': 'the plain mean, because all reviews are equal',
} as const;

/** What the reviews alone give, in thousandths of the form, with its line. */
function fromReviews(
  found: WorkConsensus,
  criteria: readonly NamedCriterion[],
  how: HowWorksAreJudged,
): { value: Ratio; line: WorkingLine } {
  const isConsensus = how.workFrom === 'consensus';
  const value = isConsensus && found.isMeanBecause === null ? ratio(found.total) : found.mean;
  const plain = line(`plain mean of ${countOf(found.reviews, 'review')}`, exactPoints(found.mean), isConsensus ? 'note' : 'plain');
  if (!isConsensus) return { value, line: plain };
  const rule =
    found.isMeanBecause === null
      ? 'consensus: without each reviewer’s bias, weighed by how reliable they are'
      : EQUAL_WORDS[found.isMeanBecause];
  const byCriterion = criteria.flatMap((c) => {
    const points = found.points[c.id];
    return points === undefined ? [] : [line(c.title, `${formatPoints(points)} of ${formatPoints(c.most)}`)];
  });
  return { value, line: line(rule, exactPoints(value), 'plain', [...byCriterion, plain]) };
}

export interface NamedCriterion extends ScoredCriterion {
  readonly title: string;
}

/**
 * The result of a work from its reviews, and from the teacher’s own assessment where there is one: alone where it *decides*, else as one
 * review or as several beside the others. What the form gives is taken to the points of the column, and rounded half up to a thousandth of
 * a point, once. Null where nobody assessed it. `teacher` is the teacher’s total on the form; `formMost` what the form gives at the most,
 * above 0; all in thousandths.
 * Worked example: 30 of 40 from three reviews, 34 from the teacher, counting as one: (3 × 30 + 34) / 4 = 31 of 40.
 */
export function workResult(
  found: WorkConsensus | null,
  teacher: Thousandths | null,
  criteria: readonly NamedCriterion[],
  how: HowWorksAreJudged,
  possible: Thousandths,
): PeerResult | null {
  const formMost = criteria.reduce((sum, c) => sum + c.most, 0);
  if (formMost <= 0) throw new RangeError('The form gives no points.');
  const reviews = found === null ? null : fromReviews(found, criteria, how);
  const decides = teacher !== null && (how.teacherCounts === 'decides' || found === null);
  const weight = how.teacherCounts === 'more' ? how.teacherWeight : 1;
  if (reviews === null && teacher === null) return null;
  const lines: WorkingLine[] = reviews === null ? [] : [decides ? { ...reviews.line, look: 'out' } : reviews.line];
  if (teacher !== null)
    lines.push(
      line(
        decides ? 'the teacher’s own assessment, which decides' : `the teacher’s own assessment, counted as ${countOf(weight, 'review')}`,
        formatPoints(teacher),
      ),
    );
  const joined =
    decides || reviews === null
      ? ratio(teacher ?? 0)
      : teacher === null
        ? reviews.value
        : reviews.value
            .mul(found?.reviews ?? 0)
            .add(teacher * weight)
            .div((found?.reviews ?? 0) + weight);
  if (!decides && reviews !== null && teacher !== null)
    lines.push(
      line(`(${found?.reviews ?? 0} × the reviews + ${weight} × the teacher’s) ÷ ${(found?.reviews ?? 0) + weight}`, exactPoints(joined)),
    );
  const exact = joined.mul(possible).div(formMost);
  if (formMost !== possible)
    lines.push(line(`${formatPoints(formMost)} on the form are ${formatPoints(possible)} points`, exactPoints(exact)));
  const points = roundedThousandths(exact);
  return { points, working: line('Result of the work', `${formatPoints(points)} of ${formatPoints(possible)}`, 'sum', lines) };
}

/** One owed review for the working of a reviewer: what it was of, in words that tell no name, and its nearness criterion by criterion. */
export interface ShownOwed extends OwedReview {
  readonly title: string;
  readonly near: Nearness | null;
}

const percent = (share: Ratio): string => `${roundHalfUp(share.mul(100), 1)} %`;

const STATE_WORDS: { readonly [state in OwedReview['state']]: string } = {
  given: 'given',
  'not due': 'not due yet: left out',
  missing: 'not given: counts 0',
  'set aside with credit': 'set aside, with credit',
  'set aside without credit': 'set aside, without credit: counts 0',
};

function owedLine(review: ShownOwed, criteria: readonly NamedCriterion[], by: 'nearness' | 'done'): WorkingLine {
  if (review.state === 'not due') return line(`${review.title}: ${STATE_WORDS[review.state]}`, '', 'out');
  const isCounted = review.state === 'given';
  if (by === 'done' || !isCounted)
    return line(
      `${review.title}: ${STATE_WORDS[review.state]}`,
      review.state === 'given' || review.state === 'set aside with credit' ? '1' : '0',
      by === 'nearness' && review.state === 'set aside with credit' ? 'out' : 'plain',
    );
  if (review.near === null) return line(`${review.title}: nobody else reviewed it, so it is left out`, '', 'out');
  const lines = review.near.criteria.map((c) =>
    line(
      `${criteria.find((one) => one.id === c.criterionId)?.title ?? ''}: gave ${formatPoints(c.given)}, the others saw ${exactPoints(c.others)}; ` +
        `${exactText(c.distance)} levels apart, ${exactText(c.tolerance)} still count as the same, ${exactText(c.largest)} at the most`,
      percent(c.share),
    ),
  );
  return line(review.title, percent(review.near.share), 'plain', lines);
}

/** The result of reviewing in points, rounded half up to a thousandth, with its working; null where nothing can be judged. Example: 0.5 of 10 points: 5. */
export function reviewingResult(
  share: Ratio | null,
  owed: readonly ShownOwed[],
  criteria: readonly NamedCriterion[],
  by: 'nearness' | 'done',
  possible: Thousandths,
): PeerResult | null {
  if (share === null) return null;
  const points = roundedThousandths(share.mul(possible));
  const rule = by === 'nearness' ? 'mean nearness to what the others saw' : 'share of the reviews that were given';
  return {
    points,
    working: line('Result of the reviewing', `${formatPoints(points)} of ${formatPoints(possible)}`, 'sum', [
      ...owed.map((review) => owedLine(review, criteria, by)),
      line(rule, percent(share)),
      line(`${percent(share)} of ${formatPoints(possible)} points`, exactPoints(share.mul(possible))),
    ]),
  };
}

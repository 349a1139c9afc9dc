import { countOf } from '../exact/countOf.ts';
import type { WorkingLine } from '../grading/working.ts';
import type { Expected } from './blueprint.ts';
import { KIND_WORDS } from './drawInWords.ts';
import type { ItemStatistics } from './itemStatistics.ts';
import type { Reliability } from './reliability.ts';

const line = (rule: string, value: string, look: WorkingLine['look'] = 'plain'): WorkingLine => ({
  rule,
  value,
  look,
  itemId: null,
  lines: [],
});
/** A figure for reading: up to so many decimals, a true minus sign, no needless noughts. */
const near = (value: number, decimals = 3): string => String(Number(value.toFixed(decimals))).replace('-', '−');
const two = (value: number): string => value.toFixed(2).replace('-', '−');

/**
 * How the reliability of a test came about, line by line, with the numbers it was worked out from (see `reliability`).
 * Worked example: 4 questions whose variances add up to 8, totals that vary by 20: alpha = 4/3 · (1 − 8/20) = 0.80.
 */
export function workingOfReliability(r: Reliability): readonly WorkingLine[] {
  const { people, questions: k, leftOut, itemVariances, totalVariance, fLow, fHigh } = r.from;
  return [
    line('First attempts of everybody', String(people)),
    line('Questions k that everybody had', String(k)),
    ...(leftOut === 0 ? [] : [line(`${countOf(leftOut, 'question')} left out: dropped, or not in every paper`, '', 'note')]),
    line('Variances of the questions, added', near(itemVariances)),
    line('Variance of the totals', near(totalVariance)),
    line(`alpha = k/(k − 1) · (1 − ${near(itemVariances)} / ${near(totalVariance)})`, two(r.alpha), 'sum'),
    ...(r.low === null || r.high === null
      ? []
      : [
          line(`95 % from 1 − (1 − alpha) · ${near(fLow)}`, two(r.low)),
          line(`to 1 − (1 − alpha) · ${near(fHigh)} (F with ${people - 1} and ${(people - 1) * (k - 1)} degrees of freedom)`, two(r.high)),
        ]),
    line(`Error of a score = √(${near(totalVariance)} · (1 − alpha)), points`, two(r.sem), 'sum'),
    ...(r.kr20 === null
      ? [line('KR-20 does not apply: some answers are partly right', '', 'note')]
      : [line('KR-20, the same with variances by n', two(r.kr20))]),
  ];
}

/**
 * How the figures of one question came about (see `itemStatistics`).
 * Worked example: 8 attempts that earned 6 of 1 point each: share right 6 / (8 · 1) = 0.75.
 */
export function workingOfItem(s: ItemStatistics): readonly WorkingLine[] {
  const { points, earned, spread, spreadOfRest, covariance, groupSize, upperMean, lowerMean } = s.from;
  const share = s.shareRight === null ? [] : [line(`Share correct = ${near(earned)} points earned / (${s.attempts} attempts · ${near(points)})`, two(s.shareRight))]; // prettier-ignore
  const rest =
    s.itemRest === null
      ? [line('Item–rest: one of the two does not vary, so there is none', '', 'note')]
      : [
          line(`Item–rest = covariance ${near(covariance)} / (${near(spread)} · ${near(spreadOfRest)})`, two(s.itemRest)),
          line('the spread of this question, and that of the total less this question, in points', '', 'note'),
        ];
  const split =
    s.upperLower === null || upperMean === null || lowerMean === null
      ? [line('Upper–lower: too few attempts to tell two groups apart', '', 'note')]
      : [
          line(`Upper–lower = (${near(upperMean)} − ${near(lowerMean)}) / ${near(points)}`, two(s.upperLower)),
          line(`means of the ${groupSize} with the highest and the ${groupSize} with the lowest totals (27 %), those tied at the edge shared`, '', 'note'), // prettier-ignore
        ];
  return [...share, ...rest, ...split];
}

/**
 * What the expectations of a paper rest on (see `expectedOf`).
 * Worked example: 20 questions of which 12 were used before: their figures, and the usual ones for the other 8.
 */
export function workingOfExpected(e: Expected): readonly WorkingLine[] {
  const { questions: k, known, knownRest, sumOfVariances, totalVariance, minutes } = e.from;
  const times = [
    ...minutes.map((m) => line(`${m.many} × ${KIND_WORDS[m.kind]}, ${near(m.each, 2)} min each`, near(m.many * m.each, 2))),
    line('Minutes, rounded', String(e.minutes), 'sum'),
  ];
  if (e.reliability === null) return times;
  return [
    ...times,
    line('Questions k', String(k)),
    line('with a share correct from past use; the others by their level (easy 0.85, medium 0.65, hard 0.45)', String(known)),
    line('with an item–rest correlation from past use; the others as if each two went with one another by 0.1', String(knownRest)),
    line('Variances p(1 − p), added; each question counts alike', near(sumOfVariances)),
    line('Variance of the total that follows from the correlations', near(totalVariance)),
    line(`k/(k − 1) · (1 − ${near(sumOfVariances)} / ${near(totalVariance)})`, two(e.reliability), 'sum'),
    ...(e.withFourMore === null ? [] : [line(`with ${k + 4} questions, by Spearman and Brown`, two(e.withFourMore))]),
  ];
}

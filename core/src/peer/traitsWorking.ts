import { countOf } from '../exact/countOf.ts';
import type { WorkingLine } from '../grading/working.ts';
import { BIAS_PRIOR, LEAST_WEIGHT, MOST_WEIGHT, RELIABILITY_PRIOR, type ReviewerTraits, type TraitsParts } from './consensus.ts';
import type { PeerAgreement } from './signs.ts';

const line = (rule: string, value: string, lines: readonly WorkingLine[] = []): WorkingLine => ({
  ...{ rule, value, lines },
  look: lines.length > 0 ? 'sum' : 'plain',
  itemId: null,
});
const minus = (text: string): string => text.replace('-', '−');
/** Millionths of full marks with their sign. */
const signed = (millionths: number): string => `${millionths > 0 ? '+' : ''}${minus((millionths / 10_000).toFixed(1))} %`;
const twoPlaces = (value: number): string => minus(value.toFixed(2));
/** The root of a mean square in thousandths of full marks. */
const spreadText = (squares: number): string => `${(Math.sqrt(squares) / 10).toFixed(1)} %`;

/**
 * How the bias and the weight of a reviewer come out, as lines: each review against the others, the mean with the reviews of no bias that
 * are supposed, the median that biases are counted from; then their spread beside the class’s. Shares are of full marks.
 * `titleOf` names a review by its id. Without a review of a work that others reviewed too there is nothing to say: an empty list.
 * Worked example: three reviews, 10 %, 20 % and 20 % above the others, median 0: bias (10 + 20 + 20) ÷ (3 + 2) = +10.0 %.
 */
export function traitsWorking(traits: ReviewerTraits, parts: TraitsParts, titleOf: (reviewId: string) => string): readonly WorkingLine[] {
  const many = parts.reads.length;
  if (many === 0) return [];
  const own = parts.reads.reduce((sum, read) => sum + read.squares, 0);
  const within = traits.biasWithin === null ? '' : `, 95 % within ${(traits.biasWithin / 10_000).toFixed(1)}`;
  const isBound = traits.weight === LEAST_WEIGHT || traits.weight === MOST_WEIGHT;
  return [
    line(`Bias${within}`, signed(traits.bias), [
      ...parts.reads.map((read) =>
        line(`${titleOf(read.reviewId)}: against what the others saw, their own biases out`, signed(read.above)),
      ),
      line(
        `their sum ÷ (${many} + ${BIAS_PRIOR}), for ${countOf(BIAS_PRIOR, 'review')} of no bias are supposed of everybody`,
        signed(parts.raw),
      ),
      line('less the median of those who reviewed the same works', signed(-parts.median)),
    ]),
    line('Weight', twoPlaces(traits.weight / 1000), [
      line('how far their reviews lie from the others once the bias is out (root mean square)', spreadText(own / many)),
      line('the same of the whole class', spreadText(parts.classSquares)),
      line(
        `the class’s squared ÷ theirs squared, where ${countOf(RELIABILITY_PRIOR, 'review')} like the class’s are supposed beside their ${many}`,
        parts.classSquares === 0
          ? '1.00'
          : twoPlaces((parts.classSquares * (many + RELIABILITY_PRIOR)) / (own + RELIABILITY_PRIOR * parts.classSquares)),
      ),
      ...(isBound
        ? [line(`kept between ${twoPlaces(LEAST_WEIGHT / 1000)} and ${twoPlaces(MOST_WEIGHT / 1000)}`, twoPlaces(traits.weight / 1000))]
        : []),
    ]),
  ];
}

/**
 * How the agreement of a class comes out, as lines: kappa by criterion with the distances it is made of, and ICC(1,1) with its mean
 * squares (in points squared). `titleOf` names a criterion. What is not known has no line.
 * Worked example: 0.25 levels squared where chance alone would give 1.25: kappa 1 − 0.25 ÷ 1.25 = 0.80.
 */
export function agreementWorking(found: PeerAgreement, titleOf: (criterionId: string) => string): readonly WorkingLine[] {
  const { kappa, icc } = found;
  return [
    ...(kappa === null
      ? []
      : [
          line('Weighted kappa: the mean over the criteria, each by its pairs', twoPlaces(kappa), [
            ...found.criteria.map((c) =>
              line(
                `${titleOf(c.criterionId)}, ${countOf(c.pairs, 'pair')}: 1 − ${twoPlaces(c.observed)} ÷ ${twoPlaces(c.expected)} ` +
                  '(levels squared between two reviews of one work; by chance alone)',
                twoPlaces(c.kappa),
              ),
            ),
          ]),
        ]),
    ...(icc === null
      ? []
      : [
          line('ICC(1,1): the share of the spread that lies between works', twoPlaces(icc.value), [
            line(`mean square between ${countOf(found.works, 'work')}, points squared`, twoPlaces(icc.between / 1e6)),
            line(`mean square within a work, ${countOf(icc.each, 'review')} each`, twoPlaces(icc.within / 1e6)),
            line(`(between − within) ÷ (between + ${icc.each - 1} × within)`, twoPlaces(icc.value)),
            line('95 % of such intervals hold the true value', `${twoPlaces(icc.low)} to ${twoPlaces(icc.high)}`),
          ]),
        ]),
  ];
}

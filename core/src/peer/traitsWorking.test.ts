import { consensus } from './consensus.ts';
import type { ReviewScores } from './reviewScores.ts';
import { peerAgreement } from './signs.ts';
import { agreementWorking, traitsWorking } from './traitsWorking.ts';

const one = [{ id: 'c', most: 40_000 }];
const review = (reviewerId: string, workId: string, points: number): ReviewScores => ({
  ...{ id: `${reviewerId}-${workId}`, reviewerId, workId },
  points: { c: points },
});
/** Ten works, each seen as it is by three and 8 lower by the one who is hard. */
const works = Array.from({ length: 10 }, (_, n) => `w${n}`);
const reviews = works.flatMap((w, n) => [
  ...['a', 'b', 'd'].map((r) => review(r, w, 20_000 + n * 2000)),
  review('hard', w, 12_000 + n * 2000),
]);
const workingOf = (id: string, from = reviews) => {
  const found = consensus(from, one);
  const [traits, parts] = [found.reviewers.get(id), found.partsOf(id)];
  if (traits === undefined || parts === null) throw new Error(id);
  return { traits, parts, lines: traitsWorking(traits, parts, (reviewId) => `Review ${reviewId}`) };
};

describe('how a reviewer’s bias and weight come out', () => {
  it('is each review against the others, the mean with its prior, and the median', () => {
    const { traits, parts, lines } = workingOf('hard');
    expect(lines.map((l) => l.rule.split(',')[0])).toEqual(['Bias', 'Weight']);
    const [bias] = lines;
    expect(bias?.lines).toHaveLength(12);
    expect(bias?.lines[0]).toMatchObject({ rule: 'Review hard-w0: against what the others saw, their own biases out', value: '−20.0 %' });
    const sum = parts.reads.reduce((all, r) => all + r.above, 0);
    expect(Math.abs(sum / (10 + 2) - parts.raw)).toBeLessThan(1);
    expect(traits.bias).toBe(parts.raw - parts.median);
    expect(bias?.value).toBe(`−${(-traits.bias / 10_000).toFixed(1)} %`);
  });

  it('gives the very weight that their reviews have', () => {
    for (const id of ['a', 'hard']) {
      const { traits, lines } = workingOf(id);
      expect(lines[1]?.value).toBe((traits.weight / 1000).toFixed(2));
      const said = Number(lines[1]?.lines[2]?.value);
      // What is kept between the bounds is said as well.
      expect(Math.min(2, Math.max(0.2, said))).toBeCloseTo(traits.weight / 1000, 1);
    }
  });

  it('says when a weight is kept at its bound', () => {
    const steady = works.flatMap((w, n) => ['e', 'f', 'g', 'h'].map((r) => review(r, w, 20_000 + n * 2000)));
    const wild = works.map((w, n) => review('wild', w, n % 2 === 0 ? 0 : 40_000));
    const { traits, lines } = workingOf('wild', [...reviews, ...steady, ...wild]);
    expect(traits.weight).toBe(200);
    expect(lines[1]?.lines.at(-1)).toMatchObject({ rule: 'kept between 0.20 and 2.00', value: '0.20' });
  });

  it('is nothing of who reviewed what nobody else did, or nothing at all', () => {
    expect(workingOf('alone', [...reviews, review('alone', 'other', 1000)]).lines).toEqual([]);
    expect(consensus(reviews, one).partsOf('nobody')).toBeNull();
  });
});

describe('how the agreement of a class comes out', () => {
  const form = [
    { id: 'c', title: 'c', levels: [0, 10, 20, 30, 40].map((p, n) => ({ id: `${n}`, title: '', descriptor: '', points: p * 1000 })) },
  ];
  it('is kappa by criterion and ICC by its mean squares, from which both can be worked out again', () => {
    const found = peerAgreement(reviews, form);
    const lines = agreementWorking(found, () => 'The reason');
    expect(lines.map((l) => l.value)).toEqual([(found.kappa ?? 0).toFixed(2), (found.icc?.value ?? 0).toFixed(2)]);
    const [criterion] = found.criteria;
    expect(lines[0]?.lines[0]?.rule).toContain('The reason, 60 pairs: 1 − ');
    expect(1 - (criterion?.observed ?? 0) / (criterion?.expected ?? 1)).toBeCloseTo(found.kappa ?? 0, 12);
    const { between = 0, within = 0, each = 0 } = found.icc ?? {};
    expect(each).toBe(4);
    expect((between - within) / (between + (each - 1) * within)).toBeCloseTo(found.icc?.value ?? 0, 12);
    // One of four sees 8 less: within a work the squares are 3 × 2² + 6² over 3.
    expect(lines[1]?.lines[1]).toMatchObject({ rule: 'mean square within a work, 4 reviews each', value: '16.00' });
  });
  it('has no line where there is nothing to compare', () => {
    expect(agreementWorking(peerAgreement([review('a', 'a', 0)], form), () => '')).toEqual([]);
  });
});

import { exactText, ratio } from '../exact/ratio.ts';
import { consensus } from './consensus.ts';
import {
  nearness,
  type OwedReview,
  placeOnLevels,
  reviewingShare,
  strictnessEffects,
  strictnessInWords,
  toleranceOf,
} from './reviewing.ts';
import { STRICTNESSES } from './setting.ts';
import { reviewingResult, roundedThousandths, workResult } from './workResult.ts';

const levels = (...points: number[]) => points.map((p, n) => ({ id: `${n}`, title: '', descriptor: '', points: p * 1000 }));
const four = { id: 'c', title: 'Evidence', form: 'levels' as const, levels: levels(0, 1, 2, 3) };

describe('where points stand on the levels', () => {
  it('is at the level, between two in proportion, and at the end beyond it', () => {
    const uneven = { levels: levels(0, 4, 7, 10) };
    expect(exactText(placeOnLevels(uneven, ratio(5500)))).toBe('1.5');
    expect(exactText(placeOnLevels(uneven, ratio(10_000)))).toBe('3');
    expect(exactText(placeOnLevels(uneven, ratio(12_000)))).toBe('3');
    expect(exactText(placeOnLevels(uneven, ratio(0)))).toBe('0');
  });
});

describe('the nearness of a review', () => {
  const near = (given: number, others: number, strictness: (typeof STRICTNESSES)[number]) =>
    exactText(nearness([four], { points: { c: given * 1000 } }, { c: others }, strictness)?.share ?? ratio(-1));
  it('falls with the distance beyond the tolerance', () => {
    // Others at 3 of 3; 1 given: two levels off.
    expect(near(1, 1_000_000, 'fair')).toBe('0.5');
    expect(near(1, 1_000_000, 'strict')).toBe('0.333333…');
    expect(near(2, 1_000_000, 'fair')).toBe('1');
    expect(near(0, 1_000_000, 'lax')).toBe('0');
  });

  it('still tells right from wrong where there are two levels: the tolerance is never more than half the range', () => {
    const check = { ...four, form: 'check' as const, levels: levels(0, 2) };
    expect(exactText(nearness([check], { points: { c: 0 } }, { c: 1_000_000 }, 'lax')?.share ?? ratio(-1))).toBe('0');
    expect(exactText(nearness([check], { points: { c: 0 } }, { c: 500_000 }, 'lax')?.share ?? ratio(-1))).toBe('1');
  });

  it('weighs the criteria by their points, and is not there where the others judged none', () => {
    const heavy = { ...four, id: 'd', levels: levels(0, 3, 6, 9) };
    const found = nearness([four, heavy], { points: { c: 3000, d: 0 } }, { c: 1_000_000, d: 1_000_000 }, 'strict');
    expect(exactText(found?.share ?? ratio(-1))).toBe('0.25');
    expect(nearness([four], { points: { c: 3000 } }, null, 'fair')).toBeNull();
  });

  it('is never less under a milder strictness', () => {
    const at = STRICTNESSES.map((s) => Number(nearness([four], { points: { c: 0 } }, { c: 800_000 }, s)?.share.valueOf()));
    expect([...at].sort((a, b) => a - b)).toEqual(at);
    expect(STRICTNESSES.map((s) => exactText(toleranceOf(s)))).toEqual(['0', '0.5', '1', '1.5', '2']);
    expect(strictnessInWords('fair')).toBe('fair: one level off still counts as the same');
  });
});

describe('what reviewing earned', () => {
  const owed = (state: OwedReview['state'], near: number | null): OwedReview => ({
    reviewId: `${state}${near}`,
    state,
    nearness: near === null ? null : ratio(near * 100, 100),
  });
  it('counts what is missing as 0 and leaves out what cannot be compared', () => {
    const three = [owed('given', 1), owed('given', 0.5), owed('missing', null)];
    expect(exactText(reviewingShare(three, 'nearness') ?? ratio(-1))).toBe('0.5');
    expect(exactText(reviewingShare(three, 'done') ?? ratio(-1))).toBe('0.666666…');
    expect(reviewingShare([owed('given', null)], 'nearness')).toBeNull();
    expect(reviewingShare([], 'done')).toBeNull();
    expect(exactText(reviewingShare([owed('given', 1), owed('not due', null)], 'done') ?? ratio(-1))).toBe('1');
    expect(reviewingShare([owed('not due', null)], 'nearness')).toBeNull();
  });

  it('gives or takes the credit of what was set aside, as it was chosen', () => {
    expect(exactText(reviewingShare([owed('given', 1), owed('set aside with credit', null)], 'nearness') ?? ratio(-1))).toBe('1');
    expect(exactText(reviewingShare([owed('given', 1), owed('set aside without credit', null)], 'nearness') ?? ratio(-1))).toBe('0.5');
    expect(exactText(reviewingShare([owed('set aside with credit', null)], 'done') ?? ratio(-1))).toBe('1');
  });

  it('shows what each strictness would give', () => {
    const effects = strictnessEffects((s) => [s === 'strict' ? ratio(1, 2) : ratio(1), null, ratio(1)]);
    expect(effects.map((e) => [e.strictness, exactText(e.mean ?? ratio(-1)), exactText(e.least ?? ratio(-1))])[0]).toEqual([
      'strict',
      '0.75',
      '0.5',
    ]);
    expect(strictnessEffects(() => [null])[0]).toEqual({ strictness: 'strict', mean: null, least: null });
  });
});

describe('the results in points', () => {
  const named = [{ id: 'c', title: 'Evidence', most: 40_000 }];
  const reviews = [30_000, 30_000, 30_000].map((points, n) => ({ id: `${n}`, reviewerId: `${n}`, workId: 'w', points: { c: points } }));
  const found = consensus(reviews, named).works.get('w') ?? null;
  const how = (teacherCounts: 'one' | 'more' | 'decides', workFrom: 'consensus' | 'mean' = 'consensus') => ({
    workFrom,
    teacherCounts,
    teacherWeight: 3,
  });
  it('take the teacher’s own assessment as one, as several, or alone', () => {
    expect(workResult(found, 34_000, named, how('one'), 40_000)?.points).toBe(31_000);
    expect(workResult(found, 34_000, named, how('more'), 40_000)?.points).toBe(32_000);
    expect(workResult(found, 34_000, named, how('decides'), 40_000)?.points).toBe(34_000);
    expect(workResult(null, 34_000, named, how('one'), 40_000)?.points).toBe(34_000);
    expect(workResult(null, null, named, how('one'), 40_000)).toBeNull();
  });

  it('take the points of the form to those of the column, rounded once', () => {
    expect(workResult(found, null, named, how('one'), 10_000)?.points).toBe(7500);
    expect(workResult(found, null, named, how('one', 'mean'), 7)?.points).toBe(5);
    expect(roundedThousandths(ratio(3, 2))).toBe(2);
  });

  it('open their working: consensus, plain mean, and the teacher’s', () => {
    const text = JSON.stringify(workResult(found, 34_000, named, how('decides'), 20_000)?.working);
    for (const words of ['all reviews are equal', 'plain mean of 3 reviews', 'which decides', '40 on the form are 20 points', '17 of 20'])
      expect(text).toContain(words);
    expect(JSON.stringify(workResult(found, 34_000, named, how('one'), 40_000)?.working)).toContain(
      '(3 × the reviews + 1 × the teacher’s) ÷ 4',
    );
  });

  it('open the working of reviewing, review by review', () => {
    const near = nearness([four], { points: { c: 1000 } }, { c: 1_000_000 }, 'fair');
    const owed = [
      { reviewId: '1', state: 'given' as const, nearness: near?.share ?? null, title: 'Review 1', near },
      { reviewId: '2', state: 'missing' as const, nearness: null, title: 'Review 2', near: null },
      { reviewId: '3', state: 'given' as const, nearness: null, title: 'Review 3', near: null },
    ];
    const result = reviewingResult(
      reviewingShare(owed, 'nearness'),
      owed,
      [{ id: 'c', title: 'Evidence', most: 3000 }],
      'nearness',
      10_000,
    );
    expect(result?.points).toBe(2500);
    const text = JSON.stringify(result?.working);
    for (const words of [
      'gave 1, the others saw 3; 2 levels apart, 1 still count as the same, 3 at the most',
      'not given: counts 0',
      'nobody else reviewed it',
      '25.0 %',
    ])
      expect(text).toContain(words);
    expect(reviewingResult(null, [], [], 'done', 10_000)).toBeNull();
  });
});

import fc from 'fast-check';
import { overfullWeeks, quantile, timeTaken } from '../index.ts';

describe('quantiles', () => {
  it('interpolate between order statistics, from the least to the greatest', () => {
    expect([0.25, 0.5, 0.75].map((p) => quantile([4, 1, 3, 2], p))).toEqual([1.75, 2.5, 3.25]);
    expect([quantile([], 0.5), quantile([7], 0.1)]).toEqual([null, 7]);
    expect(() => quantile([1], 1.1)).toThrow(RangeError);
  });
  it('never leave the list, and rise with their share', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -1000, max: 1000 }), { minLength: 1 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (list, a, b) => {
          const [low, high] = [quantile(list, Math.min(a, b)) as number, quantile(list, Math.max(a, b)) as number];
          expect(low).toBeLessThanOrEqual(high + 1e-9);
          expect(low).toBeGreaterThanOrEqual(Math.min(...list) - 1e-9);
          expect(high).toBeLessThanOrEqual(Math.max(...list) + 1e-9);
        },
      ),
    );
  });
});

describe('minutes asked and minutes taken', () => {
  it('says what fits, to the next five, where most take far more or less', () => {
    expect(timeTaken(30, [44, 50, 52, 61, 70])).toMatchObject({ median: 52, verdict: 'more', suggested: 55, low: 50, high: 61 });
    expect(timeTaken(60, [20, 22, 25, 25, 30])).toMatchObject({ verdict: 'less', suggested: 25 });
    expect(timeTaken(300, [20, 30, 33, 31, 29], false)).toMatchObject({ median: 30, verdict: 'elsewhere', suggested: null, hasty: 0 });
    expect(timeTaken(30, [28, 30, 33, 31, 29])).toMatchObject({ verdict: 'as asked', suggested: null });
  });
  it('says nothing of fewer than five, and never less than five minutes', () => {
    expect(timeTaken(30, [90, 90, 90, 90])).toMatchObject({ verdict: 'too few', median: null, suggested: null, students: 4 });
    expect(timeTaken(30, [1, 1, 1, 1, 1])).toMatchObject({ suggested: 5, hasty: 5 });
  });
});

describe('overfull weeks', () => {
  const weeks = (...minutes: number[]) => overfullWeeks(minutes.map((studentMinutes, n) => ({ week: n + 1, studentMinutes })));
  it('are far above the median of those that ask anything, by an hour at least', () => {
    expect(weeks(120, 0, 130, 140, 400)).toEqual([{ week: 5, minutes: 400, median: 135 }]);
    expect(weeks(20, 20, 20, 70)).toEqual([]);
    expect(weeks(200, 200, 200, 301)).toEqual([{ week: 4, minutes: 301, median: 200 }]);
  });
  it('need others to be compared with', () => {
    expect([weeks(), weeks(60, 600), weeks(0, 0, 0)]).toEqual([[], [], []]);
  });
});

import fc from 'fast-check';
import { COUNTING, countedScore, countedWords } from './countedAttempt.ts';

const marked = (...scores: number[]) => scores.map((score, n) => ({ number: n + 1, score }));

describe('which attempt counts', () => {
  it.each([
    ['latest', { score: 51_000, number: 3 }],
    ['first', { score: 40_000, number: 1 }],
    ['best', { score: 52_000, number: 2 }],
    ['mean', { score: 47_667, number: 3 }],
  ] as const)('%s', (rule, counted) => {
    expect(countedScore(rule, marked(40_000, 52_000, 51_000))).toEqual(counted);
  });
  it('has no score without a marked attempt', () => {
    for (const rule of COUNTING) expect(countedScore(rule, [])).toBeNull();
  });
  it('takes the earlier of two that are equally good', () => {
    expect(countedScore('best', marked(7000, 9000, 9000))).toEqual({ score: 9000, number: 2 });
  });
  it('rounds half a thousandth up', () => {
    expect(countedScore('mean', marked(1, 2))?.score).toBe(2);
  });
  it('refuses one attempt given twice', () => {
    expect(() =>
      countedScore('best', [
        { number: 1, score: 1 },
        { number: 1, score: 2 },
      ]),
    ).toThrow('twice');
  });
  it('does not depend on the order they are given in, and lies between the worst and the best', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 100_000 }), { minLength: 1, maxLength: 8 }),
        fc.constantFrom(...COUNTING),
        (scores, rule) => {
          const counted = countedScore(rule, marked(...scores));
          expect(countedScore(rule, marked(...scores).reverse())).toEqual(counted);
          expect(counted?.score).toBeGreaterThanOrEqual(Math.min(...scores));
          expect(counted?.score).toBeLessThanOrEqual(Math.max(...scores));
        },
      ),
    );
  });
  it('says its rule', () => {
    expect(countedWords('best', 3)).toBe('the best of 3 attempts');
    expect(countedWords('mean', 1)).toBe('the mean of one attempt, to a thousandth');
  });
});

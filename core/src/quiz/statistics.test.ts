import fc from 'fast-check';
import {
  expectedReliability,
  itemFlags,
  itemStatistics,
  kelleySize,
  reliability,
  upperWeights,
  type ItemStatistics,
  type StatisticAttempt,
  type StatisticItem,
} from '../index.ts';

const items = (many: number, points = 1): StatisticItem[] => Array.from({ length: many }, (_, n) => ({ id: String(n), points }));
const rows = (matrix: readonly (readonly number[])[]): StatisticAttempt[] => matrix.map((earned) => ({ earned }));
function correlation(x: readonly number[], y: readonly number[]): number {
  const mean = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0) / v.length;
  const [mx, my] = [mean(x), mean(y)];
  const sum = (f: (n: number) => number): number => x.reduce((s, _, n) => s + f(n), 0);
  const at = (v: readonly number[], n: number): number => v[n] ?? 0;
  return sum((n) => (at(x, n) - mx) * (at(y, n) - my)) / Math.sqrt(sum((n) => (at(x, n) - mx) ** 2) * sum((n) => (at(y, n) - my) ** 2));
}

describe('figures of a question', () => {
  const matrix = [
    [1, 1, 1],
    [1, 1, 0],
    [1, 0, 0],
    [0, 0, 0],
  ];
  it('are its share correct and its correlation with the rest', () => {
    const found = itemStatistics(items(3), rows(matrix));
    expect(found.map((i) => i.shareRight)).toEqual([0.75, 0.5, 0.25]);
    for (const [n, item] of found.entries()) {
      const own = matrix.map((row) => row[n] ?? 0);
      const rest = matrix.map((row) => row.reduce((a, b) => a + b, 0) - (row[n] ?? 0));
      expect(item.itemRest).toBeCloseTo(correlation(own, rest), 12);
    }
  });
  it('have no correlation where nothing varies, and no share where there are no points', () => {
    const found = itemStatistics(
      [...items(2), { id: 'none', points: 0 }],
      rows([
        [1, 1, 0],
        [1, 0, 0],
        [1, 1, 0],
      ]),
    );
    expect(found.map((i) => i.itemRest)).toEqual([null, null, null]);
    expect(found[2]?.shareRight).toBeNull();
    expect(itemStatistics(items(1), [])[0]).toMatchObject({ attempts: 0, shareRight: null, itemRest: null, upperLower: null });
  });
  it('agree with the correlation worked out person by person, whatever was earned', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(4), fc.nat(4), fc.nat(4)), { minLength: 4, maxLength: 30 }), (matrixOf) => {
        const first = itemStatistics(items(3, 4), rows(matrixOf))[0]?.itemRest ?? null;
        const by = correlation(
          matrixOf.map((r) => r[0]),
          matrixOf.map((r) => r[1] + r[2]),
        );
        if (first === null) expect(Number.isNaN(by) || Math.abs(by) < 1).toBe(true);
        else expect(first).toBeCloseTo(by, 8);
      }),
    );
  });
  it('take 27 % of a class, rounded half up, and share those tied at the edge', () => {
    expect([10, 48, 50, 100].map(kelleySize)).toEqual([3, 13, 14, 27]);
    expect(upperWeights([9, 7, 7, 3], 2)).toEqual([1, 0.5, 0.5, 0]);
    expect(upperWeights([5, 5, 5], 1)).toEqual([1 / 3, 1 / 3, 1 / 3]);
    fc.assert(
      fc.property(fc.array(fc.nat(5), { minLength: 1, maxLength: 40 }), fc.double({ min: 0, max: 1, noNaN: true }), (totals, share) => {
        const weights = upperWeights(totals, share * totals.length);
        expect(weights.reduce((a, b) => a + b, 0)).toBeCloseTo(share * totals.length, 9);
        expect(weights.every((w) => w >= 0 && w <= 1)).toBe(true);
      }),
    );
    // All of the upper quarter right, none of the lower.
    const split = itemStatistics(
      items(2),
      rows([
        [1, 1],
        [1, 1],
        [0, 1],
        [0, 1],
        [1, 0],
        [0, 0],
        [0, 0],
        [0, 0],
      ]),
    );
    expect(split[0]?.upperLower).toBe(1);
  });
  it('count the answers picked by thirds', () => {
    const options = [
      { id: 'a', isRight: true },
      { id: 'b', isRight: false },
    ];
    const attempts = [
      ['a', 3],
      ['a', 2],
      ['b', 2],
      ['b', 1],
      ['b', 0],
      ['a', 0],
    ].map(([id, rest]): StatisticAttempt => ({ earned: [id === 'a' ? 1 : 0, rest as number], picked: [[id as string], null] }));
    const [first] = itemStatistics(
      [
        { id: 'q', points: 1, options },
        { id: 'r', points: 3 },
      ],
      attempts,
    );
    expect(first?.options).toEqual([
      { id: 'a', isRight: true, upper: 2, middle: 0.5, lower: 0.5 },
      { id: 'b', isRight: false, upper: 0, middle: 1.5, lower: 1.5 },
    ]);
  });
  it('leave out those whose attempt did not hold the question', () => {
    const found = itemStatistics(items(2), [{ earned: [1, null] }, { earned: [0, 1] }, { earned: [null, 1] }]);
    expect(found.map((i) => [i.attempts, i.shareRight])).toEqual([
      [2, 0.5],
      [2, 1],
    ]);
  });
});

describe('reliability', () => {
  // Table 2 of Shrout and Fleiss (1979): ICC(3,4), which is alpha, is 0.91; its interval by F is 0.68 to 0.99.
  const judged = [
    [9, 2, 5, 8],
    [6, 1, 3, 2],
    [8, 4, 6, 8],
    [7, 1, 2, 6],
    [10, 5, 6, 9],
    [6, 2, 4, 7],
  ];
  it('is alpha with the interval of a published table', () => {
    const found = reliability(judged, [10, 10, 10, 10]);
    expect(found?.alpha).toBeCloseTo(0.9093, 4);
    expect(found?.low).toBeCloseTo(0.676, 3);
    expect(found?.high).toBeCloseTo(0.986, 3);
    expect(found?.kr20).toBeNull();
  });
  it('is the same by KR-20 where all is right or wrong', () => {
    const found = reliability(
      [
        [1, 1, 1, 0],
        [1, 1, 0, 0],
        [1, 0, 1, 1],
        [0, 0, 0, 0],
        [1, 1, 1, 1],
      ],
      [1, 1, 1, 1],
    );
    expect(found?.kr20).toBeCloseTo(found?.alpha ?? 0, 12);
    // Σpq = 0.16 + 0.24 + 0.24 + 0.24; population variance of the totals 3, 2, 3, 0, 4 is 1.84.
    expect(found?.kr20).toBeCloseTo((4 / 3) * (1 - 0.88 / 1.84), 12);
    expect(found?.sem).toBeCloseTo(Math.sqrt(2.3 * (1 - (found?.alpha ?? 0))), 12);
  });
  it('is worked out over the questions that everybody had, without those that were dropped', () => {
    const whole = reliability(judged, [10, 10, 10, 10]);
    const others = judged.map((row, n) => [...row, n === 2 ? null : 7, 0]);
    const found = reliability(others, [10, 10, 10, 10, 10, 0]);
    expect(found?.alpha).toBe(whole?.alpha);
    expect(found?.from).toMatchObject({ questions: 4, leftOut: 2 });
  });
  it('is none where people answered different questions, are too few, or all the same', () => {
    expect(
      reliability(
        [
          [1, null],
          [1, 1],
          [0, 1],
        ],
        [1, 1],
      ),
    ).toBeNull();
    expect(
      reliability(
        [
          [1, 1],
          [0, 1],
        ],
        [1, 1],
      ),
    ).toBeNull();
    expect(reliability([[1], [0], [1]], [1])).toBeNull();
    expect(
      reliability(
        [
          [1, 0],
          [0, 1],
          [1, 0],
        ],
        [1, 1],
      ),
    ).toBeNull();
    expect(
      reliability(
        [
          [1, 1],
          [0, 0],
          [1, 1],
        ],
        [1, 1],
      ),
    ).toMatchObject({ alpha: 1, low: null, high: null, sem: 0 });
  });
  it('of another length is told by Spearman and Brown', () => {
    expect(expectedReliability(0.6, 2)).toBeCloseTo(0.75, 12);
    expect(expectedReliability(0.9093, 0.25)).toBeCloseTo(0.7148, 4);
    expect(expectedReliability(-0.9, 3)).toBeNull();
    expect(() => expectedReliability(0.5, 0)).toThrow('more than 0');
  });
});

describe('what there is to think about', () => {
  const letter = (id: string): string => id.toUpperCase();
  const option = (id: string, isRight: boolean, upper: number, middle: number, lower: number) => ({ id, isRight, upper, middle, lower });
  const item = (more: Partial<ItemStatistics>): Omit<ItemStatistics, 'from'> => ({
    id: 'q',
    attempts: 48,
    shareRight: 0.6,
    itemRest: 0.4,
    upperLower: 0.5,
    options: [],
    ...more,
  });
  it('is said in words: a key that the best do not agree with first', () => {
    const options = [option('a', true, 3, 6, 6), option('b', false, 11, 6, 3), option('c', false, 2, 4, 7), option('d', false, 0, 0, 0)];
    expect(itemFlags(item({ options, itemRest: -0.3, shareRight: 0.31 }), letter)).toEqual([
      'Most of the best students chose B, which the key calls wrong: is the key right?',
      'Those who did well in the rest did worse here.',
      'D is picked by hardly anybody.',
    ]);
  });
  it('says what is too easy, too hard, or tells nothing', () => {
    expect(itemFlags(item({ shareRight: 0.98, itemRest: 0.02 }), letter)).toEqual([
      'Nearly everybody is right (98 %): it parts nobody from anybody.',
    ]);
    expect(itemFlags(item({ shareRight: 0.12 }), letter)).toEqual(['Few are right (12 %).']);
    expect(itemFlags(item({ itemRest: 0.04 }), letter)).toEqual([
      'Right or wrong here goes with nothing in the rest: it tells little about anybody.',
    ]);
    expect(itemFlags(item({}), letter)).toEqual([]);
  });
  it('is honest on few attempts', () => {
    expect(itemFlags(item({ attempts: 12, itemRest: -0.9 }), letter)).toEqual([
      '12 attempts are too few to judge a question by; thirty are a beginning.',
    ]);
  });
});

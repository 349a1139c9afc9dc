import fc from 'fast-check';
import { fQuantile, incompleteBeta, logGamma } from '../statistics/fDistribution.ts';
import { markingDrift } from './drift.ts';
import { iccRotating, iccSame, type Ratings } from './icc.ts';
import { weightedKappa } from './kappa.ts';
import { limitsOfAgreement } from './limits.ts';

/** Six works judged by four: table 2 of Shrout and Fleiss (1979). */
const SHROUT: Ratings = [
  [9, 2, 5, 8],
  [6, 1, 3, 2],
  [8, 4, 6, 8],
  [7, 1, 2, 6],
  [10, 5, 6, 9],
  [6, 2, 4, 7],
];

describe('agreement on levels', () => {
  it('as in the worked example', () => {
    expect(
      weightedKappa(
        [
          [0, 0],
          [1, 1],
          [2, 2],
          [2, 1],
        ],
        3,
      ),
    ).toBeCloseTo(0.8, 10);
  });
  it('is 1 where they always agree, and 0 where one knows nothing of the other', () => {
    expect(
      weightedKappa(
        [
          [0, 0],
          [1, 1],
          [3, 3],
        ],
        4,
      ),
    ).toBe(1);
    expect(
      weightedKappa(
        [
          [0, 0],
          [0, 1],
          [1, 0],
          [1, 1],
        ],
        2,
      ),
    ).toBeCloseTo(0, 12);
  });
  it('is not said of one pair, nor where all are alike', () => {
    expect(weightedKappa([[1, 1]], 3)).toBeNull();
    expect(
      weightedKappa(
        [
          [2, 2],
          [2, 2],
        ],
        3,
      ),
    ).toBeNull();
  });
  it('refuses a level outside the scale', () => {
    expect(() => weightedKappa([[0, 3]], 3)).toThrow('outside');
    expect(() => weightedKappa([], 1)).toThrow('two levels');
  });
  it('does not care who of the two is first, nor passes 1', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(4), fc.nat(4)), { minLength: 2, maxLength: 30 }), (pairs) => {
        const kappa = weightedKappa(pairs, 5);
        const other = weightedKappa(
          pairs.map(([a, b]) => [b, a] as const),
          5,
        );
        if (kappa === null) expect(other).toBeNull();
        else {
          expect(other).toBeCloseTo(kappa, 10);
          expect(kappa).toBeLessThanOrEqual(1);
        }
      }),
    );
  });
});

describe('agreement on scores', () => {
  it('is as published: 0.17 where markers rotate, 0.29 where they are the same', () => {
    expect(iccRotating(SHROUT)?.value).toBeCloseTo(0.1657, 3);
    expect(iccSame(SHROUT)?.value).toBeCloseTo(0.2898, 3);
  });
  it('with intervals as other programs give for the same table', () => {
    const [rotating, same] = [iccRotating(SHROUT), iccSame(SHROUT)];
    expect([rotating?.low, rotating?.high].map((v) => v?.toFixed(2))).toEqual(['-0.13', '0.72']);
    expect([same?.low, same?.high].map((v) => v?.toFixed(2))).toEqual(['0.02', '0.76']);
  });
  it('is 1 where they give the same, and is not said of too few or of no spread', () => {
    expect(
      iccSame([
        [1, 1],
        [5, 5],
        [9, 9],
      ]),
    ).toEqual({ value: 1, low: 1, high: 1 });
    expect(iccSame([[1, 2]])).toBeNull();
    expect(
      iccRotating([
        [3, 3],
        [3, 3],
        [3, 3],
      ]),
    ).toBeNull();
  });
  it('has an interval where one marker is harder by the same everywhere', () => {
    const icc = iccSame([10, 14, 18, 22, 30].map((x) => [x, x - 4]));
    expect(icc?.low).toBeLessThan(icc?.value ?? 0);
    expect(icc?.high).toBeGreaterThan(icc?.value ?? 1);
    // A difference that is almost the same everywhere has almost the same interval.
    const almost = iccSame([10, 14, 18, 22, 30].map((x, n) => [x, x - 4 + n * 1e-6]));
    expect(icc?.low).toBeCloseTo(almost?.low ?? NaN, 4);
    expect(icc?.high).toBeCloseTo(almost?.high ?? NaN, 4);
  });
  it('counts one who is always harder against the same, and refuses uneven rows', () => {
    const harder = [10, 14, 18, 22, 30].map((x) => [x, x - 4]);
    expect(iccSame(harder)?.value).toBeLessThan(0.95);
    expect(() => iccSame([[1, 2], [1], [2, 3]])).toThrow('as many');
  });
  it('has limits: mean difference and where 95 of 100 lie', () => {
    const limits = limitsOfAgreement([
      [10, 11],
      [20, 22],
      [30, 33],
    ]);
    expect(limits).toMatchObject({ mean: 2, number: 3 });
    expect([limits?.low, limits?.high].map((v) => v?.toFixed(2))).toEqual(['0.04', '3.96']);
    expect(
      limitsOfAgreement([
        [1, 2],
        [2, 3],
      ]),
    ).toBeNull();
  });
});

describe('the F distribution', () => {
  it.each([
    [0.95, 4, 10, 3.478],
    [0.975, 5, 18, 3.382],
    [0.975, 18, 5, 6.362],
    [0.5, 1, 1, 1],
  ])('below %d with %d and %d degrees lies %d', (p, d1, d2, value) => expect(fQuantile(p, d1, d2)).toBeCloseTo(value, 2));
  it('refuses what is no share', () => {
    expect(() => fQuantile(1, 2, 2)).toThrow('share');
  });
  it('rests on the gamma and beta functions', () => {
    expect(logGamma(5)).toBeCloseTo(Math.log(24), 12);
    expect(logGamma(0.25)).toBeCloseTo(1.288_022_524_698, 10);
    expect(incompleteBeta(0.5, 2, 2)).toBeCloseTo(0.5, 12);
    expect([incompleteBeta(0, 2, 2), incompleteBeta(1, 2, 2)]).toEqual([0, 1]);
  });
});

describe('drift of a marker', () => {
  const marks = (...shares: number[]) => shares.map((share, n) => ({ at: n, share }));
  it('as in the worked example', () => {
    const drift = markingDrift(marks(0.8, 0.8, 0.8, 0.8, 0.8, 0.6, 0.6, 0.6, 0.6, 0.6).reverse());
    expect(drift?.parts.map((p) => p.number)).toEqual([5, 5]);
    expect(drift?.change).toBeCloseTo(-0.2, 12);
    expect(drift?.mean).toBeCloseTo(0.7, 12);
  });
  it('is not said of fewer than ten', () => {
    expect(markingDrift(marks(1, 1, 1, 1, 1, 1, 1, 1, 1))).toBeNull();
  });
  it('takes five parts at most, the first ones larger, and loses nobody', () => {
    const drift = markingDrift(marks(...Array.from({ length: 28 }, () => 0.5)));
    expect(drift?.parts.map((p) => p.number)).toEqual([6, 6, 6, 5, 5]);
  });
});

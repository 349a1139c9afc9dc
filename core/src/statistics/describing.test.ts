import fc from 'fast-check';
import { boxPlot, type BoxPlot } from './boxPlot.ts';
import { percentWords, plotInWords, sharePercent } from './plotWords.ts';
import { spreadWords } from './spreadWords.ts';
import { pairedChange } from './pairedChange.ts';
import { linearCorrelation, rankCorrelation } from './rankCorrelation.ts';
import { changeFromOwnLevel, standardised } from './standardised.ts';

/** Results as they are typed: at most three decimals. */
const number = fc.integer({ min: -50_000, max: 150_000 }).map((n) => n / 1000);
const near = (value: number | null | undefined, want: number): void => {
  expect(value ?? Number.NaN).toBeCloseTo(want, 3);
};

describe('a box plot', () => {
  it('has type 7 quartiles, whiskers within 1.5 of the box, and what is outside by its place', () => {
    expect(boxPlot([20, 1, 2, 3, 4, 5])).toEqual({
      ...{ kind: 'box', number: 6, lowQuartile: 2.25, median: 3.5, highQuartile: 4.75 },
      ...{ lowWhisker: 1, highWhisker: 5, outliers: [0] },
    });
  });
  it.each([
    ['nothing', []],
    ['one result', [3]],
    ['four results', [4, 1, 3, 2]],
  ])('shows the points themselves of %s', (_, values) => {
    expect(boxPlot(values)).toEqual({ kind: 'points', values: [...values].sort((a, b) => a - b) });
  });
  it('of results that are all alike is a line with nothing outside', () => {
    expect(boxPlot([7, 7, 7, 7, 7])).toMatchObject({ lowQuartile: 7, highQuartile: 7, lowWhisker: 7, highWhisker: 7, outliers: [] });
  });
  it('always has its parts in order, and everything is in the whiskers or outside', () => {
    fc.assert(
      fc.property(fc.array(number, { minLength: 5, maxLength: 60 }), (values) => {
        const box = boxPlot(values);
        if (box.kind !== 'box') throw new Error('no box');
        const parts = [box.lowWhisker, box.lowQuartile, box.median, box.highQuartile, box.highWhisker];
        expect(parts).toEqual([...parts].sort((a, b) => a - b));
        const outside = new Set(box.outliers);
        values.forEach((v, n) => expect(v >= box.lowWhisker - 1e-9 && v <= box.highWhisker + 1e-9).toBe(!outside.has(n)));
      }),
    );
  });
  it('refuses what is no number', () => {
    expect(() => boxPlot([1, Number.NaN])).toThrow('no number');
  });
});

describe('a paired change', () => {
  it('has the mean, its t interval and the effect size of the worked example', () => {
    const change = pairedChange([
      [0.5, 0.6],
      [0.6, 0.8],
      [0.4, 0.5],
      [0.7, 0.7],
      [0.5, 0.6],
    ]);
    near(change.mean, 0.1);
    near(change.interval?.[0], 0.012);
    near(change.interval?.[1], 0.188);
    near(change.effect, 1.414);
    expect([change.number, change.rose, change.fell]).toEqual([5, 4, 0]);
  });
  it('agrees with the published sleep data of Student: mean 1.58, interval 0.70 to 2.46', () => {
    const first = [0.7, -1.6, -0.2, -1.2, -0.1, 3.4, 3.7, 0.8, 0, 2];
    const second = [1.9, 0.8, 1.1, 0.1, -0.1, 4.4, 5.5, 1.6, 4.6, 3.4];
    const change = pairedChange(first.map((value, n) => [value, second[n] ?? 0] as const));
    near(change.mean, 1.58);
    near(change.interval?.[0], 0.7001);
    near(change.interval?.[1], 2.4599);
  });
  it('says no more than thin data can', () => {
    expect(pairedChange([])).toEqual({ number: 0, mean: null, interval: null, effect: null, rose: 0, fell: 0 });
    expect(pairedChange([[0.2, 0.5]])).toMatchObject({ mean: expect.closeTo(0.3, 9), interval: null, effect: null, rose: 1 });
    const alike = pairedChange(Array.from({ length: 6 }, () => [0.5, 0.7] as const));
    expect(alike.effect).toBeNull();
    near(alike.interval?.[0], 0.2);
    expect(() => pairedChange([[Number.NaN, 1]])).toThrow('no number');
  });
});

describe('a rank correlation', () => {
  const ten = Array.from({ length: 10 }, (_, n) => n);
  it('is 1 in the same order, −1 in the opposite, whatever the distances', () => {
    expect(rankCorrelation(ten.map((n) => [n, n ** 3])).rho).toBe(1);
    expect(rankCorrelation(ten.map((n) => [n, -(2 ** n)])).rho).toBe(-1);
  });
  it('agrees with a published example with ties, and has its interval about it', () => {
    // IQ against hours of television: ρ = −29/165.
    const iq = [106, 100, 86, 101, 99, 103, 97, 113, 112, 110];
    const hours = [7, 27, 2, 50, 28, 29, 20, 12, 6, 17];
    const { rho, interval } = rankCorrelation(iq.map((v, n) => [v, hours[n] ?? 0]));
    near(rho, -29 / 165);
    expect((interval?.[0] ?? 0) < -29 / 165 && (interval?.[1] ?? 0) > -29 / 165).toBe(true);
    near(interval?.[0], Math.tanh(Math.atanh(-29 / 165) - 1.959964 * Math.sqrt(1.06 / 7)));
  });
  it('shares ranks among those that are alike', () => {
    const { rho } = rankCorrelation(ten.map((n) => [Math.floor(n / 2), n]));
    expect((rho ?? 0) > 0.97 && (rho ?? 0) < 1).toBe(true);
  });
  it('is none below ten pairs, or where one measure does not vary', () => {
    expect(rankCorrelation(ten.slice(1).map((n) => [n, n]))).toEqual({ number: 9, rho: null, interval: null });
    expect(rankCorrelation(ten.map((n) => [n, 3])).rho).toBeNull();
    expect(() => rankCorrelation([[Number.NaN, 1]])).toThrow('no number');
  });
  it('lies within its interval, and both within −1 and 1', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(number, number), { minLength: 10, maxLength: 40 }), (pairs) => {
        const { rho, interval } = rankCorrelation(pairs);
        if (rho === null || interval === null) return;
        expect(interval[0] >= -1 && interval[0] <= rho + 1e-9 && rho <= interval[1] + 1e-9 && interval[1] <= 1).toBe(true);
      }),
    );
  });
});

describe('a correlation along a line', () => {
  it('agrees with a published example: the first of Anscombe’s four, r = 0.816', () => {
    const x = [10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5];
    const y = [8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68];
    const { r, interval } = linearCorrelation(x.map((v, n) => [v, y[n] ?? 0]));
    near(r, 0.816);
    near(interval?.[0], 0.4244);
    near(interval?.[1], 0.9507);
  });
  it('is 1 on a rising line and −1 on a falling one, and none where it cannot be', () => {
    const ten = Array.from({ length: 10 }, (_, n) => n);
    expect(linearCorrelation(ten.map((n) => [n, 0.1 * n + 3]))).toEqual({ number: 10, r: 1, interval: [1, 1] });
    expect(linearCorrelation(ten.map((n) => [n, -7 * n])).r).toBe(-1);
    expect(linearCorrelation(ten.slice(1).map((n) => [n, n])).r).toBeNull();
    expect(linearCorrelation(ten.map((n) => [n, 4])).r).toBeNull();
    expect(() => linearCorrelation([[Number.NaN, 1]])).toThrow('no number');
  });
});

describe('a standardised result', () => {
  it('is its distance from the mean in spreads of the class', () => {
    const all = standardised([0.4, 0.5, 0.6, 0.7, 0.8]);
    [-1.265, -0.632, 0, 0.632, 1.265].forEach((want, n) => near(all?.[n], want));
  });
  it('is none of four results, nor where all are alike', () => {
    expect([standardised([0.1, 0.2, 0.3, 0.4]), standardised([0.5, 0.5, 0.5, 0.5, 0.5])]).toEqual([null, null]);
    expect(() => standardised([Number.NaN])).toThrow('no number');
  });
  it('falls from one’s own level: the last three against the median of those before', () => {
    near(changeFromOwnLevel([0.5, 0.7, 0.6, -0.5, -0.4, -0.6]), -1.1);
    expect(changeFromOwnLevel([0.5, 0.7, 0.6, 0.4])).toBeNull();
  });
});

describe('what a spread suggests', () => {
  const box = (...values: readonly number[]): BoxPlot => boxPlot(values);
  const usual = Array.from({ length: 3 }, () => box(0.7, 0.72, 0.75, 0.78, 0.8));
  it('names what most found easy or hard, with the median', () => {
    expect(spreadWords(box(0.9, 0.93, 0.94, 0.96, 1), usual)).toEqual(['median 94 %: most found this easy']);
    expect(spreadWords(box(0.3, 0.4, 0.45, 0.46, 0.5), [])).toEqual(['median 45 %: most found this hard']);
  });
  it('names what is twice as wide as the rest, where there are three to hold it against', () => {
    const wide = box(0.5, 0.6, 0.7, 0.8, 0.9);
    expect(spreadWords(wide, usual)).toEqual(['spread 3.3 times that of the rest']);
    expect(spreadWords(wide, usual.slice(1))).toEqual([]);
  });
  it('says nothing of four results, nor where the rest does not vary', () => {
    expect(spreadWords(boxPlot([1, 1, 1, 1]), usual)).toEqual([]);
    const flat = Array.from({ length: 3 }, () => box(0.7, 0.7, 0.7, 0.7, 0.7));
    expect(spreadWords(box(0.6, 0.65, 0.7, 0.75, 0.8), flat)).toEqual([]);
  });
});

describe('a plot in words', () => {
  it('has its five numbers, and who is outside by name', () => {
    const values = [0.22, 0.45, 0.62, 0.7, 0.78, 0.8, 0.88, 0.9, 1].map((v) => v);
    const close = [0.1, 0.7, 0.72, 0.75, 0.78, 0.8];
    expect(plotInWords(boxPlot(values), values, [])).toBe('median 78 %, middle half 62 to 88 %, reach 45 to 100 %, outside:  22 %');
    expect(plotInWords(boxPlot(close), close, ['Montoya', 'b', 'c', 'd', 'e', 'f'])).toContain('outside: Montoya 10 %');
  });
  it('of points names each, and of nothing says so', () => {
    expect(plotInWords(boxPlot([0.5, 1.2]), [0.5, 1.2], ['Abiola', 'Quist'])).toBe('Abiola 50 %, Quist 120 %');
    expect(plotInWords(boxPlot([]), [], [])).toBe('no results yet');
  });
  it.each([
    [0.783, '78 %', 78.3],
    [-0.04, '−4 %', -4],
    [0, '0 %', 0],
  ])('writes %s as %s', (share, words, percent) => {
    expect([percentWords(share), sharePercent(share)]).toEqual([words, percent]);
  });
});

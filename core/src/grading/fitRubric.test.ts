import fc from 'fast-check';
import { fitRubric, type PlainRubric } from './fitRubric.ts';
import { STARTER_RUBRICS } from './starterRubrics.ts';

const criterion = (...points: number[]): PlainRubric['criteria'][number] => ({
  title: 'c',
  levels: points.map((p, n) => ({ title: String(n + 1), descriptor: '', points: p })),
});
const bests = (criteria: PlainRubric['criteria']): number[] => criteria.map((c) => Math.max(...c.levels.map((l) => l.points)));
const sum = (numbers: readonly number[]): number => numbers.reduce((a, b) => a + b, 0);

describe('a rubric fitted to the points of an item', () => {
  it.each([
    [[criterion(0, 10_000, 20_000), criterion(0, 15_000), criterion(0, 15_000)], 60_000, [24_000, 18_000, 18_000]],
    [[criterion(0, 1000), criterion(0, 1000), criterion(0, 1000)], 10_000, [3500, 3500, 3000]],
    [[criterion(0, 1000), criterion(0, 1000)], 333, [167, 166]],
    [[criterion(0, 0), criterion(0, 0)], 10_000, [5000, 5000]],
    [[criterion(0, 10_000)], 0, [0]],
  ])('%#', (criteria, possible, expected) => expect(bests(fitRubric(criteria, possible))).toEqual(expected));

  it('keeps the share of each level', () => {
    expect(fitRubric([criterion(0, 10_000, 20_000), criterion(0, 30_000)], 60_000)[0]?.levels.map((l) => l.points)).toEqual([
      0, 12_000, 24_000,
    ]);
  });

  it('adds up exactly, and no level passes a better one', () => {
    const points = fc.integer({ min: 0, max: 200 }).map((n) => n * 500);
    const rubric = fc.array(
      fc.array(points, { minLength: 2, maxLength: 6 }).map((p) => criterion(...p.sort((a, b) => a - b))),
      { minLength: 1, maxLength: 8 },
    );
    fc.assert(
      fc.property(rubric, fc.integer({ min: 0, max: 1_000_000 }), (criteria, possible) => {
        const fitted = fitRubric(criteria, possible);
        expect(sum(bests(fitted))).toBe(possible);
        for (const c of fitted)
          for (const [n, l] of c.levels.entries()) expect(l.points).toBeGreaterThanOrEqual(c.levels[n - 1]?.points ?? 0);
      }),
    );
  });

  it('leaves a rubric of no criteria as it is', () => expect(fitRubric([], 5000)).toEqual([]));
});

describe('the rubrics to begin with', () => {
  it.each(STARTER_RUBRICS)('$title has levels that rise, each said in words', ({ criteria }) => {
    expect(criteria.length).toBeGreaterThanOrEqual(3);
    for (const c of criteria) {
      expect(c.levels[0]?.points).toBe(0);
      expect(c.levels.every((l, n) => l.descriptor !== '' && l.points > (c.levels[n - 1]?.points ?? -1))).toBe(true);
    }
  });
});

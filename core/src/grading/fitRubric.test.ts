import fc from 'fast-check';
import { fitRubric, weighRubric, type PlainRubric } from './fitRubric.ts';
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

describe('criteria of other forms', () => {
  const comment: PlainRubric['criteria'][number] = { title: 'Style', form: 'comment', levels: [] };
  it('judged in words weigh nothing', () => {
    expect(bests([fitRubric([criterion(0, 10_000), comment], 60_000)[0]!])).toEqual([60_000]);
    expect(fitRubric([comment], 60_000)).toEqual([comment]);
    expect(bests(fitRubric([criterion(0, 0), comment, criterion(0, 0)], 10_000).filter((c) => c.form !== 'comment'))).toEqual([5000, 5000]);
  });
  it('keep their bounds, and the least of a range its share', () => {
    const range: PlainRubric['criteria'][number] = {
      title: 'r',
      form: 'range',
      levels: [{ title: 'good', descriptor: '', points: 10_000, least: 6000, upTo: null }],
    };
    const count: PlainRubric['criteria'][number] = {
      title: 'n',
      form: 'count',
      levels: [
        { title: '', descriptor: '', points: 10_000, upTo: 2 },
        { title: '', descriptor: '', points: 0, upTo: null },
      ],
    };
    const [r, n] = fitRubric([range, count], 40_000);
    expect(r?.levels[0]).toMatchObject({ points: 20_000, least: 12_000 });
    expect(n?.levels.map((l) => [l.points, l.upTo])).toEqual([
      [20_000, 2],
      [0, null],
    ]);
  });
});

describe('a rubric whose criteria are weighed', () => {
  it('has the points that follow', () => {
    const weighed = weighRubric([criterion(0, 5000, 10_000), criterion(0, 7000), criterion(0, 1000)], [50, 30, 20], 60_000);
    expect(bests(weighed)).toEqual([30_000, 18_000, 12_000]);
    expect(weighed[0]?.levels.map((l) => l.points)).toEqual([0, 15_000, 30_000]);
  });
  it('gives a criterion of weight 0 nothing, and one without points its weight', () => {
    expect(bests(weighRubric([criterion(0, 10_000), criterion(0, 0)], [0, 100], 20_000))).toEqual([0, 20_000]);
  });
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

import fc from 'fast-check';
import { exactAsText, ratio, readExact, toRatio } from '../exact/ratio.ts';
import { blank, category, column, marked, policy } from './smallCourse.ts';
import { beginSupposing, neededFor, sentCell, shareInWords, supposeTotals, type SupposeFacts } from './suppose.ts';
import { readTotal } from './scheme.ts';
import { prepare, threeTotals } from './totals.ts';

const facts = (cells: Parameters<typeof sentCell>[0][], more: Partial<SupposeFacts> = {}): SupposeFacts => ({
  policy: policy([category('bench', 100)]),
  columns: cells.map((_, n) => column(`c${n}`, 100, { order: n })),
  cells: cells.map(sentCell),
  ...more,
});

describe('an exact value on its way', () => {
  it('comes back as it was, whatever it is', () => {
    fc.assert(
      fc.property(fc.bigInt({ min: -(10n ** 15n), max: 10n ** 15n }), fc.bigInt({ min: 1n, max: 10n ** 6n }), (top, bottom) => {
        const value = ratio(top, bottom);
        expect(toRatio(readExact(exactAsText(value))).equals(value)).toBe(true);
      }),
    );
    expect(() => readExact('1.5')).toThrow('“1.5” is not an exact value.');
  });
});

describe('suppose', () => {
  it('works the totals out again with what is supposed, and leaves the rest as it is', () => {
    const s = beginSupposing(facts([marked(80), blank(100)]));
    expect(supposeTotals(s, new Map()).soFar?.percent).toBe('80.0');
    const made = supposeTotals(s, new Map([['c1', 100_000]]));
    expect([made.soFar?.percent, made.floor?.percent, made.reach?.percent]).toEqual(['90.0', '90.0', '90.0']);
    expect(made.soFar?.letter).toBe('A');
  });

  it('is open where no result is and one can still come', () => {
    const s = beginSupposing(
      facts([marked(80), blank(100), blank(100, 'missing', 0), blank(100, 'exempt'), blank(100, 'outside'), blank(100, 'missing', 50)]),
    );
    expect(s.open.map((c) => c.id)).toEqual(['c1', 'c5']);
  });

  it('agrees with the real calculation for any cells and suppositions', () => {
    const cell = fc.oneof(
      fc.integer({ min: 0, max: 100 }).map(marked),
      fc.constant(blank(100)),
      fc.constant(blank(100, 'missing', 0)),
      fc.constant(blank(100, 'exempt')),
    );
    const supposed = fc.array(fc.option(fc.integer({ min: 0, max: 100_000 }), { nil: null }), { minLength: 5, maxLength: 5 });
    fc.assert(
      fc.property(fc.array(cell, { minLength: 5, maxLength: 5 }), supposed, fc.integer({ min: 0, max: 2 }), (cells, typed, dropLowest) => {
        const own = policy([category('bench', 100, { dropLowest })]);
        const s = beginSupposing(facts(cells, { policy: own }));
        const map = new Map(typed.flatMap((value, n): [string, number][] => (value === null ? [] : [[`c${n}`, value]])));
        const real = threeTotals(
          prepare(own, s.facts.columns),
          cells.map((c, n) => (map.has(`c${n}`) ? marked((map.get(`c${n}`) ?? 0) / 1000) : c)),
        );
        const made = supposeTotals(s, map);
        for (const kind of ['soFar', 'floor', 'reach'] as const)
          expect(made[kind]).toEqual(readTotal(real[kind].ratio, own.decimals, own.levels));
      }),
    );
  });
});

describe('what is needed for a letter', () => {
  it('is the same share at all that is open, and a number of points at each alone', () => {
    const s = beginSupposing(facts([marked(70), blank(100), blank(100)]));
    const needed = neededFor(s, new Map(), 75_000);
    // (70 + 2x) / 300 is read as 75.0 from 74.95 on.
    expect(needed.share).toBe(77_425);
    expect(needed.alone.map((a) => a.points)).toEqual([79_900, 79_900]);
    expect(shareInWords(77_425)).toBe('77.5 %');
  });

  it('says that nothing is enough, that it is reached already, and that nothing is open', () => {
    const low = beginSupposing(facts([marked(10), blank(100)]));
    expect(neededFor(low, new Map(), 87_000)).toMatchObject({ share: null, alone: [{ points: null }] });
    const high = beginSupposing(facts([marked(100), blank(100)]));
    expect(neededFor(high, new Map(), 50_000).share).toBe(0);
    expect(neededFor(beginSupposing(facts([marked(50)])), new Map(), 0)).toEqual({ share: null, alone: [] });
  });

  it('keeps what is supposed, and asks of the rest', () => {
    const s = beginSupposing(facts([marked(70), blank(100), blank(100)]));
    const needed = neededFor(s, new Map([['c1', 50_000]]), 75_000);
    expect(needed.alone.map((a) => a.column.id)).toEqual(['c2']);
    expect(needed.share).toBeNull();
  });

  it('is enough, and a little less is not', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 1, max: 3 }),
        fc.nat(2),
        (marks, many, dropLowest) => {
          const cells = [...marks.map((m) => marked(m)), ...Array.from({ length: many }, () => blank(100))];
          const s = beginSupposing(facts(cells, { policy: policy([category('bench', 100, { dropLowest })]) }));
          const { share } = neededFor(s, new Map(), 73_000);
          const at = (value: number) =>
            supposeTotals(s, new Map(s.open.map((c) => [c.id, Math.ceil((c.possible * value) / 100_000)]))).soFar?.letter ?? 'F';
          if (share === null) expect(at(100_000) > 'B').toBe(true);
          else {
            expect(at(share) <= 'B').toBe(true);
            if (share > 0) expect(at(share - 1) > 'B').toBe(true);
          }
        },
      ),
      { numRuns: 40 },
    );
  });
});

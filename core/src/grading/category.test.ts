import fc from 'fast-check';
import {
  exactText,
  OUTSIDE,
  ratio,
  roundHalfUp,
  totalCategory,
  type Basis,
  type Counted,
  type Exact,
  type GradedColumn,
  type Ratio,
} from '../index.ts';

const column = (possible: number, more: Partial<GradedColumn> = {}): GradedColumn => ({
  id: 'i',
  itemId: 'i',
  title: 'i',
  categoryId: null,
  periodId: null,
  possible: possible * 1000,
  multiplier: 1000,
  isExtraCredit: false,
  dueAt: null,
  order: 0,
  ...more,
});
const counted = (pairs: readonly (readonly [Exact, GradedColumn])[]): Counted => ({
  columns: pairs.map(([, i]) => i),
  cells: pairs.map(() => OUTSIDE),
  earned: pairs.map(([e]) => e),
  basis: pairs.map((): Basis => 'mark'),
});
const NONE = { dropLowest: 0, keepBest: 0, dropHighest: 0 };
const LOWEST = { ...NONE, dropLowest: 1 };
/** The same value, written so that it takes the way of big integers. */
const big = (value: number): Ratio => ratio(value);

describe('a category', () => {
  it('by points divides what was earned by what was possible', () => {
    const total = totalCategory(
      counted([
        [48_000, column(60)],
        [45_125, column(60)],
        [33_000, column(40)],
      ]),
      'points',
      NONE,
      false,
    );
    expect(exactText(total.ratio!)).toBe('0.78828125');
    expect([exactText(total.earned.div(1_000_000)), exactText(total.possible.div(1_000_000))]).toEqual(['126.125', '160']);
  });

  it('by equal share gives every item the same weight whatever its points', () => {
    const total = totalCategory(
      counted([
        [5_000, column(10)],
        [100_000, column(100)],
      ]),
      'share',
      NONE,
      false,
    );
    expect(exactText(total.ratio!)).toBe('0.75');
  });

  it('leaves out the item whose absence helps most, which is not always the lowest percentage', () => {
    const pairs = [
      [9_000, column(10, { order: 0 })],
      [40_000, column(80, { order: 1 })],
      [4_500, column(10, { order: 2 })],
    ] as const;
    const total = totalCategory(counted(pairs), 'points', LOWEST, false);
    expect(total.lines.map((l) => l.leftOut)).toEqual([null, 'lowest', null]);
    expect(exactText(total.ratio!)).toBe('0.675');
  });

  it('settles a tie by the earliest due, then by the order in the Plan', () => {
    const tie = (a: Partial<GradedColumn>, b: Partial<GradedColumn>) =>
      totalCategory(
        counted([
          [5_000, column(10, a)],
          [5_000, column(10, b)],
        ]),
        'points',
        LOWEST,
        false,
      ).lines.map((l) => l.leftOut);
    expect(tie({ dueAt: 200, order: 0 }, { dueAt: 100, order: 1 })).toEqual([null, 'lowest']);
    expect(tie({ dueAt: 100, order: 1 }, { dueAt: 100, order: 0 })).toEqual([null, 'lowest']);
    expect(tie({ dueAt: null, order: 0 }, { dueAt: 100, order: 1 })).toEqual([null, 'lowest']);
  });

  it('never leaves out everything', () => {
    const total = totalCategory(
      counted([
        [5_000, column(10)],
        [6_000, column(10, { order: 1 })],
      ]),
      'points',
      { ...NONE, dropLowest: 9 },
      false,
    );
    expect(exactText(total.ratio!)).toBe('0.6');
    const one = totalCategory(counted([[5_000, column(10)]]), 'share', { dropLowest: 1, keepBest: 0, dropHighest: 1 }, false);
    expect(exactText(one.ratio!)).toBe('0.5');
  });

  it('keeps the best n, and leaves out the highest after the lowest by equal share only', () => {
    const four = [2, 5, 7, 10].map((e, n) => [e * 1000, column(10, { order: n })] as const);
    expect(exactText(totalCategory(counted(four), 'share', { ...NONE, keepBest: 2 }, false).ratio!)).toBe('0.85');
    expect(exactText(totalCategory(counted(four), 'share', { dropLowest: 1, keepBest: 0, dropHighest: 1 }, false).ratio!)).toBe('0.6');
    expect(exactText(totalCategory(counted(four), 'points', { dropLowest: 1, keepBest: 0, dropHighest: 1 }, false).ratio!)).toBe(
      exactText(ratio(22, 30)),
    );
  });

  it('adds extra credit and items worth nothing to the numerator only', () => {
    const extra = [
      [8_000, column(10)],
      [2_000, column(5, { isExtraCredit: true })],
      [1_000, column(0)],
    ] as const;
    expect(exactText(totalCategory(counted(extra), 'points', NONE, false).ratio!)).toBe('1.1');
    // By equal share: 0.8 + 2/5 + 1 of 100.
    expect(exactText(totalCategory(counted(extra), 'share', NONE, false).ratio!)).toBe('1.21');
  });

  it('has no result where only extra credit counted, and is capped when asked', () => {
    const only = totalCategory(counted([[3_000, column(5, { isExtraCredit: true })]]), 'points', NONE, true);
    expect([only.ratio, only.share, only.isCapped]).toEqual([null, null, false]);
    const over = totalCategory(counted([[12_000, column(10)]]), 'points', NONE, true);
    expect([exactText(over.ratio!), over.isCapped]).toEqual(['1', true]);
  });

  it('weighs by multipliers without touching the score that is shown', () => {
    const total = totalCategory(
      counted([
        [10_000, column(10, { multiplier: 3000 })],
        [0, column(10)],
      ]),
      'points',
      NONE,
      false,
    );
    expect(exactText(total.ratio!)).toBe('0.75');
    expect(total.lines[0]?.earned).toBe(10_000);
  });
});

describe('plain numbers and big integers', () => {
  const anyWork = fc.array(
    fc.record({
      earned: fc.integer({ min: 0, max: 40_000 }),
      possible: fc.constantFrom(0, 7, 10, 20, 30, 64, 100),
      multiplier: fc.constantFrom(500, 1000, 1250),
      isExtraCredit: fc.boolean(),
      dueAt: fc.option(fc.integer({ min: 1, max: 3 }), { nil: null }),
    }),
    { minLength: 1, maxLength: 8 },
  );
  const drops = fc.record({
    dropLowest: fc.integer({ min: 0, max: 3 }),
    keepBest: fc.integer({ min: 0, max: 3 }),
    dropHighest: fc.integer({ min: 0, max: 2 }),
  });

  it('give the same result and leave out the same items', () => {
    fc.assert(
      fc.property(
        anyWork,
        drops,
        fc.constantFrom('points' as const, 'share' as const),
        fc.boolean(),
        (work, dropping, method, isCapped) => {
          const columns = work.map((w, n) =>
            column(w.possible, { multiplier: w.multiplier, isExtraCredit: w.isExtraCredit, dueAt: w.dueAt, order: n }),
          );
          const plain = totalCategory(counted(work.map((w, n) => [w.earned, columns[n]!] as const)), method, dropping, isCapped);
          const slow = totalCategory(counted(work.map((w, n) => [big(w.earned), columns[n]!] as const)), method, dropping, isCapped);
          expect(plain.ratio === null ? null : exactText(plain.ratio)).toBe(slow.ratio === null ? null : exactText(slow.ratio));
          expect(plain.lines.map((l) => l.leftOut)).toEqual(slow.lines.map((l) => l.leftOut));
          expect([exactText(plain.earned), exactText(plain.possible)]).toEqual([exactText(slow.earned), exactText(slow.possible)]);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('stay exact where a late penalty is finer than a thousandth', () => {
    const fine = ratio(47_525, 1).mul(ratio(95, 100)).div(3);
    const total = totalCategory(
      counted([
        [fine, column(60)],
        [30_000, column(40)],
      ]),
      'points',
      NONE,
      false,
    );
    expect(total.ratio!.equals(fine.add(30_000).div(100_000))).toBe(true);
    expect(roundHalfUp(total.ratio!.mul(100), 1)).toBe('45.0');
  });

  it('stay exact with the largest points and unlike shares', () => {
    const awkward = [9_999_991, 9_999_973, 9_999_971, 9_999_943].map(
      (possible, n) => [possible - 1, { ...column(0), possible, order: n }] as const,
    );
    const total = totalCategory(counted(awkward), 'share', LOWEST, false);
    const shares = awkward.map(([e, i]) => ratio(e, i.possible)).sort((a, b) => b.compare(a));
    expect(total.ratio!.equals(shares[0]!.add(shares[1]!).add(shares[2]!).div(3))).toBe(true);
  });

  it('leave out what brute force leaves out', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 20 }), fc.integer({ min: 1, max: 20 })), { minLength: 2, maxLength: 7 }),
        fc.integer({ min: 1, max: 3 }),
        (work, n) => {
          const columns = work.map(([, possible], order) => column(possible, { order }));
          const total = totalCategory(
            counted(work.map(([e], k) => [e * 1000, columns[k]!] as const)),
            'points',
            { ...NONE, dropLowest: n },
            false,
          );
          const many = Math.min(n, work.length - 1);
          let best = ratio(-1);
          for (let mask = 0; mask < 1 << work.length; mask += 1) {
            const kept = work.filter((_, k) => (mask & (1 << k)) === 0);
            if (work.length - kept.length !== many) continue;
            const r = ratio(
              kept.reduce((s, [e]) => s + e, 0),
              kept.reduce((s, [, p]) => s + p, 0),
            );
            if (r.compare(best) > 0) best = r;
          }
          expect(exactText(total.ratio!)).toBe(exactText(best));
        },
      ),
      { numRuns: 300 },
    );
  });
});

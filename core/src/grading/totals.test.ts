import fc from 'fast-check';
import {
  applyLate,
  exactText,
  OUTSIDE,
  prepare,
  readTotal,
  rippleOf,
  rippleSentence,
  roundHalfUp,
  rubricScore,
  schemeFault,
  threeTotals,
  totalOf,
  workingOfCell,
  workingOfTotal,
  type GradedCell,
  type LatePolicy,
  type WorkingLine,
} from '../index.ts';
import { blank, category, column, marked, policy } from './smallCourse.ts';

const daily: LatePolicy = { ratePercent: 5000, stepMinutes: 1440, base: 'earned', capPercent: 50_000, floorPercent: 0, graceMinutes: 0 };
const DAY = 86_400_000;
const texts = (lines: readonly WorkingLine[]): string[] => lines.flatMap((l) => [`${l.rule}|${l.value}`, ...texts(l.lines)]);

describe('late work', () => {
  it('loses nothing on time or within grace', () => {
    expect(applyLate({ earned: 47_500, possible: 60_000, handedInAt: DAY, dueAt: DAY, policy: daily }).late).toBeNull();
    expect(
      applyLate({ earned: 47_500, possible: 60_000, handedInAt: DAY + 60_000, dueAt: DAY, policy: { ...daily, graceMinutes: 1 } }).late,
    ).toBeNull();
  });

  it('loses 5 % of what was earned for each begun day', () => {
    const { result, late } = applyLate({ earned: 47_500, possible: 60_000, handedInAt: DAY + 1, dueAt: DAY, policy: daily });
    expect(result).toBe(45_125);
    expect(late).toMatchObject({ steps: 1, penalty: 2375 });
  });

  it('stops at the cap, keeps the floor, and a floor never raises a mark', () => {
    const at = (policyMore: Partial<LatePolicy>, earned: number): unknown =>
      applyLate({ earned, possible: 60_000, handedInAt: 100 * DAY, dueAt: DAY, policy: { ...daily, ...policyMore } }).result;
    expect(at({}, 40_000)).toBe(20_000);
    expect(at({ floorPercent: 50_000 }, 40_000)).toBe(30_000);
    expect(at({ floorPercent: 50_000 }, 20_000)).toBe(20_000);
  });

  it('keeps what is finer than a thousandth exact', () => {
    const { result } = applyLate({
      earned: 47_525,
      possible: 60_000,
      handedInAt: DAY + 1,
      dueAt: DAY,
      policy: { ...daily, ratePercent: 3333 },
    });
    expect(typeof result === 'number' ? '' : exactText(result.div(1000))).toBe('45.94099175');
  });
});

describe('a category', () => {
  const columns = [column('log', 60), column('drawing', 60), column('worksheet', 40), column('report', 60)];
  const cells = [
    marked(48),
    marked(47.5, { result: 45_125, late: { steps: 1, penalty: 2375, rule: '1 day late', handedInAt: 20, dueAt: 10 } }),
    marked(33),
    marked(37.5, { isReleased: false }),
  ];
  const prepared = prepare(policy([category('bench', 50, { dropLowest: 1 })]), columns);

  it('is 126.125 of 160 with the lowest left out, 78.8 when read', () => {
    const total = totalOf(prepared, cells, 'so far');
    expect(exactText(total.ratio!.mul(100))).toBe('78.828125');
    const lines = texts(workingOfTotal(total, prepared.policy, String));
    expect(lines).toEqual(
      expect.arrayContaining([
        'drawing|47.5 → 45.125 / 60',
        '1 day late|− 2.375',
        'left out: without it the share is greatest|',
        '126.125 of 160 points|78.828125 %',
        'read to one decimal, half up|78.8 %',
        'the letter whose cut-point is reached: from 73|B',
      ]),
    );
  });

  it('opens the working of a single mark', () => {
    expect(workingOfCell(columns[1]!, cells[1]!, String)).toMatchObject({
      value: '47.5 → 45.125 / 60',
      lines: [
        { rule: 'handed in 20, due 10', value: '' },
        { rule: '1 day late', value: '− 2.375' },
      ],
    });
    expect(workingOfCell(columns[1]!, blank(60, 'missing'), String).value).toBe('missing');
  });

  it('has no result, not zero, where only extra credit counted', () => {
    const extra = prepare(policy([category('bench', 100)]), [column('bonus', 5, { isExtraCredit: true })]);
    expect(totalOf(extra, [marked(5)], 'so far').ratio).toBeNull();
  });

  it('adds extra credit and worthless items to the numerator only', () => {
    const extra = prepare(policy([category('bench', 100)]), [
      column('a', 50),
      column('bonus', 5, { isExtraCredit: true }),
      column('gift', 0),
    ]);
    expect(exactText(totalOf(extra, [marked(40), marked(5), marked(1)], 'so far').ratio!)).toBe('0.92');
  });

  it('weighs by multiplier, and by equal share where asked', () => {
    const items2 = [column('a', 10, { multiplier: 2000 }), column('b', 100)];
    const by = (method: 'points' | 'share') =>
      totalOf(prepare(policy([category('bench', 100, { method })]), items2), [marked(9), marked(50)], 'so far').ratio!;
    expect(exactText(by('points').mul(120))).toBe('68');
    expect(exactText(by('share').mul(3))).toBe('2.3');
  });

  it('caps at 100 % when asked', () => {
    const over = (isCapped: boolean) =>
      totalOf(prepare(policy([category('bench', 100, { isCapped })]), [column('a', 10)]), [marked(12)], 'so far').ratio!;
    expect(exactText(over(false))).toBe('1.2');
    expect(exactText(over(true))).toBe('1');
  });
});

describe('the three totals', () => {
  const columns = [column('q', 20, { categoryId: 'quizzes' }), column('b', 60), column('p', 100, { categoryId: 'papers' })];
  const categories = [category('quizzes', 20), category('bench', 50), category('papers', 30)];

  it('leave an empty category aside, or count it zero, by policy', () => {
    const cells = [marked(17), marked(45), blank(100)];
    const so = (isRenormalised: boolean) => totalOf(prepare(policy(categories, { isRenormalised }), columns), cells, 'so far').ratio!;
    expect(exactText(so(true).mul(700))).toBe('545');
    expect(exactText(so(false).mul(100))).toBe('54.5');
  });

  it('count missing work as zero only where the policy says so', () => {
    const cells = [marked(17), blank(60, 'missing'), OUTSIDE];
    const so = (isMissingZero: boolean) =>
      roundHalfUp(totalOf(prepare(policy(categories, { isMissingZero }), columns), cells, 'so far').ratio!.mul(100), 1);
    expect(so(true)).toBe('24.3');
    expect(so(false)).toBe('85.0');
  });

  it('leave exempt work out of every total and unfinished work out of so far', () => {
    const totals = threeTotals(prepare(policy(categories), columns), [marked(20), blank(60, 'exempt'), blank(100, 'unfinished')]);
    expect(exactText(totals.soFar.ratio!)).toBe('1');
    expect(exactText(totals.floor.ratio!)).toBe('0.4');
    expect(exactText(totals.reach.ratio!)).toBe('1');
  });

  it('count declared work in the grading period it is said for', () => {
    const periods = ['one', 'two'].map((id) => ({ id, title: id, weightPercent: 50_000 }));
    const declaredIn = [
      { periodId: 'one', items: 1, points: 60_000 },
      { periodId: 'two', items: 2, points: 100_000 },
    ];
    const columns = [column('b', 60, { periodId: 'one' }), column('c', 50, { periodId: 'two' })];
    const read = (more: object) => {
      const totals = threeTotals(prepare(policy([category('bench', 100, more)], { periods }), columns), [marked(60), marked(25)]);
      return [totals.soFar, totals.floor, totals.reach].map((t) => t.periods.map((p) => exactText(p.ratio!)).join(' '));
    };
    // In the first all is built; in the second 50 points are still to come.
    expect(read({ declaredIn })).toEqual(['1 0.5', '1 0.25', '1 0.75']);
    // What is said of the periods stands instead of what is said of the whole.
    expect(read({ declaredIn, declaredItems: 9, declaredPoints: 900_000 })).toEqual(read({ declaredIn }));
    expect(read({ declaredItems: 3, declaredPoints: 160_000 })).toEqual(read({ declaredIn }));
    expect(read({ declaredIn: declaredIn.slice(0, 1) })).toEqual(['1 0.5', '1 0.5', '1 0.5']);
    // By equal share it is pieces that count.
    expect(read({ declaredIn, method: 'share' })[1]).toBe('1 0.25');
  });

  it('count declared work from the first week', () => {
    const declared = prepare(policy([category('bench', 100, { declaredPoints: 120_000 })]), [column('b', 60)]);
    const totals = threeTotals(declared, [marked(60)]);
    expect([totals.soFar, totals.floor, totals.reach].map((t) => exactText(t.ratio!))).toEqual(['1', '0.5', '1']);
  });

  it('add an extra-credit category on top of the whole', () => {
    const extra = prepare(policy([category('bench', 100), category('club', 5, { isExtraCredit: true })]), [
      column('b', 60),
      column('c', 10, { categoryId: 'club' }),
    ]);
    expect(exactText(totalOf(extra, [marked(30), marked(10)], 'so far').ratio!)).toBe('0.55');
  });

  it('take weighted periods as the mean of those that have a total', () => {
    const periods = [
      { id: 'one', title: 'First half', weightPercent: 40_000 },
      { id: 'two', title: 'Second half', weightPercent: 60_000 },
    ];
    const two = prepare(policy([category('bench', 100)], { periods }), [
      column('a', 10, { periodId: 'one' }),
      column('b', 10, { periodId: 'two' }),
    ]);
    expect(exactText(totalOf(two, [marked(5), marked(10)], 'so far').ratio!)).toBe('0.8');
    expect(exactText(totalOf(two, [marked(5), blank(10)], 'so far').ratio!)).toBe('0.5');
  });

  it('take the whole as one category where there are no weights, with its drop', () => {
    const one = prepare(policy([], { total: 'points', whole: { dropLowest: 1, keepBest: 0, dropHighest: 0, isCapped: false } }), columns);
    expect(exactText(totalOf(one, [marked(5), marked(60), marked(100)], 'so far').ratio!)).toBe('1');
  });

  const anyCell = fc
    .record({
      kind: fc.constantFrom('marked', 'none', 'missing', 'exempt', 'unfinished', 'outside'),
      points: fc.integer({ min: 0, max: 10_000 }),
      most: fc.integer({ min: 0, max: 10_000 }),
    })
    .map(({ kind, points, most }): GradedCell =>
      kind === 'outside' ? OUTSIDE : kind === 'marked' ? marked(points / 1000) : { ...blank(10, kind as 'none'), mostPossible: most },
    );
  const anyCourse = fc.array(
    fc.record({ cell: anyCell, inBench: fc.boolean(), isExtraCredit: fc.boolean(), multiplier: fc.constantFrom(500, 1000, 2000) }),
    { minLength: 1, maxLength: 9 },
  );

  it('hold floor ≤ reach whatever the drops, methods, multipliers and extra credit', () => {
    fc.assert(
      fc.property(
        anyCourse,
        fc.integer({ min: 0, max: 3 }),
        fc.constantFrom('points' as const, 'share' as const),
        fc.boolean(),
        (course, drop, method, isRenormalised) => {
          const list = course.map((c, n) =>
            column(`i${n}`, 10, {
              order: n,
              categoryId: c.inBench ? 'bench' : 'quizzes',
              isExtraCredit: c.isExtraCredit,
              multiplier: c.multiplier,
            }),
          );
          const prepared = prepare(
            policy([category('bench', 60, { dropLowest: drop, method }), category('quizzes', 40, { keepBest: drop, method })], {
              isRenormalised,
            }),
            list,
          );
          const totals = threeTotals(
            prepared,
            course.map((c) => c.cell),
          );
          expect(totals.floor.ratio === null).toBe(totals.reach.ratio === null);
          if (totals.floor.ratio !== null) expect(totals.floor.ratio.compare(totals.reach.ratio!)).toBeLessThanOrEqual(0);
        },
      ),
      { numRuns: 400 },
    );
  });

  it('hold floor ≤ reach when the highest are left out as well', () => {
    fc.assert(
      fc.property(anyCourse, fc.integer({ min: 0, max: 2 }), fc.integer({ min: 1, max: 2 }), (course, dropLowest, dropHighest) => {
        const list = course.map((c, n) => column(`i${n}`, 10, { order: n, isExtraCredit: c.isExtraCredit }));
        const totals = threeTotals(
          prepare(policy([category('bench', 100, { dropLowest, dropHighest, method: 'share' })]), list),
          course.map((c) => c.cell),
        );
        if (totals.floor.ratio !== null) expect(totals.floor.ratio.compare(totals.reach.ratio!)).toBeLessThanOrEqual(0);
      }),
      { numRuns: 400 },
    );
  });

  it('do not depend on the order of the items', () => {
    fc.assert(
      fc.property(anyCourse, (course) => {
        const list = course.map((c, n) => column(`i${n}`, 10, { order: n, multiplier: c.multiplier }));
        const p = policy([category('bench', 100, { dropLowest: 1 })]);
        const there = totalOf(
          prepare(p, list),
          course.map((c) => c.cell),
          'so far',
        ).ratio;
        const back = totalOf(prepare(p, [...list].reverse()), course.map((c) => c.cell).reverse(), 'so far').ratio;
        expect(there === null ? null : exactText(there)).toBe(back === null ? null : exactText(back));
      }),
    );
  });
});

describe('schemes', () => {
  const { levels } = policy([]);
  it('round once and then read the letter', () => {
    const total = totalOf(prepare(policy([category('bench', 100)]), [column('a', 1000)]), [marked(869.5)], 'so far');
    expect(readTotal(total.ratio, 1, levels)).toEqual({ percent: '87.0', letter: 'A' });
    expect(readTotal(null, 1, levels)).toBeNull();
  });

  it('refuse cut-points that do not fall to 0', () => {
    expect(
      schemeFault([
        { label: 'A', cutPoint: '80' },
        { label: 'B', cutPoint: '85' },
      ]),
    ).toContain('B is 85');
    expect(
      schemeFault([
        { label: 'A', cutPoint: '80' },
        { label: 'B', cutPoint: '50' },
      ]),
    ).toContain('must be 0');
    expect(schemeFault([{ label: 'A', cutPoint: 'x' }])).toContain('not a number');
    expect(
      schemeFault([
        { label: 'A', cutPoint: '80' },
        { label: 'F', cutPoint: '0' },
      ]),
    ).toBeNull();
  });
});

describe('the ripple', () => {
  const at = (percent: number) => totalOf(prepare(policy([category('bench', 100)]), [column('a', 100)]), [marked(percent)], 'so far').ratio;
  it('says who moves, by how much and who crosses a letter', () => {
    const readers = { decimals: 1, levels: policy([]).levels };
    const ripple = rippleOf(
      [
        { id: '1', name: 'Abiola', before: at(72.9), after: at(73.1) },
        { id: '2', name: 'Quist', before: at(80), after: at(76) },
        { id: '3', name: 'Halloran', before: null, after: null },
      ],
      readers,
      readers,
    );
    expect(ripple.sentence).toBe('1 rises, 1 falls, 1 crosses a letter');
    expect(ripple.rows[0]).toMatchObject({ name: 'Abiola', change: '0.2', letterBefore: 'C', letterAfter: 'B', move: 'rises' });
    expect(ripple.rows[2]).toMatchObject({ move: 'stays', before: null });
  });
  it('says so when nobody moves', () => {
    expect(rippleSentence(0, 0, 0)).toBe('Nobody moves');
  });
});

describe('a rubric', () => {
  it('adds the chosen levels and knows when it is complete', () => {
    const levels = [
      { id: 'l1', title: 'none', descriptor: '', points: 0 },
      { id: 'l2', title: 'full', descriptor: '', points: 20_000 },
    ];
    const criteria = [
      { id: 'c1', title: 'Observation', levels },
      { id: 'c2', title: 'Method', levels },
    ];
    expect(rubricScore(criteria, { c1: 'l2', c2: 'elsewhere' })).toEqual({ score: 20_000, possible: 40_000, isComplete: false });
    expect(rubricScore(criteria, { c1: 'l2', c2: 'l1' }).isComplete).toBe(true);
  });
});

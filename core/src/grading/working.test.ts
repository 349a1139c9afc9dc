import {
  categoryRule,
  prepare,
  ratio,
  readTotal,
  rippleOf,
  threeTotals,
  workingOfCategory,
  workingOfCell,
  workingOfTotal,
  type GradedColumn,
  type WorkingLine,
} from '../index.ts';
import { blank, category, column as itemOf, marked, policy } from './smallCourse.ts';

const column = (id: string, categoryId: string, possible: number, more: Partial<GradedColumn> = {}): GradedColumn =>
  itemOf(id, possible, { categoryId, ...more });
/** The account as one reads it: depth by two spaces, rule and value. */
const read = (lines: readonly WorkingLine[], depth = 0): string[] =>
  lines.flatMap((l) => [`${'  '.repeat(depth)}${l.rule}${l.value === '' ? '' : ` | ${l.value}`}`, ...read(l.lines, depth + 1)]);
const late = { steps: 1, penalty: 2375, rule: '1 day late, 5 % of earned for each, at most 50 %', handedInAt: 20, dueAt: 10 };

describe('the account of a total', () => {
  const categories = [category('Exercises', 20, { method: 'share' }), category('Bench', 50, { dropLowest: 1 }), category('Papers', 30)];
  const columns = [
    column('Blade', 'Exercises', 20),
    column('Ratios', 'Exercises', 20),
    column('Log', 'Bench', 60),
    column('Drawing', 'Bench', 60, { order: 1 }),
    column('Report', 'Bench', 60, { order: 2 }),
    column('Worksheet', 'Bench', 40, { order: 3 }),
    column('Mid-term', 'Papers', 100),
  ];
  const cells = [
    marked(18),
    marked(16),
    marked(48),
    marked(47.5, { result: 45_125, late }),
    marked(37.5, { isReleased: false }),
    marked(33),
    marked(77),
  ];
  const totals = threeTotals(prepare(policy(categories), columns), cells);

  it('can be followed by hand, from each item to the letter', () => {
    expect(read(workingOfTotal(totals.soFar, policy(categories), String))).toEqual([
      'Exercises, weight 20 | 85 % → 17',
      '  Blade | 18 / 20 = 90 %',
      '  Ratios | 16 / 20 = 80 %',
      '  shares add to 1.7, of 2 pieces | 85 %',
      '  read to one decimal, half up | 85.0 %',
      'Bench, weight 50 | 78.828125 % → 39.4140625',
      '  Log | 48 / 60',
      '  Drawing | 47.5 → 45.125 / 60',
      '    handed in 20, due 10',
      '    1 day late, 5 % of earned for each, at most 50 % | − 2.375',
      '  Report | 37.5 / 60',
      '    finished, not yet released',
      '    left out: without it the share is greatest',
      '  Worksheet | 33 / 40',
      '  126.125 of 160 points | 78.828125 %',
      '  read to one decimal, half up | 78.8 %',
      'Papers, weight 30 | 77 % → 23.1',
      '  Mid-term | 77 / 100',
      '  77 of 100 points | 77 %',
      '  read to one decimal, half up | 77.0 %',
      'Weights counted: 100 of 100',
      'Total so far | 79.5140625 %',
      'read to one decimal, half up | 79.5 %',
      'the letter whose cut-point is reached: from 73 | B',
    ]);
  });

  it('marks what was left out, and where a line leads', () => {
    const bench = workingOfTotal(totals.soFar, policy(categories), String)[1]!;
    expect(bench.lines.map((l) => [l.look, l.itemId])).toEqual([
      ['plain', 'Log'],
      ['plain', 'Drawing'],
      ['out', 'Report'],
      ['plain', 'Worksheet'],
      ['sum', null],
      ['note', null],
    ]);
  });

  it('says why something counts in the floor and in the reach', () => {
    const open = threeTotals(prepare(policy(categories), columns), [...cells.slice(0, 6), blank(100)]);
    const floor = read(workingOfTotal(open.floor, policy(categories), String));
    expect(floor).toContain('    no mark yet: counts 0 in the floor');
    expect(read(workingOfTotal(open.reach, policy(categories), String))).toContain('    can still come: counts with the most it can bring');
    const closed = threeTotals(prepare(policy(categories), columns), [...cells.slice(0, 6), { ...blank(100), mostPossible: 0 }]);
    expect(read(workingOfTotal(closed.reach, policy(categories), String))).toContain('    closed, nothing can come any more: counts 0');
    const missing = threeTotals(prepare(policy(categories), columns), [...cells.slice(0, 6), blank(100, 'missing')]);
    expect(read(workingOfTotal(missing.soFar, policy(categories), String))).toContain('    missing counts as zero');
  });

  it('says that an empty category is left aside, or counts 0', () => {
    const part = [...cells.slice(0, 6), blank(100)];
    const aside = policy(categories);
    const zero = policy(categories, { isRenormalised: false });
    expect(read(workingOfTotal(threeTotals(prepare(aside, columns), part).soFar, aside, String))).toEqual(
      expect.arrayContaining([
        'Papers, weight 30 | left aside',
        '  Nothing counted yet, so there is no result',
        'Weights counted: 70 of 100',
      ]),
    );
    expect(read(workingOfTotal(threeTotals(prepare(zero, columns), part).soFar, zero, String))).toContain('Papers, weight 30 | counts 0');
  });

  it('accounts for declared work, extra credit, multipliers and a cap', () => {
    const p = policy([
      category('Bench', 100, { declaredItems: 3, declaredPoints: 30_000, isCapped: true }),
      category('Club', 5, { isExtraCredit: true }),
    ]);
    const list = [
      column('Log', 'Bench', 10, { multiplier: 2000 }),
      column('Bonus', 'Bench', 5, { isExtraCredit: true, order: 1 }),
      column('Talk', 'Club', 10, { order: 2 }),
    ];
    const own = threeTotals(prepare(p, list), [marked(9), marked(5), marked(10)]);
    const soFar = read(workingOfTotal(own.soFar, p, String));
    expect(soFar).toEqual(
      expect.arrayContaining([
        '    multiplier | × 2',
        '    extra credit: adds points, not weight',
        '  capped at 100 %',
        'Club, weight 5, on top | 100 % → 5',
      ]),
    );
    expect(soFar.at(-3)).toBe('Total so far | 105 %');
    const floor = workingOfTotal(own.floor, p, String)[0]!;
    expect(floor.lines.filter((l) => l.rule === 'declared, not built yet').map((l) => [l.value, l.itemId])).toEqual([
      ['0 / 10', null],
      ['0 / 10', null],
    ]);
  });

  it('accounts for weighted periods and for a course without categories', () => {
    const periods = [
      { id: 'one', title: 'First half', weightPercent: 40_000 },
      { id: 'two', title: 'Second half', weightPercent: 60_000 },
    ];
    const p = policy([category('Bench', 100)], { periods });
    const two = threeTotals(prepare(p, [column('a', 'Bench', 10, { periodId: 'one' }), column('b', 'Bench', 10, { periodId: 'two' })]), [
      marked(5),
      blank(10),
    ]);
    expect(read(workingOfTotal(two.soFar, p, String)).filter((l) => !l.startsWith(' '))).toEqual([
      'First half, weight 40 | 50 %',
      'Second half, weight 60 | nothing yet',
      'Weights of the periods counted: 40',
      'Total so far | 50 %',
      'read to one decimal, half up | 50.0 %',
      'the letter whose cut-point is reached: from 0 | F',
    ]);
    const whole = policy([], { total: 'share', decimals: 2, whole: { dropLowest: 1, keepBest: 0, dropHighest: 0, isCapped: false } });
    const one = threeTotals(prepare(whole, columns), cells);
    const lines = read(workingOfTotal(one.soFar, whole, String));
    expect(lines[0]).toMatch(/^All items by equal share, leaving out the lowest one \| /);
    expect(lines).toContain('read to 2 decimals, half up | 80.78 %');
  });

  it('says when nothing counts yet', () => {
    const none = threeTotals(
      prepare(policy(categories), columns),
      columns.map((i) => blank(i.possible / 1000)),
    );
    expect(read(workingOfTotal(none.soFar, policy(categories), String)).at(-1)).toBe('Nothing counts yet, so there is no total');
    const emptyCategory = workingOfCategory(none.soFar.periods[0]!.categories[0]!.total, 1, String);
    expect(read(emptyCategory)).toEqual(['Nothing counted yet, so there is no result']);
  });
});

describe('the account of one item', () => {
  it.each([
    ['none', 'no mark yet'],
    ['missing', 'missing'],
    ['exempt', 'exempt'],
    ['unfinished', 'unfinished'],
    ['outside', 'not for this student'],
  ] as const)('says %s in words', (state, words) => {
    expect(workingOfCell(column('Log', 'Bench', 10), blank(10, state), String)).toMatchObject({ rule: 'Log', value: words, lines: [] });
  });

  it('opens a late penalty and says what the student does not see yet', () => {
    const line = workingOfCell(column('Log', 'Bench', 60), marked(47.5, { result: 45_125, late, isReleased: false }), String);
    expect(read([line])).toEqual([
      'Log | 47.5 → 45.125 / 60',
      '  handed in 20, due 10',
      '  1 day late, 5 % of earned for each, at most 50 % | − 2.375',
      '  finished, not yet released to the student',
    ]);
  });

  it('says the rule of a category in one phrase', () => {
    expect(categoryRule('points', 0, 0, 0)).toBe('by points');
    expect(categoryRule('points', 2, 0, 1)).toBe('by points, leaving out the lowest 2');
    expect(categoryRule('share', 0, 1, 0)).toBe('by equal share, keeping the best one');
    expect(categoryRule('share', 1, 0, 1)).toBe('by equal share, leaving out the lowest one, leaving out the highest one');
  });
});

describe('a total as it is read', () => {
  const { levels } = policy([]);
  it('may be far above full marks without losing its letter', () => {
    expect(readTotal(ratio(10_000_000, 1), 1, levels)).toEqual({ percent: '1000000000.0', letter: 'A' });
    expect(readTotal(ratio(-1, 100), 1, levels)).toEqual({ percent: '−1.0', letter: null });
    expect(readTotal(null, 1, levels)).toBeNull();
  });
});

describe('a ripple', () => {
  const { levels } = policy([]);
  const reader = { decimals: 1, levels };
  it('tells who appears and who vanishes, and orders by who crosses, then by size, then by name', () => {
    const ripple = rippleOf(
      [
        { id: 'a', name: 'Appears', before: null, after: ratio(1, 2) },
        { id: 'v', name: 'Vanishes', before: ratio(9, 10), after: null },
        { id: 'r', name: 'Rises', before: ratio(80, 100), after: ratio(85, 100) },
        { id: 'f', name: 'Falls', before: ratio(85, 100), after: ratio(79, 100) },
        { id: 'x', name: 'Crosses', before: ratio(729, 1000), after: ratio(731, 1000) },
        { id: 's', name: 'Stays', before: ratio(1, 2), after: ratio(1, 2) },
        { id: 'n', name: 'Nothing', before: null, after: null },
      ],
      reader,
      reader,
    );
    expect(ripple.rows.map((r) => [r.name, r.move, r.crosses])).toEqual([
      ['Crosses', 'rises', true],
      ['Appears', 'appears', true],
      ['Vanishes', 'vanishes', true],
      ['Falls', 'falls', false],
      ['Rises', 'rises', false],
      ['Nothing', 'stays', false],
      ['Stays', 'stays', false],
    ]);
    expect([ripple.rise, ripple.fall, ripple.cross, ripple.sentence]).toEqual([2, 1, 3, '2 rise, 1 falls, 3 cross a letter']);
    expect(ripple.rows.find((r) => r.id === 'x')?.change).toBe('0.2');
  });
});

import { all, create } from 'mathjs';
import { decimalRatio } from './readNumber.ts';
import {
  drawValues,
  ratio,
  readFormula,
  sampleValues,
  scoreQuestion,
  valuesOf,
  wantedOf,
  type Calculated,
  type QuestionKey,
} from '../index.ts';

const parameter = (name: string, from: string, to: string, step: string, decimals = 0) => ({ name, from, to, step, decimals });
const beats: Calculated = {
  parameters: [parameter('wheel', '60', '90', '6'), parameter('pinion', '6', '12', '2')],
  conditions: ['wheel > 8 * pinion'],
  formula: '2 * 15 * wheel / pinion',
  tolerance: { kind: 'absolute', amount: '0' },
};
const value = (text: string, values: Record<string, number> = {}): string => {
  const read = readFormula(text, Object.keys(values));
  if (!read.ok) return read.reason;
  const found = read.formula.valueOf(new Map(Object.entries(values).map(([name, v]) => [name, ratio(Math.round(v * 1000), 1000)])));
  return found.ok ? found.value.toString() : found.reason;
};

describe('a formula', () => {
  it('is arithmetic of parameters, exact where it can be', () => {
    expect(value('0.1 + 0.2')).toBe('0.3');
    expect(value('a × b − c ÷ 4', { a: 3, b: 2.5, c: 2 })).toBe('7');
    expect(value('2^10 / sqrt(16)')).toBe('256');
    expect(value('round(ln(e^2) + log10(1000) + abs(-1))')).toBe('6');
    expect(value('cos(pi)').slice(0, 4)).toBe('-1');
  });
  it.each([
    ['', 'is empty'],
    ['a +', 'cannot be read'],
    ['b * 2', '“b” is no parameter here. There are a.'],
    ['import("x")', '“import” is no function here'],
    ['evaluate("1")', '“evaluate” is no function here'],
    ['a = 3', 'Only numbers, parameters'],
    ['[1, 2]', 'Only numbers, parameters'],
    ['null', 'holds no words'],
    ['a.b', 'Only numbers, parameters'],
    ['f(x) = x', 'Only numbers, parameters'],
    ['a!', '“!” cannot be used'],
    ['1'.repeat(500), '400 signs'],
  ])('“%s” is refused in words', (text, reason) => {
    const read = readFormula(text, ['a']);
    expect(read.ok ? 'read' : read.reason).toContain(reason);
  });
  it('says where it has no value', () => {
    expect([value('1 / a', { a: 0 }), value('sqrt(a)', { a: -1 }), value('0 / a', { a: 0 })]).toEqual([
      'it is divided by zero, or grows without end',
      'it has no real value',
      'it has no value',
    ]);
    expect(value('9^9^9^9')).not.toBe('');
  });
});

describe('working out', () => {
  const library = create(all ?? {}, { number: 'BigNumber', precision: 64 });
  const texts = [
    '2 * x ^ 2 - y / 3 + 0.1',
    '-x ^ 2',
    'sqrt(x) * cbrt(y) + abs(-x)',
    'exp(x / 10) - log10(y) + e ^ 2',
    'sin(x) * cos(y) / tan(x + 0.3)',
    'asin(0.3) + acos(0.4) + atan(x)',
    'min(x, y, 2) + max(x, y)',
    'round(x / 7, 3) + floor(y / 2) + ceil(x / 2)',
    '2 x + 3 (y - 1)',
    '+x - -y',
    'x ^ 0.5 ^ 2',
    '1e3 * x + pi',
  ];
  it.each(texts)('gives for “%s” what the library itself gives', (text) => {
    for (const [x, y] of [
      [1, 2],
      [3.5, 7],
      [0.25, 11],
    ] as const) {
      const own = library.evaluate(text, { x: library.bignumber(x), y: library.bignumber(y) }) as {
        toSignificantDigits: (n: number) => unknown;
      };
      expect(value(text, { x, y })).toBe(decimalRatio(String(own.toSignificantDigits(40))).toString());
    }
  });
  it.each([
    ['1 < x < 3', 2, true],
    ['1 < x < 3', 3, false],
    ['x == 2 or sqrt(-1) > 2', 2, true],
    ['x > 2 and x < 9', 1, false],
    ['x >= 2 and x != 5', 4, true],
    ['true and x <= 4', 4, true],
    ['1 / (x - 4) > 0', 4, true],
    ['sqrt(-x) > 0', 4, false],
  ])('the condition “%s” with x = %d: %s', (text, x, holds) => {
    const read = readFormula(text, ['x']);
    expect(read.ok && read.formula.holds(new Map([['x', ratio(x)]]))).toBe(holds);
  });
});

describe('a calculated question', () => {
  it('gives each student values of their own, the same each time, by its steps and conditions', () => {
    const seen = new Set<string>();
    for (let n = 0; n < 200; n += 1) {
      const found = drawValues(beats, `attempt ${n}`);
      if (!found.ok) throw new Error(found.reason);
      const [wheel, pinion] = ['wheel', 'pinion'].map((name) => Number(found.drawn.values.get(name)?.toString()));
      expect([(wheel ?? 0) % 6, (pinion ?? 0) % 2, (wheel ?? 0) > 8 * (pinion ?? 0)]).toEqual([0, 0, true]);
      expect(found.drawn.answer.equals(ratio(30 * (wheel ?? 0), pinion))).toBe(true);
      seen.add(`${wheel} ${pinion}`);
    }
    // 60 to 90 in sixes and 6, 8, 10, 12, with the first more than eight times the second.
    expect(seen.size).toBe(6 + 5 + 2 + 0);
    expect(drawValues(beats, 'a')).toEqual(drawValues(beats, 'a'));
  });
  it('is scored by the answer of the student’s own values, with unit and tolerance', () => {
    const key: QuestionKey = {
      kind: 'calculated',
      question: { ...beats, tolerance: { kind: 'relative', percent: '1' } },
      rules: { units: [], isUnitNeeded: false, decimals: null, isSignFree: false },
    };
    const score = (text: string): string | undefined =>
      scoreQuestion({ key, points: 1000, floor: 0, wanted: ratio(225) }, { kind: 'text', text }).share?.toString();
    expect([score('225'), score('223'), score('222')]).toEqual(['1', '1', '0']);
    expect(() => scoreQuestion({ key, points: 1000, floor: 0 }, { kind: 'text', text: '1' })).toThrow('follows from its values');
  });
  it('shows the numbers it is worked out from, however few decimals were wished', () => {
    const question: Calculated = { ...beats, parameters: [parameter('a', '0.25', '9', '0.125', 0)], conditions: [], formula: 'a * 8' };
    const key: QuestionKey = { kind: 'calculated', question, rules: { units: [], isUnitNeeded: false, decimals: null, isSignFree: false } };
    for (let n = 0; n < 50; n += 1) {
      const shown = Number(valuesOf(key, 'q', `attempt ${n}`).get('a'));
      const answer = { kind: 'text', text: String(shown * 8) } as const;
      const wanted = wantedOf(key, 'q', `attempt ${n}`);
      expect(scoreQuestion({ key, points: 1000, floor: 0, ...(wanted === undefined ? {} : { wanted }) }, answer).share?.toString()).toBe(
        '1',
      );
    }
  });
  it('is at fault where its answer cannot be written within the tolerance', () => {
    const thirds: Calculated = { ...beats, parameters: [parameter('a', '1', '1', '1')], conditions: [], formula: 'a / 3' };
    expect(sampleValues(thirds, 3, 3, { isSignFree: false }).faults[0]).toContain('written with ten figures it is outside the tolerance');
    expect(
      sampleValues({ ...thirds, tolerance: { kind: 'absolute', amount: '0.001' } }, 3, 3, { isSignFree: false, decimals: 1 }).faults[0],
    ).toContain('written with 1 decimal it is outside the tolerance');
    expect(
      sampleValues({ ...thirds, tolerance: { kind: 'absolute', amount: '0.001' } }, 3, 3, { isSignFree: false, decimals: 3 }).faults,
    ).toEqual([]);
  });
  it('draws values again that have no answer, so that every student is asked', () => {
    const away: Calculated = { ...beats, parameters: [parameter('x', '1', '5', '1')], conditions: [], formula: '1 / (x - 3)' };
    const drawn = Array.from({ length: 200 }, (_, n) => drawValues(away, `student ${n}`));
    expect(drawn.every((d) => d.ok && d.drawn.values.get('x')?.toString() !== '3')).toBe(true);
    expect(drawn.some((d) => d.ok && d.drawn.without[0]?.startsWith('With x = 3 it is divided by zero'))).toBe(true);
  });
  it.each([
    ['conditions of deep waves', ['sin(exp(x * 20)) > 2', 'exp(-x * 1000000) > 1'], 'x'],
    ['a formula of many inverse waves', [], Array.from({ length: 30 }, () => 'acos(x/9)').join('+')],
    ['conditions that never hold and cost much', ['x ^ 0.5 > 20'], 'x'],
  ])('is not worked out beyond its budget of operations: %s', (_, conditions, formula) => {
    const question: Calculated = { ...beats, parameters: [parameter('x', '1', '9', '1')], conditions, formula };
    const found = drawValues(question, 'x');
    expect(found.ok ? 'drawn' : found.reason).toContain('takes too long');
    expect(sampleValues(question, 8, 3, { isSignFree: false }).faults).toEqual([expect.stringContaining('takes too long')]);
  });
  it('shows its author sample values', () => {
    const { rows, faults, warnings } = sampleValues(beats, 5, 1, { isSignFree: false });
    expect([rows.length, faults, warnings]).toEqual([5, [], []]);
    expect(rows.every((r) => /^\d+\.\d$/.test(r.answer) && Object.keys(r.values).join() === 'wheel,pinion')).toBe(true);
  });
  it('warns where a formula has no value for some, and where the tolerance takes too much', () => {
    const divided = (to: string) =>
      sampleValues({ ...beats, parameters: [parameter('a', '0', to, '1')], conditions: [], formula: '6 / a' }, 5, 1, { isSignFree: true });
    expect(divided('9').warnings[0]).toMatch(
      /^With a = 0 it is divided by zero.*; \d+ of 1\d\d values tried have no answer\. Such values are drawn again\.$/,
    );
    expect(divided('9').faults.filter((f) => f.includes('divided'))).toEqual([]);
    expect(divided('1').faults[0]).toMatch(/^With a = 0 it is divided by zero.* have no answer\. Rule such values out by a condition\.$/);
    expect(divided('0').faults[0]).toContain('and no other values have an answer');
    const wide = {
      ...beats,
      parameters: [parameter('a', '1', '9', '1')],
      conditions: [],
      formula: 'a',
      tolerance: { kind: 'absolute', amount: '3' },
    } as const;
    expect(sampleValues(wide, 5, 1, { isSignFree: false }).warnings).toEqual([
      'The tolerance is as wide as some of the answers: 0 would be taken for right.',
      'The tolerance takes some answers with either sign.',
    ]);
    expect(
      sampleValues({ ...wide, formula: '4', tolerance: { kind: 'absolute', amount: '0' } }, 5, 1, { isSignFree: false }).warnings,
    ).toEqual(['Everybody has the same answer.']);
  });
  it.each([
    [{ parameters: [parameter('a', '1', '9', '0')] }, 'the step is “0”; it must be more than 0'],
    [{ parameters: [parameter('a', '9', '1', '1')] }, 'the second must not be the smaller one'],
    [{ parameters: [parameter('a', 'one', '2', '1')] }, 'one of “one”'],
    [{ parameters: [parameter('2a', '1', '2', '1')] }, 'is no name for a parameter'],
    [{ parameters: [parameter('a', '1', '2', '1'), parameter('a', '1', '2', '1')] }, 'Two parameters are called a'],
    [{ parameters: [parameter('a', '0', '9', '0.0000001')] }, 'more than a million values'],
    [{ parameters: [parameter('a', '1', '9', '1')], conditions: ['a > 10'] }, 'no values were found'],
    [{ parameters: [parameter('a', '1', '9', '1')], conditions: ['a >'] }, 'The condition “a >”: '],
  ])('refuses what cannot be drawn from: %#', (change, reason) => {
    const question = { ...beats, conditions: [], formula: 'a', ...change } as Calculated;
    const found = drawValues(question, 'x');
    expect(found.ok ? 'drawn' : found.reason).toContain(reason);
    expect(sampleValues(question, 3, 0, { isSignFree: false }).faults.join(' ')).toContain(reason);
  });
});

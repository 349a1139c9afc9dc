import fc from 'fast-check';
import { ratio, roundHalfUp } from '../exact/ratio.ts';
import {
  asEqualParts,
  attemptScore,
  commaReading,
  expectedByGuessing,
  findAccepted,
  isWithin,
  readNumber,
  readPattern,
  scoreQuestion,
  shareRatio,
  toSignificant,
  decimalRatio,
  type Answer,
  type Choice,
  type NumberRules,
  type QuestionContent,
  type QuestionKey,
  type TextRules,
} from '../index.ts';
import { kindOfQuestion } from './kinds/kinds.ts';
import { isInside } from './kinds/hotspot/hotspot.ts';
import { kendallDistance } from './kinds/ordering/ordering.ts';

const words = { type: 'doc', content: [] } as unknown as Choice['words'];
const choice = (id: string, share: number): Choice => ({ id, words, share, feedback: null });
const of = (key: QuestionKey, answer: Answer | null, floor: number | null = 0, points = 1000): string | null => {
  const { share } = scoreQuestion({ key, points, floor }, answer);
  return share === null ? null : share.toFraction();
};
const pick = (...ids: string[]): Answer => ({ kind: 'choices', ids });

describe('choices', () => {
  const single: QuestionKey = {
    kind: 'single',
    choices: [choice('a', 100_000), choice('b', 50_000), choice('c', -33_333)],
    hasDontKnow: true,
  };
  const several = (rule: 'less wrong' | 'all or nothing' | 'own values'): QuestionKey => ({
    kind: 'several',
    choices: [choice('a', 40_000), choice('b', 40_000), choice('c', 20_000), choice('d', 0), choice('e', -25_000)],
    rule,
    hasDontKnow: false,
  });
  it('one of them gives its own value, and never less than the floor', () => {
    expect(of(single, { kind: 'choice', id: 'a' })).toBe('1');
    expect(of(single, { kind: 'choice', id: 'b' })).toBe('1/2');
    expect(of(single, { kind: 'choice', id: 'c' })).toBe('0');
    expect(of(single, { kind: 'choice', id: 'c' }, null)).toBe('-1/3');
    expect(of(single, { kind: 'choice', id: 'c' }, -200)).toBe('-1/5');
    expect(of(single, { kind: 'choice', id: 'gone' })).toBe('0');
  });
  it('“do not know” and nothing at all are worth nothing, also where a wrong one takes away', () => {
    expect([of(single, { kind: 'dontKnow' }, null), of(single, null, null)]).toEqual(['0', '0']);
  });
  it('several: right picks less wrong ones, of the right answers', () => {
    expect(of(several('less wrong'), pick('a', 'b', 'd'))).toBe('1/3');
    expect(of(several('less wrong'), pick('a', 'b', 'c'))).toBe('1');
    expect(of(several('less wrong'), pick('d', 'e'))).toBe('0');
    expect(of(several('less wrong'), pick('d', 'e'), null)).toBe('-2/3');
  });
  it('several: all or nothing, or each by its own value', () => {
    expect(of(several('all or nothing'), pick('a', 'b'))).toBe('0');
    expect(of(several('all or nothing'), pick('c', 'b', 'a'))).toBe('1');
    expect(of(several('own values'), pick('a', 'c', 'e'))).toBe('7/20');
  });
  it('picking everything never pays more than picking nothing where wrong ones count as much', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: 2, maxLength: 8 }), (rights) => {
        const choices = rights.map((isRight, n) => choice(String(n), isRight ? 100_000 : 0));
        const right = rights.filter(Boolean).length;
        if (right === 0 || 2 * right > rights.length) return;
        expect(of({ kind: 'several', choices, rule: 'less wrong', hasDontKnow: false }, pick(...choices.map((c) => c.id)))).toBe('0');
      }),
    );
  });
});

describe('numbers as students write them', () => {
  const free = { units: [], isUnitNeeded: false, decimals: null };
  const metres = {
    units: [
      { name: 'm', factor: '1' },
      { name: 'mm', factor: '0.001' },
    ],
    isUnitNeeded: true,
    decimals: null,
  };
  it.each([
    ['3.5', '7/2'],
    ['−3,50', '-7/2'],
    ['1.2e-4', '3/25000'],
    ['1,2×10^3', '1200'],
    ['12 500', '12500'],
    ['.5', '1/2'],
    ['5.', '5'],
    ['0.1', '1/10'],
    ['–3.5', '-7/2'],
    ['- 3.5', '-7/2'],
    ['1.2 × 10^-4', '3/25000'],
    ['1.2×10⁻⁴', '3/25000'],
    ['1.2 x 10^3', '1200'],
    ['1,234', '617/500'],
    ['1,234.5', '2469/2'],
    ['1.234,5', '2469/2'],
    ['1,234,567', '1234567'],
    ["12'500", '12500'],
  ])('%s is exactly %s', (text, value) => {
    const read = readNumber(text, free);
    expect(read.ok && read.number.value.toFraction()).toBe(value);
  });
  it('is taken with its unit, in whichever of them it is written', () => {
    const read = readNumber('2,50 mm', metres);
    expect(read.ok && [read.number.value.toFraction(), read.number.decimals, read.number.unit]).toEqual(['1/400', 2, 'mm']);
  });
  it.each([
    ['', free, 'no number'],
    ['abc', free, 'no number'],
    ['3 cm', metres, '“cm” is no unit here. Write one of m, mm; capitals count.'],
    ['3', metres, 'The unit is missing'],
    ['3 mm', free, 'Write the number alone'],
    ['3.14', { ...free, decimals: 1 }, 'has 1 decimal; “3.14” has 2'],
    ['1e999', free, 'A power of ten goes'],
    ['9'.repeat(80), free, '60 digits at most'],
  ])('“%s” is refused in words', (text, rules, reason) => {
    const read = readNumber(text, rules);
    expect(read.ok ? '' : read.reason).toContain(reason);
  });
  it('takes a unit as it is written: a capital is another unit', () => {
    const watts = {
      units: ['mW', 'MW'].map((name, n) => ({ name, factor: n === 0 ? '1' : '1000000000' })),
      isUnitNeeded: true,
      decimals: null,
    };
    const read = readNumber('3 MW', watts);
    expect(read.ok && read.number.value.toString()).toBe('3000000000');
    expect(readNumber('3 mw', watts)).toMatchObject({ ok: false, reason: expect.stringContaining('capitals count') });
  });
  it.each([
    ['1,234', 'Read as 1.234: the comma is the decimal sign. For thousands type 1234.'],
    ['12,345 mm', 'Read as 12.345: the comma is the decimal sign. For thousands type 12345.'],
    ['1,23', null],
    ['0,123', null],
    ['1,234.5', null],
    ['1234', null],
  ])('says how the comma of %s is read', (text, words) => {
    expect(commaReading(text)).toBe(words);
  });
  it('reads any decimal back exactly', () => {
    fc.assert(
      fc.property(fc.bigInt({ min: -(10n ** 12n), max: 10n ** 12n }), fc.integer({ min: 1, max: 6 }), (n, places) => {
        const value = ratio(n, 10n ** BigInt(places));
        expect(decimalRatio(roundHalfUp(value, places)).equals(value)).toBe(true);
      }),
    );
  });
  it('is as near as the tolerance says, its edge included', () => {
    const near = (x: string, a: string, tolerance: Parameters<typeof isWithin>[2]): boolean =>
      isWithin(decimalRatio(x), decimalRatio(a), tolerance);
    expect([
      near('9.79', '9.81', { kind: 'relative', percent: '0.5' }),
      near('9.76', '9.81', { kind: 'relative', percent: '0.5' }),
    ]).toEqual([true, false]);
    // In binary 0.3 − 0.1 is more than 0.2.
    expect([near('0.3', '0.1', { kind: 'absolute', amount: '0.2' }), near('0.31', '0.1', { kind: 'absolute', amount: '0.2' })]).toEqual([
      true,
      false,
    ]);
    expect([
      near('0.01234', '0.0123', { kind: 'significant', figures: 3 }),
      near('0.0124', '0.0123', { kind: 'significant', figures: 3 }),
    ]).toEqual([true, false]);
    expect(near('-9.81', '-9.8', { kind: 'relative', percent: '1' })).toBe(true);
    expect(() => near('1', '1', { kind: 'absolute', amount: '-0.1' })).toThrow('0 or more');
  });
  it('is rounded to significant figures exactly', () => {
    const to = (text: string, figures: number): string => toSignificant(decimalRatio(text), figures).toString();
    expect([to('0.0123456', 3), to('98765', 2), to('-0.00995', 2), to('99.95', 3), to('0', 3)]).toEqual([
      '0.0123',
      '99000',
      '-0.01',
      '100',
      '0',
    ]);
  });
  it('scores the best of the values it is near to; the sign may be free', () => {
    const rules: NumberRules = {
      ...free,
      accepted: [
        { value: '28800', tolerance: { kind: 'absolute', amount: '0' }, share: 100_000 },
        { value: '28800', tolerance: { kind: 'relative', percent: '10' }, share: 40_000 },
      ],
      isSignFree: false,
    };
    const numeric = (more: Partial<NumberRules> = {}): QuestionKey => ({ kind: 'numeric', rules: { ...rules, ...more } });
    const text = (t: string): Answer => ({ kind: 'text', text: t });
    expect([of(numeric(), text('28 800')), of(numeric(), text('28000')), of(numeric(), text('20000')), of(numeric(), text(''))]).toEqual([
      '1',
      '2/5',
      '0',
      '0',
    ]);
    expect([of(numeric(), text('-28800')), of(numeric({ isSignFree: true }), text('-28800'))]).toEqual(['0', '1']);
    expect(scoreQuestion({ key: numeric(), points: 1000, floor: 0 }, text('many')).rule).toContain('“many” is no number');
  });
});

describe('short texts', () => {
  const accepted = (text: string, share = 100_000, isPattern = false): TextRules['accepted'][number] => ({ text, share, isPattern });
  const rules: TextRules = {
    accepted: [accepted('Pallet fork'), accepted('pallet', 50_000), accepted('anch(or|ors)', 25_000, true)],
    caseMatters: false,
    spaceMatters: false,
  };
  const key: QuestionKey = { kind: 'short', rules };
  it('are taken in any case and spacing, or not, as it is set', () => {
    expect(of(key, { kind: 'text', text: '  PALLET   fork ' })).toBe('1');
    expect(of({ kind: 'short', rules: { ...rules, caseMatters: true } }, { kind: 'text', text: 'pallet fork' })).toBe('0');
    expect(of({ kind: 'short', rules: { ...rules, spaceMatters: true } }, { kind: 'text', text: 'pallet  fork' })).toBe('0');
    // One letter, written in two ways.
    expect(findAccepted('re\u0301glage', { ...rules, accepted: [accepted('r\u00e9glage')] })?.text).toBe('r\u00e9glage');
  });
  it('a pattern must fit the whole answer', () => {
    expect([of(key, { kind: 'text', text: 'Anchors' }), of(key, { kind: 'text', text: 'an anchor' })]).toEqual(['1/4', '0']);
  });
  it('patterns of more steps than an answer may cost are refused, and fit nothing', () => {
    const deep = readPattern('(a?){900}a{900}', false);
    expect(deep.ok ? '' : deep.reason).toBe(
      'The pattern “(a?){900}a{900}” takes too long to compare. Repeat fewer parts of it, or fewer times.',
    );
    const many = {
      accepted: Array.from({ length: 3 }, (_, n) => accepted(`${n}(a?){90}a{90}`, 100_000, true)),
      caseMatters: false,
      spaceMatters: false,
    };
    expect(kindOfQuestion('short').faults({ kind: 'short', rules: many }, {} as QuestionContent)).toEqual([
      'The patterns take too long to compare together. Remove some, or repeat fewer parts of them.',
    ]);
  });
  it('an answer too long to compare fits no pattern, and is still compared with texts', () => {
    const rules = {
      accepted: [accepted('(a|b){100}.*', 100_000, true), accepted('c'.repeat(3000))],
      caseMatters: false,
      spaceMatters: false,
    };
    expect(findAccepted('a'.repeat(500), rules)?.isPattern).toBe(true);
    expect([findAccepted('a'.repeat(3000), rules), findAccepted('a'.repeat(500), rules, 9)]).toEqual([null, null]);
    expect(findAccepted('c'.repeat(3000), rules)?.isPattern).toBe(false);
  });
  it('a pattern that would hang an engine that tries back and forth is through at once', () => {
    const read = readPattern('(a+)+$', true);
    expect(read.ok && read.matches(`${'a'.repeat(20_000)}!`)).toBe(false);
    expect(readPattern('(a)\\1', true)).toMatchObject({ ok: false, reason: expect.stringContaining('cannot be read') });
    expect(readPattern('(', true).ok).toBe(false);
    expect(readPattern('a'.repeat(500), true)).toMatchObject({ ok: false, reason: expect.stringContaining('400 signs') });
    expect(of({ kind: 'short', rules: { ...rules, accepted: [accepted('(', 100_000, true)] } }, { kind: 'text', text: '(' })).toBe('0');
  });
  it('blanks add up by their weights', () => {
    const blank = (id: string, weight: number, text: string) => ({ id, weight, rules: { ...rules, accepted: [accepted(text)] } });
    const blanks: QuestionKey = {
      kind: 'blanks',
      blanks: [blank('1', 50_000, 'lock'), blank('2', 30_000, 'drop'), blank('3', 20_000, 'draw')],
    };
    expect(of(blanks, { kind: 'texts', texts: { 1: 'Lock', 2: 'no', 3: 'draw' } })).toBe('7/10');
  });
});

describe('pairs, orders and places', () => {
  it('right sides that only distract cost nothing', () => {
    const key: QuestionKey = {
      kind: 'matching',
      pairs: [...['a', 'b'].map((id) => ({ left: id, right: id.toUpperCase() })), { left: '', right: 'C' }, { left: '', right: 'D' }],
    };
    expect(of(key, { kind: 'pairs', pairs: { a: 'A', b: 'B' } })).toBe('1');
    expect(of(key, { kind: 'pairs', pairs: { a: 'A', b: 'C' } })).toBe('1/2');
    expect(expectedByGuessing({ key, points: 1000, floor: 0 })?.toFraction()).toBe('1/4');
  });
  it('pairs count each by itself', () => {
    const key: QuestionKey = { kind: 'matching', pairs: ['a', 'b', 'c'].map((id) => ({ left: id, right: id.toUpperCase() })) };
    expect(of(key, { kind: 'pairs', pairs: { a: 'A', b: 'C', c: 'C' } })).toBe('2/3');
  });
  it('an order loses each pair that stands the wrong way round', () => {
    const key: QuestionKey = { kind: 'ordering', order: ['a', 'b', 'c', 'd'], isAllOrNothing: false };
    expect(of(key, { kind: 'order', order: ['b', 'a', 'c', 'd'] })).toBe('5/6');
    expect(of(key, { kind: 'order', order: ['d', 'c', 'b', 'a'] })).toBe('0');
    expect(of({ ...key, isAllOrNothing: true }, { kind: 'order', order: ['b', 'a', 'c', 'd'] })).toBe('0');
    // What is not placed is in no order yet.
    expect(of(key, { kind: 'order', order: ['a', 'b'] })).toBe('5/6');
    expect(of(key, { kind: 'order', order: [] })).toBe('0');
  });
  it('Kendall’s distance is a distance: nothing to itself, the same both ways, all pairs when turned round', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.string(), { minLength: 2, maxLength: 7 }), fc.infiniteStream(fc.nat()), (key, numbers) => {
        const order = key
          .map((id) => ({ id, at: numbers.next().value as number }))
          .sort((a, b) => a.at - b.at)
          .map((x) => x.id);
        expect(kendallDistance(key, key)).toBe(0);
        expect(kendallDistance(order, key)).toBe(kendallDistance(key, order));
        expect(kendallDistance([...key].reverse(), key)).toBe((key.length * (key.length - 1)) / 2);
      }),
    );
  });
  it('a place lies in a rectangle, an ellipse or between corners', () => {
    const at = (x: number, y: number) => ({ x, y });
    expect(isInside(at(0.2, 0.3), { shape: 'rectangle', from: at(0.4, 0.4), to: at(0.2, 0.2) })).toBe(true);
    const ellipse = { shape: 'ellipse', centre: at(0.5, 0.5), radius: at(0.2, 0.1) } as const;
    expect([isInside(at(0.69, 0.5), ellipse), isInside(at(0.69, 0.58), ellipse)]).toEqual([true, false]);
    const bent = { shape: 'polygon', corners: [at(0, 0), at(1, 0), at(1, 1), at(0.5, 0.2), at(0, 1)] } as const;
    expect([isInside(at(0.1, 0.5), bent), isInside(at(0.5, 0.5), bent), isInside(at(0.9, 0.5), bent)]).toEqual([true, false, true]);
    const key: QuestionKey = { kind: 'hotspot', regions: [{ id: '1', region: ellipse, share: 100_000 }] };
    expect([of(key, { kind: 'spot', spot: at(0.5, 0.5) }), of(key, { kind: 'spot', spot: at(0, 0) })]).toEqual(['1', '0']);
  });
});

describe('an attempt', () => {
  it('is the exact sum, rounded once; it waits while a part of it waits', () => {
    expect(
      attemptScore([
        { points: 1000, share: ratio(1, 3) },
        { points: 2000, share: ratio(2, 3) },
      ]),
    ).toBe(1667);
    expect(
      attemptScore([
        { points: 1000, share: ratio(1, 6) },
        { points: 1000, share: ratio(1, 6) },
        { points: 1000, share: ratio(1, 6) },
      ]),
    ).toBe(500);
    expect(attemptScore([{ points: 1000, share: ratio(-1, 3) }])).toBe(0);
    expect(
      attemptScore([
        { points: 1000, share: ratio(1) },
        { points: 5000, share: null },
      ]),
    ).toBeNull();
    expect(of({ kind: 'essay' }, { kind: 'work' })).toBeNull();
    expect(of({ kind: 'essay' }, null)).toBe('0');
  });
  it('has all its points where three thirds are right, and the feedback of a right answer', () => {
    const thirds = ['a', 'b', 'c'].map((id) => choice(id, 33_333));
    const several: QuestionKey = { kind: 'several', choices: [...thirds, choice('d', 0)], rule: 'own values', hasDontKnow: false };
    const { share } = scoreQuestion({ key: several, points: 3000, floor: 0 }, pick('a', 'b', 'c'));
    expect(share?.toFraction()).toBe('1');
    expect(attemptScore([{ points: 3000, share }])).toBe(3000);
    const blank = (id: string): unknown => ({
      id,
      weight: 33_333,
      rules: { accepted: [{ text: id, isPattern: false, share: 100_000 }], caseMatters: false, spaceMatters: false },
    });
    const blanks = { kind: 'blanks', blanks: ['a', 'b', 'c'].map(blank) } as QuestionKey;
    expect(of(blanks, { kind: 'texts', texts: { a: 'a', b: 'b', c: 'c' } })).toBe('1');
  });
  it.each([
    [33_333, '1/3'],
    [33_334, '1/3'],
    [66_667, '2/3'],
    [66_666, '2/3'],
    [16_667, '1/6'],
    [14_286, '1/7'],
    [8_333, '1/12'],
    [-33_333, '-1/3'],
    [33_300, '333/1000'],
    [50_000, '1/2'],
    [25_000, '1/4'],
    [100_000, '1'],
    [0, '0'],
  ])('reads %i thousandths of a percent as %s', (thousandths, fraction) => {
    expect(shareRatio(thousandths).toFraction()).toBe(fraction);
  });
  it('offers thirds where they were typed with too few decimals', () => {
    expect(asEqualParts([33_300, 33_300, 33_300])).toEqual([33_333, 33_333, 33_333]);
    expect(asEqualParts([33_000, 33_000, 34_000])).toEqual([33_333, 33_333, 33_333]);
    expect([asEqualParts([33_333, 33_333, 33_333]), asEqualParts([50_000, 50_000]), asEqualParts([20_000, 30_000, 50_000])]).toEqual([
      null,
      null,
      null,
    ]);
  });
  it('gives nothing for an answer of another kind', () => {
    expect(() => of({ kind: 'essay' } as never, { kind: 'text', text: '' })).not.toThrow();
    // What does not answer the question is worth nothing; it must not keep the rest from being scored.
    expect(of({ kind: 'matching', pairs: [] }, { kind: 'text', text: 'x' })).toBe('0');
    // What is given on paper waits for a person in every kind.
    expect(of({ kind: 'matching', pairs: [] }, { kind: 'work' })).toBeNull();
  });
  it('is expected of somebody who guesses', () => {
    const four: QuestionKey = {
      kind: 'single',
      choices: ['a', 'b', 'c', 'd'].map((id) => choice(id, id === 'a' ? 100_000 : 0)),
      hasDontKnow: false,
    };
    const guessing = (key: QuestionKey) => expectedByGuessing({ key, points: 1000, floor: 0 });
    expect(guessing(four)?.toFraction()).toBe('1/4');
    expect(guessing({ kind: 'ordering', order: ['a', 'b', 'c'], isAllOrNothing: true })?.toFraction()).toBe('1/6');
    // Wrong answers that cost something take nothing from whoever guesses where the floor is nothing.
    const costly: QuestionKey = { kind: 'single', choices: [choice('a', 100_000), choice('b', -50_000)], hasDontKnow: false };
    expect([guessing(costly)?.toFraction(), expectedByGuessing({ key: costly, points: 1000, floor: null })?.toFraction()]).toEqual([
      '1/2',
      '1/4',
    ]);
    const twice: QuestionKey = { kind: 'matching', pairs: ['a', 'b', 'c', 'd'].map((left, n) => ({ left, right: n < 3 ? 'X' : 'Y' })) };
    expect(guessing(twice)?.toFraction()).toBe('1/2');
    expect(guessing({ kind: 'essay' })).toBeNull();
  });
});

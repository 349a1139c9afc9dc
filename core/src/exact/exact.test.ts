import fc from 'fast-check';
import { sizeInWords } from './sizeInWords.ts';
import {
  decimalText,
  exactPoints,
  exactText,
  formatPoints,
  parsePoints,
  pointsInWords,
  ratio,
  roundHalfUp,
  simplest,
  thousandthsOf,
} from '../index.ts';

describe('points as they are typed', () => {
  it.each(['', 'abc', '-1', '1e3', '1.2.3', '12.3456'])('refuses %p and says why', (text) => {
    const parsed = parsePoints(text);
    expect(parsed.ok).toBe(false);
    if (!parsed.ok) expect(parsed.reason).toContain(`“${text}”`);
  });

  it('refuses more than the field takes', () => {
    expect(parsePoints('10000.001').ok).toBe(false);
    expect(parsePoints('10000')).toEqual({ ok: true, value: 10_000_000 });
  });

  it('reads a comma as a decimal sign and keeps thousandths', () => {
    expect(parsePoints('37,5')).toEqual({ ok: true, value: 37500 });
    expect(parsePoints('0.125000')).toEqual({ ok: true, value: 125 });
  });

  it('comes back from text unchanged', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10_000_000 }), (value) => {
        expect(thousandthsOf(formatPoints(value))).toBe(value);
        expect(thousandthsOf(decimalText(-value))).toBe(value === 0 ? 0 : -value);
      }),
    );
  });
});

describe('exact ratios', () => {
  it('rounds half up once, from the exact value', () => {
    expect(roundHalfUp(ratio(126125, 1600), 1)).toBe('78.8');
    expect(roundHalfUp(ratio(1, 8), 2)).toBe('0.13');
    expect(roundHalfUp(ratio(-1, 8), 2)).toBe('−0.12');
    expect(roundHalfUp(ratio(9995, 100), 1)).toBe('100.0');
    expect(roundHalfUp(ratio(5, 2), 0)).toBe('3');
  });

  it('is never off by more than half a place', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e6 }), fc.integer({ min: 1, max: 1e4 }), (n, d) => {
        const read = Number(roundHalfUp(ratio(n, d), 3));
        expect(Math.abs(read - n / d)).toBeLessThanOrEqual(0.0005 + 1e-9);
      }),
    );
  });

  it('writes finite decimals in full and endless ones with an ellipsis', () => {
    expect(exactText(ratio(126125, 1600))).toBe('78.828125');
    expect(exactText(ratio(200, 3))).toBe('66.666666…');
    expect(exactText(ratio(-1, 2))).toBe('−0.5');
    expect(exactPoints(45125)).toBe('45.125');
    expect(simplest(ratio(10, 2))).toBe(5);
  });
});

describe('points in words', () => {
  it.each([
    [1000, '1 point'],
    [0, '0 points'],
    [500, '0.5 points'],
    [1500, '1.5 points'],
    [-1000, '−1 points'],
  ])('%i thousandths are %s', (value, words) => expect(pointsInWords(value)).toBe(words));
});

describe('a number of bytes in words', () => {
  it.each([
    [0, '0 kB'],
    [300, '1 kB'],
    [1_048_575, '1024 kB'],
    [1_572_864, '1.5 MB'],
    [3_221_225_472, '3 GB'],
  ])('%d is %s', (bytes, words) => {
    expect(sizeInWords(bytes)).toBe(words);
  });
});

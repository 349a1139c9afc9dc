import Fraction from 'fraction.js';
import { countOf } from '../exact/countOf.ts';
import type { Ratio } from '../exact/ratio.ts';
import { ZERO } from '../exact/ratio.ts';
import type { NumberRules, Tolerance } from './question.ts';

/** A number somebody wrote: its exact value in the first unit, and how it was written. */
export interface WrittenNumber {
  readonly value: Ratio;
  readonly decimals: number;
  readonly unit: string | null;
}
export type NumberRead = { readonly ok: true; readonly number: WrittenNumber } | { readonly ok: false; readonly reason: string };

/** No answer has more digits than this, nor an exponent that would make a number of millions of them. */
const MOST_DIGITS = 60;
const MOST_EXPONENT = 60;
// One pass, no part of it can match the same letters in two ways: linear, whatever is typed.
const NUMBER = /^([+-]?)(\d*)(?:[.,](\d*))?(?:(?:e|×10\^)([+-]?\d{1,4}))?(.*)$/i;
const RAISED = '⁰¹²³⁴⁵⁶⁷⁸⁹';

/** The many ways of writing one number brought to one: signs, powers of ten, and groups of thousands where nothing else can be meant. */
function plainNumber(text: string): string {
  const signed = text
    .trim()
    .replace(/[−–‒—]/g, '-')
    .replace(/^([+-])\s+/, '$1')
    .replace(/[⁰¹²³⁴⁵⁶⁷⁸⁹]/g, (digit) => String(RAISED.indexOf(digit)))
    .replace(/⁻/g, '-')
    .replace(/⁺/g, '+');
  const powered = signed.replace(/(\d)\s{0,3}[×x*·⋅]\s{0,3}10\s{0,3}(?:\^\s{0,3})?([+-]?)\s{0,3}(?=\d)/i, '$1×10^$2');
  const grouped = /^([+-]?)(\d{1,3}(?:,\d{3})+)(?=\.\d)|^([+-]?)(\d{1,3}(?:,\d{3}){2,})(?![\d.,])/.exec(powered);
  const pointed = /^([+-]?)(\d{1,3}(?:\.\d{3})+)(?=,\d)|^([+-]?)(\d{1,3}(?:\.\d{3}){2,})(?![\d.,])/.exec(powered);
  const found = grouped ?? pointed;
  const whole = found === null ? powered : found[0].replace(/[.,]/g, '') + powered.slice(found[0].length);
  // Spaces or apostrophes between groups of three digits are how many people write thousands.
  return whole.replace(/(\d)[\u0020\u00a0\u202f'’](?=\d{3}(?!\d))/g, '$1');
}

/**
 * How a number is read, where its comma could stand for the decimal sign or for thousands; null where it can only be read in one way.
 * A single comma is the decimal sign. Worked example: `1,234` is read as 1.234.
 */
export function commaReading(text: string): string | null {
  const match = /^([+-]?[1-9]\d{0,2}),(\d{3})(?![\d.,])/.exec(plainNumber(text));
  return match === null
    ? null
    : `Read as ${match[1] ?? ''}.${match[2] ?? ''}: the comma is the decimal sign. For thousands type ${match[1] ?? ''}${match[2] ?? ''}.`;
}

/** The exact value of a decimal as it is kept in a key, such as `-3.5` or `1.2e-4`; anything else throws. */
export function decimalRatio(text: string): Ratio {
  const read = readNumber(text, { units: [], isUnitNeeded: false, decimals: null });
  if (!read.ok) throw new RangeError(`“${text}” is no number: ${read.reason}`);
  return read.number.value;
}

/**
 * Reads a number as students write it: a sign, decimals after a point or a comma, a power of ten (`1.2e-4`, `1.2 × 10^-4`, `1.2×10⁻⁴`),
 * thousands in groups, and a unit behind it with or without a space. The value is exact, in the first of the units; the decimals are those that were written.
 * What is no number, has a unit that is not known, none where one is needed, or another number of decimals, is said in words.
 * Worked example: `2,50 mm` with units m (1) and mm (0.001) is 0.0025, with two decimals.
 */
export function readNumber(text: string, rules: Pick<NumberRules, 'units' | 'isUnitNeeded' | 'decimals'>): NumberRead {
  const match = NUMBER.exec(plainNumber(text));
  const [, sign = '', whole = '', part = '', power = '0', rest = ''] = match ?? [];
  if (match === null || whole.length + part.length === 0) return { ok: false, reason: `“${text}” is no number. Write one like 3.5.` };
  if (whole.length + part.length > MOST_DIGITS) return { ok: false, reason: `A number here has ${MOST_DIGITS} digits at most.` };
  const exponent = Number(power);
  if (Math.abs(exponent) > MOST_EXPONENT) return { ok: false, reason: `A power of ten goes from −${MOST_EXPONENT} to ${MOST_EXPONENT}.` };
  const name = rest.trim();
  // Capitals tell units apart: MW is not mW.
  const unit = rules.units.find((u) => u.name === name);
  if (name !== '' && unit === undefined)
    return {
      ok: false,
      reason:
        rules.units.length === 0
          ? `“${name}” behind the number is not asked for. Write the number alone.`
          : `“${name}” is no unit here. Write one of ${rules.units.map((u) => u.name).join(', ')}; capitals count.`,
    };
  if (name === '' && rules.isUnitNeeded && rules.units.length > 0)
    return { ok: false, reason: `The unit is missing. Write one of ${rules.units.map((u) => u.name).join(', ')}.` };
  if (rules.decimals !== null && part.length !== rules.decimals)
    return { ok: false, reason: `The answer has ${countOf(rules.decimals, 'decimal')}; “${text.trim()}” has ${part.length}.` };
  const digits = new Fraction(BigInt(`${whole}${part}`), 10n ** BigInt(part.length));
  const ten = new Fraction(10n ** BigInt(Math.abs(exponent)), 1n);
  const scaled = exponent < 0 ? digits.div(ten) : digits.mul(ten);
  const factor = unit === undefined ? null : decimalRatio(unit.factor);
  const value = factor === null ? scaled : scaled.mul(factor);
  return {
    ok: true,
    number: { value: sign === '-' ? value.neg() : value, decimals: part.length, unit: unit?.name ?? null },
  };
}

/** A value rounded to so many significant figures, half away from zero, exactly. Worked example: 0.0123456 to three is 0.0123. */
export function toSignificant(value: Ratio, figures: number): Ratio {
  if (value.equals(ZERO)) return ZERO;
  const size = value.abs();
  // How many digits stand before the point; counted on whole numbers, so that no logarithm rounds.
  let place = 0n;
  const whole = size.n / size.d;
  if (whole > 0n) place = BigInt(whole.toString().length);
  else {
    for (let n = size.n * 10n; n < size.d; n *= 10n) place -= 1n;
  }
  const shift = BigInt(figures) - place;
  const scale = new Fraction(10n ** (shift < 0n ? -shift : shift), 1n);
  const scaled = shift < 0n ? size.div(scale) : size.mul(scale);
  const rounded = (2n * scaled.n + scaled.d) / (2n * scaled.d);
  const back = new Fraction(rounded, 1n);
  const result = shift < 0n ? back.mul(scale) : back.div(scale);
  return value.s < 0n ? result.neg() : result;
}

/**
 * Whether a value is near enough to the one of the key. Absolute: |x − a| ≤ amount. Relative: |x − a| ≤ percent of |a|. Significant:
 * equal when both are rounded to so many figures. All exact; a tolerance below zero throws.
 * Worked example: 9.79 is within 0.5 % of 9.81 (0.02 ≤ 0.04905).
 */
export function isWithin(value: Ratio, wanted: Ratio, tolerance: Tolerance): boolean {
  if (tolerance.kind === 'significant') return toSignificant(value, tolerance.figures).equals(toSignificant(wanted, tolerance.figures));
  const amount =
    tolerance.kind === 'absolute' ? decimalRatio(tolerance.amount) : decimalRatio(tolerance.percent).div(100).mul(wanted.abs());
  if (amount.compare(ZERO) < 0) throw new RangeError('A tolerance is 0 or more.');
  return value.sub(wanted).abs().compare(amount) <= 0;
}

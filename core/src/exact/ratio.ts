import Fraction from 'fraction.js';

/** An exact rational number. */
export type Ratio = Fraction;

/**
 * A value in thousandths that is a whole number wherever it can be, else an exact rational
 * (a late penalty of 5 % of 47.525 points is finer than a thousandth).
 */
export type Exact = number | Ratio;

export const ZERO: Ratio = new Fraction(0);
export const ONE: Ratio = new Fraction(1);

/** The exact rational numerator / denominator; both whole. A zero denominator throws. Example: `ratio(1, 3)`. */
export function ratio(numerator: number | bigint, denominator: number | bigint = 1): Ratio {
  return new Fraction(BigInt(numerator), BigInt(denominator));
}

export function toRatio(value: Exact): Ratio {
  return typeof value === 'number' ? ratio(value) : value;
}

/** Gives the plain whole number back where the rational is one, so that sums stay fast. */
export function simplest(value: Ratio): Exact {
  return value.d === 1n && value.n <= BigInt(Number.MAX_SAFE_INTEGER) ? Number(value.s * value.n) : value;
}

/**
 * Rounds half up (towards positive infinity at the exact half) to `decimals` places, as text with all places.
 *
 * Convention of the domain: rounding happens once, from the exact value.
 * Worked example: `roundHalfUp(ratio(126125, 1600), 1)` (78.828125) is `'78.8'`; `roundHalfUp(ratio(1, 8), 2)` is `'0.13'`.
 */
export function roundHalfUp(value: Ratio, decimals: number): string {
  const scale = 10n ** BigInt(decimals);
  const numerator = value.s * value.n * scale * 2n + value.d;
  const denominator = value.d * 2n;
  let whole = numerator / denominator;
  if (numerator < 0n && numerator % denominator !== 0n) whole -= 1n;
  const digits = (whole < 0n ? -whole : whole).toString().padStart(decimals + 1, '0');
  const text = decimals === 0 ? digits : `${digits.slice(0, -decimals)}.${digits.slice(-decimals)}`;
  return whole < 0n ? `−${text}` : text;
}

/** The number that a rounded text says, to order by or to draw; nothing is computed from it. Example: `−4.5` is -4.5. */
export const numberOfRounded = (text: string): number => Number(text.replace('−', '-'));

/**
 * The exact value as it is written in a working: a finite decimal in full (up to nine places),
 * an endless one to six places with an ellipsis.
 * Worked example: `exactText(ratio(126125, 1600))` is `'78.828125'`; `exactText(ratio(200, 3))` is `'66.666666…'`.
 */
export function exactText(value: Ratio): string {
  let rest = value.d;
  let twos = 0;
  let fives = 0;
  while (rest % 2n === 0n) {
    rest /= 2n;
    twos += 1;
  }
  while (rest % 5n === 0n) {
    rest /= 5n;
    fives += 1;
  }
  const places = Math.max(twos, fives);
  const sign = value.s < 0n ? '−' : '';
  if (rest === 1n && places <= 9) {
    const digits = ((value.n * 10n ** BigInt(places)) / value.d).toString().padStart(places + 1, '0');
    return sign + (places === 0 ? digits : `${digits.slice(0, -places)}.${digits.slice(-places)}`);
  }
  const digits = ((value.n * 1_000_000n) / value.d).toString().padStart(7, '0');
  return `${sign}${digits.slice(0, -6)}.${digits.slice(-6)}…`;
}

/** An exact value in thousandths of a point, written in points: `exactPoints(45125)` is `'45.125'`. */
export function exactPoints(value: Exact): string {
  return exactText(toRatio(value).div(1000));
}

/** An exact value as text that travels, and is read again by `readExact` without loss. Example: 8 1/3 is `'25/3'`, 45125 is `'45125'`. */
export const exactAsText = (value: Exact): string => (typeof value === 'number' ? String(value) : value.toFraction());

/** The exact value of a text of `exactAsText`; any other text throws. Example: `readExact('25/3')`. */
export function readExact(text: string): Exact {
  const [, top, bottom] = /^(-?\d+)(?:\/(\d+))?$/.exec(text) ?? [];
  if (top === undefined) throw new RangeError(`“${text}” is not an exact value.`);
  return simplest(ratio(BigInt(top), BigInt(bottom ?? '1')));
}

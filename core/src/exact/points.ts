import { countOf } from './countOf.ts';
/** A number of points as a whole number of thousandths: 37.5 points is 37500. */
export type Thousandths = number;

/** The largest number of points a field takes. Sums of 9,000 such items stay exact in a JavaScript integer. */
export const MOST_POINTS: Thousandths = 10_000_000;

export type Parsed = { readonly ok: true; readonly value: Thousandths } | { readonly ok: false; readonly reason: string };

/**
 * Reads points as they are typed or as PostgreSQL `numeric` sends them.
 *
 * Convention: at most three decimals, a point or a comma as the decimal sign, no sign, 0 to 10,000.
 * Errors are values: the reason is a sentence for the person who typed.
 * Worked example: `parsePoints('37,5')` is `{ ok: true, value: 37500 }`.
 */
export function parsePoints(text: string): Parsed {
  const clean = text.trim().replace(',', '.');
  if (!/^\d{1,6}(\.\d+)?$/.test(clean)) {
    return { ok: false, reason: `“${text}” is not a number of points. Type digits, such as 12 or 12.5.` };
  }
  const [whole = '0', decimals = ''] = clean.split('.');
  if (/[1-9]/.test(decimals.slice(3))) {
    return { ok: false, reason: `“${text}” has more than three decimals. Points are kept to a thousandth.` };
  }
  const value = Number(whole) * 1000 + Number(decimals.slice(0, 3).padEnd(3, '0'));
  if (value > MOST_POINTS) return { ok: false, reason: `“${text}” is more than 10,000 points, the most a field takes.` };
  return { ok: true, value };
}

/**
 * Thousandths from a database `numeric` or a number already checked; a broken value throws.
 * Worked example: `thousandthsOf('0.050')` is 50.
 */
export function thousandthsOf(text: string): Thousandths {
  const negative = text.startsWith('-');
  const parsed = parsePoints(negative ? text.slice(1) : text);
  if (!parsed.ok) throw new RangeError(parsed.reason);
  return negative ? -parsed.value : parsed.value;
}

/**
 * Points as they are read: no trailing zeros, a point as decimal sign, a true minus sign.
 * Worked example: `formatPoints(37500)` is `'37.5'`.
 */
export function formatPoints(value: Thousandths): string {
  const size = Math.abs(value);
  const decimals = String(size % 1000)
    .padStart(3, '0')
    .replace(/0+$/, '');
  return `${value < 0 ? '−' : ''}${Math.trunc(size / 1000)}${decimals === '' ? '' : `.${decimals}`}`;
}

/**
 * Points with their word, which is “point” for exactly one.
 * Worked example: `pointsInWords(1000)` is `'1 point'`, `pointsInWords(500)` is `'0.5 points'`.
 */
export const pointsInWords = (value: Thousandths): string => countOf(formatPoints(value), 'point');

/** Points as PostgreSQL reads them: `decimalText(-2375)` is `'-2.375'`. */
export function decimalText(value: Thousandths): string {
  return formatPoints(value).replace('−', '-');
}

import { ratio, type Ratio } from '../exact/ratio.ts';
import type { ShareThousandths } from './question.ts';

const WHOLE = 100_000;
/** Parts whose percentage has no end: thirds, sixths, sevenths, ninths, elevenths and twelfths. Simplest first. */
const ENDLESS = [3, 6, 7, 9, 11, 12] as const;

/**
 * The exact share that a percentage with three decimals stands for. A percentage that is a third, sixth, seventh, ninth, eleventh or
 * twelfth cut off or rounded at its third decimal is that fraction, because nobody means anything else by it: three times 33.333 % is
 * the whole. Every other percentage is taken as it is written.
 *
 * `thousandths` are thousandths of a percent, below zero where an answer takes points away; any whole number.
 * Worked example: 33333 is 1/3, 66666 and 66667 are 2/3, 33300 stays 333/1000.
 */
export function shareRatio(thousandths: ShareThousandths): Ratio {
  const size = Math.abs(thousandths);
  for (const parts of ENDLESS) {
    const times = Math.round((size * parts) / WHOLE);
    const exact = (times * WHOLE) / parts;
    if (times % parts !== 0 && !Number.isInteger(exact) && Math.abs(size - exact) < 1) return ratio(Math.sign(thousandths) * times, parts);
  }
  return ratio(thousandths, WHOLE);
}

/**
 * Shares that were meant to be equal parts of the whole and were typed with too few decimals, as the exact parts in thousandths of a
 * percent; null where there is nothing to mend.
 * Worked example: 33.3 % three times, or 33 % twice and 34 % once, is offered as three thirds: 33333 each.
 */
export function asEqualParts(shares: readonly ShareThousandths[]): readonly ShareThousandths[] | null {
  const parts = shares.length;
  if (parts < 3 || WHOLE % parts === 0) return null;
  const equal = Math.round(WHOLE / parts);
  const isNear =
    shares.every((share) => Math.abs(share - equal) <= 1000) && shares.some((share) => !shareRatio(share).equals(ratio(1, parts)));
  return isNear && parts <= 12 && shareRatio(equal).equals(ratio(1, parts)) ? shares.map(() => equal) : null;
}

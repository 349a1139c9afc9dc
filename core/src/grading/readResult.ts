import { exactPoints, ratio, toRatio, type Exact } from '../exact/ratio.ts';
import { formatPoints, type Thousandths } from '../exact/points.ts';
import type { Policy } from './policy.ts';
import { readTotal } from './scheme.ts';

/** How the result of one item is read: its points, its share in percent, or the letter of that share. */
export const READINGS = ['points', 'percent', 'letter'] as const;
export type ResultReading = (typeof READINGS)[number];

/**
 * One result as somebody reads it. A share and a letter are read as a total is: rounded half up once, at the scheme's decimals,
 * then the letter with the greatest cut-point not above it. Without possible points there is no share, and without a scheme
 * no letter: the points are read then. Points are thousandths.
 * Worked example: 43.5 of 50 at one decimal is `43.5 of 50`, `87.0 %`, and with A from 87 `A`.
 */
export function readResult(
  reading: ResultReading,
  result: Exact,
  possible: Thousandths,
  { decimals, levels }: Pick<Policy, 'decimals' | 'levels'>,
): string {
  const share = reading === 'points' || possible === 0 ? null : readTotal(toRatio(result).div(ratio(possible)), decimals, levels);
  const read = share === null ? null : reading === 'letter' ? share.letter : `${share.percent} %`;
  return read ?? `${exactPoints(result)} of ${formatPoints(possible)}`;
}

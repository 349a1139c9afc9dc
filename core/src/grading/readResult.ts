import { exactPoints, ratio, toRatio, type Exact } from '../exact/ratio.ts';
import { formatPoints, type Thousandths } from '../exact/points.ts';
import type { Policy, SchemeLevel } from './policy.ts';
import { readTotal } from './scheme.ts';

/** How the result of one item is read: its points, its share in percent, or the letter of that share. */
export const READINGS = ['points', 'percent', 'letter'] as const;
export type ResultReading = (typeof READINGS)[number];

/** What a result is read by: the points of its column, and its own levels where it is not read by the letters of the course. */
export interface ReadColumn {
  readonly possible: Thousandths;
  readonly ownLevels: readonly SchemeLevel[] | null;
}

/**
 * One result as somebody reads it. A share and a letter are read as a total is: rounded half up once, at the scheme's decimals,
 * then the letter with the greatest cut-point not above it. Without possible points there is no share, and without a scheme
 * no letter: the points are read then. A column that has levels of its own is read by these. Points are thousandths.
 * Worked example: 43.5 of 50 at one decimal is `43.5 of 50`, `87.0 %`, and with A from 87 `A`.
 */
export function readResult(
  reading: ResultReading,
  result: Exact,
  { possible, ownLevels }: ReadColumn,
  { decimals, levels }: Pick<Policy, 'decimals' | 'levels'>,
): string {
  const share =
    reading === 'points' || possible === 0 ? null : readTotal(toRatio(result).div(ratio(possible)), decimals, ownLevels ?? levels);
  const read = share === null ? null : reading === 'letter' ? share.letter : `${share.percent} %`;
  return read ?? `${exactPoints(result)} of ${formatPoints(possible)}`;
}

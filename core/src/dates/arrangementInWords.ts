import { countOf } from '../exact/countOf.ts';
import { formatPoints } from '../exact/points.ts';

/** A lasting arrangement of a student; the multiplier of times in thousandths. */
interface ArrangementSaid {
  readonly extraDays: number;
  readonly timeMultiplier: number;
  readonly extraAttempts: number;
  readonly reason: string;
}
/**
 * An arrangement as it is read beside a name.
 * Worked example: two days and a time of 1250: `2 more days, time × 1.25, extra time agreed with the school`.
 */
export const arrangementInWords = (a: ArrangementSaid): string =>
  [
    a.extraDays > 0 ? countOf(a.extraDays, 'more day', 'more days') : '',
    a.timeMultiplier > 1000 ? `time × ${formatPoints(a.timeMultiplier)}` : '',
    a.extraAttempts > 0 ? countOf(a.extraAttempts, 'more attempt', 'more attempts') : '',
    a.reason,
  ]
    .filter((part) => part !== '')
    .join(', ');

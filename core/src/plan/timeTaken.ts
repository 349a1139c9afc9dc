import { quantile } from '../statistics/quantile.ts';

/** Fewer students than this say nothing about a class. */
const FEW = 5;
/** So far from what was asked a typical student must be before it is said. */
const FAR = 1.5;
/** Whoever is through in less than this share of the time asked has hardly read it. */
const HASTY = 0.2;

export interface TimeTaken {
  /** How many students opened it long enough to be counted. */
  readonly students: number;
  /** Minutes: median and quartiles (type 7); null for fewer than five students. */
  readonly median: number | null;
  readonly low: number | null;
  readonly high: number | null;
  readonly verdict: 'too few' | 'as asked' | 'more' | 'less' | 'elsewhere';
  /** Students who took less than a fifth of the time asked. */
  readonly hasty: number;
  /** The minutes that would fit, to the next five; null where nothing is to be changed. */
  readonly suggested: number | null;
}

/**
 * Minutes asked of a student held against the minutes they had an item open, one figure a student.
 *
 * `more` and `less` are said when the median is beyond one and a half times (or below two thirds of) what was asked; then the
 * median rounded up to five minutes is suggested. Fewer than five students give no figures. Time open here is not time spent:
 * it is the best that is known, and the interface says so. Of what is done off the screen (`isOnScreen` false) nothing is suggested. Worked example: asked 30; taken 44, 50, 52, 61, 70: median 52, `more`,
 * suggested 55.
 */
export function timeTaken(askedMinutes: number, takenMinutes: readonly number[], isOnScreen = true): TimeTaken {
  const students = takenMinutes.length;
  const hasty = takenMinutes.filter((m) => m < askedMinutes * HASTY).length;
  if (students < FEW) return { students, median: null, low: null, high: null, verdict: 'too few', hasty, suggested: null };
  const [low, median, high] = [0.25, 0.5, 0.75].map((share) => quantile(takenMinutes, share)) as [number, number, number];
  // What is drawn, built or read elsewhere is open here for a moment only: those minutes say nothing of the work.
  if (!isOnScreen) return { students, median, low, high, verdict: 'elsewhere', hasty: 0, suggested: null };
  const verdict = median > askedMinutes * FAR ? 'more' : median < askedMinutes / FAR ? 'less' : 'as asked';
  const suggested = verdict === 'as asked' ? null : Math.max(5, Math.ceil(median / 5) * 5);
  return { students, median, low, high, verdict, hasty, suggested };
}

export interface OverfullWeek {
  readonly week: number;
  readonly minutes: number;
  readonly median: number;
}

/**
 * Weeks that ask far more of a student than the rest: over one and a half times the median of the weeks that ask anything, and
 * at least an hour above it. Fewer than three such weeks to compare with give none.
 * Worked example: weeks of 120, 130, 140 and 400 minutes: the last, against a median of 135.
 */
export function overfullWeeks(loads: readonly { readonly week: number; readonly studentMinutes: number }[]): readonly OverfullWeek[] {
  const asking = loads.filter((load) => load.studentMinutes > 0);
  const median = quantile(
    asking.map((load) => load.studentMinutes),
    0.5,
  );
  if (median === null || asking.length < 3) return [];
  return asking
    .filter((load) => load.studentMinutes > median * FAR && load.studentMinutes >= median + 60)
    .map((load) => ({ week: load.week, minutes: load.studentMinutes, median }));
}

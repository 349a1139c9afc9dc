/** How long one work takes: one's own median where there is enough of it, else what the Plan says. */
export interface Pace {
  readonly minutes: number;
  readonly isOwn: boolean;
}

const ENOUGH = 5;

/**
 * The pace of marking: the median of one's own recent works of this item where there are at least five, else the
 * item's own minutes. Worked example: planned 8 min, own works 5, 5, 6, 5, 20: 5 min, own.
 */
export function markingPace(plannedMinutes: number, ownMinutes: readonly number[]): Pace {
  if (ownMinutes.length < ENOUGH) return { minutes: plannedMinutes, isOwn: false };
  const sorted = [...ownMinutes].sort((a, b) => a - b);
  const middle = Math.floor(sorted.length / 2);
  const upper = sorted[middle] as number;
  return { minutes: sorted.length % 2 === 1 ? upper : ((sorted[middle - 1] as number) + upper) / 2, isOwn: true };
}

/**
 * Minutes that marking `count` works will take at a pace. Rounded to five minutes above ten, never zero for something; a pace of nothing is
 * one nobody knows, and gives no estimate: 0.
 * Worked example: 14 works at 8 min: 110.
 */
export function markingEstimate(count: number, pace: Pace): number {
  if (count === 0 || pace.minutes === 0) return 0;
  const minutes = count * pace.minutes;
  return minutes <= 10 ? Math.max(1, Math.round(minutes)) : Math.round(minutes / 5) * 5;
}

/** What an estimate rests on, in words: `7 min each, your own pace`; `8 min each, as planned`. */
export function paceInWords(pace: Pace): string {
  const each = pace.minutes < 1 ? 'under a minute' : `${Math.round(pace.minutes)} min`;
  return `${each} each, ${pace.isOwn ? 'your own pace' : 'as planned'}`;
}

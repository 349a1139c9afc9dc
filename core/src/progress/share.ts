import { ratio, ZERO, type Ratio } from '../exact/ratio.ts';

export interface ProgressItem {
  readonly minutes: number;
  readonly isRequired: boolean;
  readonly isDue: boolean;
  readonly isDone: boolean;
}

/**
 * A student's share: done required items / required items open or past for them, or the same by estimated minutes.
 * Null where nothing is open yet. Worked example: 3 of 4 open required items done: 3/4.
 */
export function progressShare(items: readonly ProgressItem[], by: 'items' | 'minutes'): Ratio | null {
  let done = 0;
  let all = 0;
  for (const item of items) {
    if (!item.isRequired || !item.isDue) continue;
    const weight = by === 'items' ? 1 : item.minutes;
    all += weight;
    if (item.isDone) done += weight;
  }
  return all === 0 ? null : ratio(done, all);
}

/** The class is the mean over its students (those with a share); null for none. Example: 1/2 and 1 give 3/4. */
export function classShare(shares: readonly (Ratio | null)[]): Ratio | null {
  const known = shares.filter((share) => share !== null);
  return known.length === 0 ? null : known.reduce((sum, share) => sum.add(share), ZERO).div(known.length);
}

import type { Thousandths } from '../exact/points.ts';

/** Which of several attempts makes the score. */
export const COUNTING = ['latest', 'best', 'first', 'mean'] as const;
export type Counting = (typeof COUNTING)[number];

/** One attempt that was marked, in the order they were handed in. */
export interface MarkedAttempt {
  readonly number: number;
  readonly score: Thousandths;
}

export interface CountedScore {
  readonly score: Thousandths;
  /** The attempt whose score and hand-in time count; of a mean the latest that is in it. */
  readonly number: number;
}

/**
 * The score that counts of several marked attempts, in thousandths of a point.
 *
 * `latest` and `first` take that attempt; `best` the greatest, the earlier of equal ones; `mean` the sum over their number, rounded
 * half up to a thousandth: the one rounding here. The hand-in time that lateness is counted from is that of `number`.
 * No marked attempt gives null. Attempts are given in any order; two of one number throw.
 * Worked example: 40, 52 and 51 by `mean`: 47.667, with the time of the third; by `best`: 52, the second.
 */
export function countedScore(rule: Counting, attempts: readonly MarkedAttempt[]): CountedScore | null {
  const ordered = [...attempts].sort((a, b) => a.number - b.number);
  const [first] = ordered;
  const last = ordered.at(-1);
  if (first === undefined || last === undefined) return null;
  if (ordered.some((a, n) => n > 0 && a.number === ordered[n - 1]?.number)) throw new Error('An attempt is given twice.');
  if (rule === 'first') return first;
  if (rule === 'latest') return last;
  if (rule === 'best') return ordered.reduce((best, a) => (a.score > best.score ? a : best), first);
  const sum = ordered.reduce((all, a) => all + a.score, 0);
  return { score: Math.floor((2 * sum + ordered.length) / (2 * ordered.length)), number: last.number };
}

/** The rule in words: `the best of 3 attempts`. */
export function countedWords(rule: Counting, many: number): string {
  const all = many === 1 ? 'one attempt' : `${many} attempts`;
  return rule === 'mean' ? `the mean of ${all}, to a thousandth` : `the ${rule} of ${all}`;
}

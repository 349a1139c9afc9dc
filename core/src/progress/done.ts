import { formatPoints, type Thousandths } from '../exact/points.ts';
import { toRatio, ratio, type Exact } from '../exact/ratio.ts';
import type { DoneRule } from '../items/doneRules.ts';
import { kindOfItem, type ItemKind } from '../items/kinds.ts';

/** What is known of one student at one item. */
export interface Traces {
  readonly openedAt: number | null;
  readonly tickedAt: number | null;
  readonly handedInAt: number | null;
  /** Finished (for staff) or released (for the student) result in thousandths. */
  readonly result: Exact | null;
  readonly isMarked: boolean;
  readonly isExempt: boolean;
  /** The reviews of others’ works they were given, and their own where it is assessed, are all handed in; false where there are none. */
  readonly areReviewsGiven: boolean;
}

/**
 * Whether an item is done for one student. Opening rules, progress and certificates all rest on this one function.
 * An exempt student counts as done, so that nothing waits for what will never come.
 * `score` compares exactly, in thousandths. Worked example: rule `score` with 12000 and a result of 12: done.
 */
export function isDone(rule: DoneRule, traces: Traces, neededScore: number | null = null): boolean {
  if (traces.isExempt) return true;
  switch (rule) {
    case 'opened':
      return traces.openedAt !== null;
    case 'ticked':
      return traces.tickedAt !== null;
    case 'handed in':
      return traces.handedInAt !== null;
    case 'marked':
      return traces.isMarked;
    case 'score':
      return traces.result !== null && toRatio(traces.result).compare(ratio(neededScore ?? 0)) >= 0;
    case 'reviewed':
      return traces.areReviewsGiven;
    case 'handed in and reviewed':
      return traces.handedInAt !== null && traces.areReviewsGiven;
    case 'handed in or reviewed':
      return traces.handedInAt !== null || traces.areReviewsGiven;
    case 'never':
      return false;
  }
}

/** A rule of being done in words, for a kind. Example: `score` with 12000: `done at 12 points or more`. */
export function doneInWords(rule: DoneRule, neededScore: Thousandths | null, kind: ItemKind): string {
  const words: { readonly [rule in DoneRule]: string } = {
    opened: 'done when opened',
    ticked: 'done when ticked',
    'handed in': `done when ${kindOfItem(kind).handedInRule}`,
    marked: 'done when marked',
    score: `done at ${formatPoints(neededScore ?? 0)} points or more`,
    reviewed: 'done when all reviews are given',
    'handed in and reviewed': `done when ${kindOfItem(kind).handedInRule} and all reviews are given`,
    'handed in or reviewed': `done when ${kindOfItem(kind).handedInRule} or all reviews are given`,
    never: 'never done by itself',
  };
  return words[rule];
}

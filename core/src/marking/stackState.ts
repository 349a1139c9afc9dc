export const STACK_STATES = [
  'waits',
  'in hand',
  'to agree',
  'draft',
  'finished',
  'released',
  'revision asked',
  'missing',
  'not begun',
  'exempt',
  'unfinished',
] as const;
export type StackState = (typeof STACK_STATES)[number];

export interface StackFacts {
  readonly handedInAt: number | null;
  readonly isMissing: boolean;
  readonly gradeState: 'scored' | 'exempt' | 'unfinished' | 'missing' | 'judged' | null;
  readonly isReleased: boolean;
  /** The marker's private mark: none, begun, or finished; and when it was finished. */
  readonly markState: 'draft' | 'finished' | null;
  /** Where two mark on their own: how many of them have begun, and how many stand by their mark. */
  readonly pair: { readonly begun: number; readonly finished: number } | null;
  /** The student has begun something that is not handed in. */
  readonly hasDraft: boolean;
  readonly finishedAt: number | null;
  /** The number of the latest attempt, 0 where there is none, and of the attempt a revision is asked of, if one is. */
  readonly attempt: number;
  readonly revisionOf: number | null;
}

/**
 * Where one submission stands in the stack. What a teacher stands by outweighs what is derived; a hand-in after the
 * last finished mark waits again; work that somebody has begun to mark is in hand; what two have marked on their own is to be
 * agreed between them; while a revision is asked for and nothing new came, that is said. Worked example: handed in, a mark begun: `in hand`; finished and
 * shown: `released`.
 */
export function stackState(facts: StackFacts): StackState {
  if (facts.gradeState === 'exempt') return 'exempt';
  if (facts.gradeState === 'unfinished') return 'unfinished';
  if (facts.revisionOf !== null && facts.attempt <= facts.revisionOf) return 'revision asked';
  const cameAgain = facts.handedInAt !== null && facts.finishedAt !== null && facts.handedInAt > facts.finishedAt;
  if ((facts.gradeState === 'scored' || facts.gradeState === 'judged') && !cameAgain) {
    if (facts.markState === 'draft') return 'in hand';
    return facts.isReleased ? 'released' : 'finished';
  }
  if (facts.gradeState === 'missing') return 'missing';
  if (facts.handedInAt !== null) {
    if (facts.pair?.finished === 2) return 'to agree';
    return facts.markState === 'draft' || (facts.pair?.begun ?? 0) > 0 ? 'in hand' : 'waits';
  }
  if (facts.isMissing) return 'missing';
  return facts.hasDraft ? 'draft' : 'not begun';
}

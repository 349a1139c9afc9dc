export const STACK_STATES = [
  'waits',
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
  readonly finishedAt: number | null;
  /** The number of the latest attempt, 0 where there is none, and of the attempt a revision is asked of, if one is. */
  readonly attempt: number;
  readonly revisionOf: number | null;
}

/**
 * Where one submission stands in the stack. What a teacher stands by outweighs what is derived; a hand-in after the
 * last finished mark waits again; while a revision is asked for and nothing new came, that is said. Worked example: handed in, a mark begun: `draft`; finished and shown: `released`.
 */
export function stackState(facts: StackFacts): StackState {
  if (facts.gradeState === 'exempt') return 'exempt';
  if (facts.gradeState === 'unfinished') return 'unfinished';
  if (facts.revisionOf !== null && facts.attempt <= facts.revisionOf) return 'revision asked';
  const cameAgain = facts.handedInAt !== null && facts.finishedAt !== null && facts.handedInAt > facts.finishedAt;
  if ((facts.gradeState === 'scored' || facts.gradeState === 'judged') && !cameAgain) {
    if (facts.markState === 'draft') return 'draft';
    return facts.isReleased ? 'released' : 'finished';
  }
  if (facts.gradeState === 'missing') return 'missing';
  if (facts.handedInAt !== null) return facts.markState === 'draft' ? 'draft' : 'waits';
  return facts.isMissing ? 'missing' : 'not begun';
}

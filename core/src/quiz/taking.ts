/** When something of a result is shown to its student. */
export type ReviewTime =
  { readonly kind: 'never' | 'at once' | 'closed' } | { readonly kind: 'window'; readonly from: number; readonly to: number };
export const REVIEWED = ['score', 'answers', 'key', 'feedback'] as const;
export type Reviewed = (typeof REVIEWED)[number];

const MINUTE = 60_000;

/**
 * When an attempt ends: so many minutes after it began, times what an arrangement multiplies, plus what was added by hand; never after
 * the closing time in force, save by what was added by hand. Null is without end. Times in milliseconds since 1970.
 * Worked example: begun 10:00, 40 minutes, times 1.5: 11:00; closing at 10:50 makes it 10:50, and 5 minutes more 10:55.
 */
export function attemptEnd(
  begunAt: number,
  timing: {
    readonly limitMinutes: number | null;
    readonly multiplier: number;
    readonly addedMinutes: number;
    readonly closesAt: number | null;
  },
): number | null {
  const { limitMinutes, multiplier, addedMinutes, closesAt } = timing;
  const own = limitMinutes === null ? null : begunAt + Math.round(limitMinutes * multiplier * MINUTE);
  const least = own === null ? closesAt : closesAt === null ? own : Math.min(own, closesAt);
  return least === null ? null : least + addedMinutes * MINUTE;
}

/** Answers on their way when time ends are still taken so much later: the way, not more time. */
export const ON_THE_WAY_MS = 5_000;

/**
 * Whether something of a result may be seen now. `closedAt` is when the quiz is closed for everybody who may still take it, or null.
 * Nothing of a quiz that can still be taken again by the same student is told but at once.
 * Worked example: “closed” with closing at 17:00: not at 16:59, and at 17:00.
 */
export function mayReview(when: ReviewTime, now: number, closedAt: number | null): boolean {
  if (when.kind === 'at once') return true;
  if (when.kind === 'closed') return closedAt !== null && now >= closedAt;
  return when.kind === 'window' && now >= when.from && now < when.to;
}

/**
 * Whether the score of a quiz may be given to its student now. What was given once stays given: after the end of a window the mark stands in
 * the student's grades, and only the paper can no longer be looked at. `closedAt` is the student's own closing time, or null.
 * Worked example: a window from 10:00 to 12:00: not at 9:59, at 10:00, and at 13:00 still.
 */
export function isScoreDue(when: ReviewTime, now: number, closedAt: number | null): boolean {
  return when.kind === 'window' ? now >= when.from : mayReview(when, now, closedAt);
}

/**
 * What two settings of a quiz say against each other about when its score is seen, in words with the mend; null where they agree. One rule
 * decides: where results go out as each is finished it is the quiz's own; where they are released by hand or at a date, the score is seen
 * then. A score that must be reached to stop taking a quiz again would tell a hidden one.
 * Worked example: released by hand, and the score after closing: “Results of this quiz are released by hand …”.
 */
export function scoreTimingFault(
  releaseMode: 'finished' | 'date' | 'hand',
  score: ReviewTime['kind'],
  retryUntil: number | null,
): string | null {
  if (releaseMode !== 'finished' && score !== 'at once') {
    const how = releaseMode === 'hand' ? 'by hand' : 'at a date';
    return `Results of this quiz are released ${how}, and the score is seen then. Let “the score” be seen at once (it is as soon as it is released), or release results as each is finished.`;
  }
  if (retryUntil !== null && (score !== 'at once' || releaseMode !== 'finished'))
    return '“No more once so many points” tells whether they are reached, so the score must be seen at once, as each is finished. Change one of the two.';
  return null;
}

/** What is said of a review time. Example: “after closing”. */
export function reviewInWords(when: ReviewTime, dayOf: (at: number) => string): string {
  if (when.kind === 'window') return `from ${dayOf(when.from)} to ${dayOf(when.to)}`;
  return when.kind === 'closed' ? 'after closing' : when.kind;
}

/** What stands on the server for one answer. */
export interface HeldAnswer {
  readonly version: number;
  readonly device: string;
  readonly turn: number;
}
/** A save that came: from which window, its place in that window's saves, and the version it was made over. */
export interface ComingAnswer {
  readonly device: string;
  readonly turn: number;
  readonly seen: number;
}
/**
 * What becomes of a save. One that came before, or was overtaken by a later one of the same window, changes nothing and is answered as
 * kept. One of another window that had not seen what stands there is a conflict. Everything else is written.
 * Worked example: window a wrote turn 5; its turn 4 arrives late: kept. Window b, which saw nothing, writes: conflict.
 */
export function meetAnswer(held: HeldAnswer | null, coming: ComingAnswer): 'write' | 'kept' | 'conflict' {
  if (held === null) return 'write';
  if (held.device === coming.device) return coming.turn > held.turn ? 'write' : 'kept';
  return coming.seen === held.version ? 'write' : 'conflict';
}

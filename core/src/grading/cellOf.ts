import { curveOf, type Curve } from './curve.ts';
import { applyLate } from './late.ts';
import { OUTSIDE, type GradedCell } from './cell.ts';
import type { LatePolicy } from './policy.ts';
import type { Thousandths } from '../exact/points.ts';
import type { DatesInForce } from '../dates/dateInForce.ts';
import type { Exact } from '../exact/ratio.ts';

/** The current state kept from the ledger for one item and one student. */
export interface GradeFacts {
  readonly state: 'scored' | 'exempt' | 'unfinished' | 'missing' | 'judged' | null;
  readonly raw: Thousandths | null;
  readonly isReleased: boolean;
}

export interface CellFacts {
  readonly isForStudent: boolean;
  /** Something is to be handed in or taken here; only then can work be missing by itself. */
  readonly expectsHandIn: boolean;
  readonly possible: Thousandths;
  readonly dates: DatesInForce;
  readonly handedInAt: number | null;
  readonly grade: GradeFacts | null;
  readonly late: LatePolicy | null;
  /** A curve on the column; none where it has none. */
  readonly curve?: Curve | null;
  readonly now: number;
  /** A student's view counts released marks only. */
  readonly releasedOnly: boolean;
}

/** The most an unmarked item can still bring this student now. */
function mostPossible(facts: CellFacts): Exact {
  const { dates, possible, now, handedInAt } = facts;
  const full = curveOf(facts.curve ?? null, possible, possible).result;
  if (!facts.expectsHandIn) return full;
  if (handedInAt === null && dates.closes.at !== null && now >= dates.closes.at) return 0;
  return applyLate({ earned: full, possible, handedInAt: handedInAt ?? now, dueAt: dates.due.at, policy: facts.late }).result;
}

/** Derived missing: a hand-in was expected, nothing came by due plus grace. */
export function isMissing(facts: CellFacts): boolean {
  if (!facts.expectsHandIn || facts.handedInAt !== null || facts.dates.due.at === null) return false;
  return facts.now > facts.dates.due.at + (facts.late?.graceMinutes ?? 0) * 60_000;
}

/**
 * One cell of the gradebook from its facts: state, result (what was given, then the curve, then lateness), and the most it could still bring.
 * Missing is derived only where a hand-in is expected, or a teacher says so; a mark outweighs it.
 * Worked example: 43 of 60 scored, handed in an hour late under 5 % a day of earned: result 40.85.
 */
export function cellOf(facts: CellFacts): GradedCell {
  if (!facts.isForStudent) return OUTSIDE;
  const { grade } = facts;
  const isVisible = grade !== null && grade.state !== null && (!facts.releasedOnly || grade.isReleased);
  const most = mostPossible(facts);
  const blank = { raw: null, result: null, late: null, isReleased: grade?.isReleased ?? false };
  // Exempt is no mark and waits for no release: like a date it holds for staff and student alike.
  if (grade !== null && grade.state === 'exempt') return { ...blank, state: 'exempt', mostPossible: most };
  if (isVisible && grade.state === 'unfinished') return { ...blank, state: 'unfinished', mostPossible: most };
  // Judged in words: there is no number, and none to wait for.
  if (isVisible && grade.state === 'judged') return { ...blank, state: 'judged', mostPossible: 0 };
  if (isVisible && grade.state === 'scored' && grade.raw !== null) {
    const curved = curveOf(facts.curve ?? null, grade.raw, facts.possible);
    const { result, late } = applyLate({
      earned: curved.result,
      possible: facts.possible,
      handedInAt: facts.handedInAt,
      dueAt: facts.dates.due.at,
      policy: facts.late,
    });
    const made = { state: 'marked', raw: grade.raw, result, late, mostPossible: result, isReleased: grade.isReleased } as const;
    return curved.account === null ? made : { ...made, curve: curved.account };
  }
  const saidMissing = isVisible && grade.state === 'missing';
  return { ...blank, state: saidMissing || isMissing(facts) ? 'missing' : 'none', mostPossible: most };
}

/** How late a hand-in is in milliseconds after due plus grace, or null when it is not. */
export function lateBy(handedInAt: number | null, dueAt: number | null, graceMinutes: number): number | null {
  if (handedInAt === null || dueAt === null) return null;
  const over = handedInAt - dueAt - graceMinutes * 60_000;
  return over > 0 ? over : null;
}

import type { OwnAttempt, QuizSetting } from '@rosemary/api';
import { attemptEnd } from '@rosemary/core';
import type { StoredPaper } from '../kinds/quiz/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import type { Kept } from './terms.ts';

export interface AttemptRow {
  id: string;
  item_id: string;
  enrolment_id: string;
  number: number;
  seed: string;
  paper: StoredPaper;
  state: 'open' | 'handed in' | 'set aside';
  begun_at: Date;
  ends_at: Date | null;
  added_minutes: number;
  handed_in_at: Date | null;
  handed_in_how: OwnAttempt['how'];
  over_seconds: number;
  score: number | null;
  /** The time it began under. */
  limit_minutes: number | null;
  at_end: QuizSetting['atEnd'];
  /** What else it keeps of the terms it began under. */
  kept: Kept;
}

const COLUMNS =
  'id, item_id, enrolment_id, number, seed, paper, state, begun_at, ends_at, added_minutes, handed_in_at, handed_in_how, over_seconds, (score * 1000)::int as score, limit_minutes, at_end, kept';

export async function findAttempt(db: Db, itemId: string, attemptId: string): Promise<AttemptRow | null> {
  return maybe<AttemptRow>(db, `select ${COLUMNS} from quiz_attempt where id = $1 and item_id = $2`, [attemptId, itemId]);
}

export async function listOwnAttempts(db: Db, itemId: string, enrolmentId: string): Promise<AttemptRow[]> {
  return rows<AttemptRow>(db, `select ${COLUMNS} from quiz_attempt where item_id = $1 and enrolment_id = $2 order by number`, [
    itemId,
    enrolmentId,
  ]);
}

export async function getOwn(db: Db, itemId: string, attemptId: string, enrolmentId: string): Promise<AttemptRow> {
  const row = await findAttempt(db, itemId, attemptId);
  if (row === null || row.enrolment_id !== enrolmentId) throw notFound();
  return row;
}

export interface Given {
  readonly multiplier: number;
  readonly reason: string;
  readonly extraAttempts: number;
}

/** What arrangements give one student: of several the longest time, and all their attempts. */
export async function readGiven(db: Db, enrolmentId: string): Promise<Given> {
  const found = await rows<{ time_multiplier: string; extra_attempts: number; reason: string }>(
    db,
    'select time_multiplier, extra_attempts, reason from arrangement where enrolment_id = $1 order by time_multiplier desc',
    [enrolmentId],
  );
  const multiplier = Number(found[0]?.time_multiplier ?? '1');
  return {
    multiplier,
    reason: multiplier > 1 ? `${String(multiplier)} times the usual, by arrangement` : '',
    extraAttempts: found.reduce((sum, a) => sum + a.extra_attempts, 0),
  };
}

/** When an attempt ends for good, and when its time is over: two things where one may go on after the time. It keeps the time it began under. */
export function endsOf(
  attempt: Pick<AttemptRow, 'begun_at' | 'added_minutes' | 'limit_minutes' | 'at_end' | 'kept'>,
  multiplier: number,
  closesAt: number | null,
): { readonly end: number | null; readonly limit: number | null } {
  const timing = {
    limitMinutes: attempt.limit_minutes,
    multiplier,
    addedMinutes: attempt.added_minutes,
    closesAt: attempt.kept.closesAt === undefined ? closesAt : attempt.kept.closesAt,
  };
  const limit = attemptEnd(attempt.begun_at.getTime(), timing);
  const end = attempt.at_end === 'flag' ? attemptEnd(attempt.begun_at.getTime(), { ...timing, limitMinutes: null }) : limit;
  return { end, limit };
}

import type { OwnAttempt } from '@rosemary/api';
import { type Db, run } from '../platform/database.ts';
import type { AttemptRow } from './attemptRows.ts';
import { scoreAttempts } from './scoring.ts';

/** Hands in an attempt: once, whatever is sent twice. What can be scored at once is. */
export async function closeAttempt(
  db: Db,
  courseId: string,
  attempt: Pick<AttemptRow, 'id' | 'item_id' | 'enrolment_id' | 'begun_at' | 'added_minutes'>,
  how: NonNullable<OwnAttempt['how']>,
  at: number,
  limit: number | null,
): Promise<void> {
  const over = limit === null ? 0 : Math.max(0, Math.round((at - limit) / 1000));
  const changed = await run(
    db,
    `update quiz_attempt set state = 'handed in', handed_in_at = to_timestamp($2 / 1000.0), handed_in_how = $3, over_seconds = $4, version = version + 1 where id = $1 and state = 'open'`,
    [attempt.id, at, how, over],
  );
  if (changed === 1) await scoreAttempts(db, courseId, attempt.item_id, [attempt.id], { at, actorId: null });
}

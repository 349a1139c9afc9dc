import type { MarkView } from '@rosemary/api';
import type { Target } from '../anonymity/index.ts';
import { findGradeBefore, findGradeForUpdate, getWorkColumn, recordGrade } from '../gradebook/index.ts';
import { listMates } from '../handIn/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';
import { announceReturned } from '../platform/events.ts';
import { getMark } from './marks.ts';
import type { Slot } from './slots.ts';

interface Finished {
  id: string;
  submission_id: string;
  event_id: string | null;
  attempt_before: { attemptId: string; raw: string | null; choices: unknown; markerId: string | null; finishedAt: string | null } | null;
}

/** What stood in the ledger before an event is written again, as an event of its own. */
async function takeEventBack(db: Db, target: Target, eventId: string, actorId: string, now: number): Promise<boolean> {
  const columnId = await getWorkColumn(db, target.itemId);
  const current = await findGradeForUpdate(db, columnId, target.enrolmentId);
  if (current?.eventId !== eventId)
    throw new AppError(
      'not-now',
      'The mark was changed again since it was finished, so the finishing cannot be undone. Change the mark itself.',
    );
  const before = await findGradeBefore(db, columnId, target.enrolmentId, eventId);
  await recordGrade(db, {
    columnId,
    enrolmentId: target.enrolmentId,
    kind: 'undo',
    state: before?.state ?? null,
    raw: before?.raw ?? null,
    isReleased: before?.isReleased ?? false,
    source: 'marking',
    reason: '',
    actorId,
    at: now,
    undoes: eventId,
  });
  return current.isReleased || before?.isReleased === true;
}

async function restoreAttempt(db: Db, before: NonNullable<Finished['attempt_before']>): Promise<void> {
  if (before.raw === null) await run(db, 'delete from attempt_mark where attempt_id = $1', [before.attemptId]);
  else
    await run(db, 'update attempt_mark set raw = $2, choices = $3, marker_id = $4, finished_at = $5 where attempt_id = $1', [
      before.attemptId,
      before.raw,
      JSON.stringify(before.choices),
      before.markerId,
      before.finishedAt,
    ]);
}

/**
 * Takes back that a mark was finished, for every member of a group: it is its marker's draft again, the ledger says what it said before, and
 * students read the version before it, where one was released. Refused once something else was written since.
 */
export async function undoFinish(
  db: Db,
  courseId: string,
  target: Target,
  version: number,
  actorId: string,
  now: number,
  slot: Slot = 1,
): Promise<MarkView> {
  const mark = await getMark(db, target, slot);
  if (mark.version !== version || mark.state === 'draft')
    throw new AppError('not-now', 'The mark was changed again since it was finished, so the finishing cannot be undone.');
  const mates = await listMates(db, target.itemId, target.enrolmentId);
  const seen: string[] = [];
  const latest = await rows<Finished & { enrolment_id: string }>(
    db,
    `select distinct on (s.enrolment_id) s.enrolment_id, f.id, f.submission_id, f.event_id, f.attempt_before from finished_mark f join submission s on s.id = f.submission_id
     where s.item_id = $1 and s.enrolment_id = any($2) and f.undone_at is null order by s.enrolment_id, f.id desc`,
    [target.itemId, slot === 1 ? mates : []],
  );
  for (const enrolmentId of slot === 1 ? mates : []) {
    const own = { itemId: target.itemId, enrolmentId };
    const finished = latest.find((f) => f.enrolment_id === enrolmentId);
    // Whoever is exempt was passed over when it was finished.
    if (finished === undefined) continue;
    if (finished.event_id !== null && (await takeEventBack(db, own, finished.event_id, actorId, now))) seen.push(enrolmentId);
    if (finished.attempt_before !== null) await restoreAttempt(db, finished.attempt_before);
  }
  await run(db, 'update finished_mark set undone_at = to_timestamp($2 / 1000.0) where id = any($1)', [latest.map((f) => f.id), now]);
  const changed = await run(
    db,
    `update mark m set state = 'draft', finished_at = null, version = m.version + 1 from submission s where s.id = m.submission_id and s.item_id = $1 and s.enrolment_id = any($2) and m.slot = $3`,
    [target.itemId, mates, slot],
  );
  if (changed === 0) throw notFound();
  if (seen.length > 0) await announceReturned(db, courseId, target.itemId, seen);
  return getMark(db, target, slot);
}

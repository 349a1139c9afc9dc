import type { TakenBack } from '@rosemary/api';
import type { DocumentNode, Membership } from '@rosemary/core';
import { findAssignment } from '../kinds/assignment/index.ts';
import { getVisible } from '../opening/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';
import { listMates } from './mates.ts';

/** Why an attempt cannot be taken back, in words, or null. */
export function whyKept(allows: boolean, dueAt: number | null, isTouched: boolean, now: number): string | null {
  if (!allows) return 'What is handed in here cannot be taken back. You may hand in again where another attempt is left.';
  if (dueAt !== null && now >= dueAt) return 'It is past the due time, so what was handed in stays.';
  return isTouched ? 'Marking of it has begun, or it is given out to be reviewed, so what was handed in stays.' : null;
}

/** Whether anybody has begun to mark a work, by a mark or a note in its margin, or has it to review. */
export async function isTouched(db: Db, itemId: string, enrolmentId: string): Promise<boolean> {
  const found = await rows(
    db,
    `
    select 1 as one from submission s where s.item_id = $1 and s.enrolment_id = any($2) and (
      exists (select 1 from mark m where m.submission_id = s.id)
      or exists (select 1 from review r where r.submission_id = s.id and r.dropped_at is null)
      or exists (select 1 from attempt a join margin_note n on n.attempt_id = coalesce(a.lead_id, a.id) and n.removed_at is null where a.submission_id = s.id)) limit 1`,
    [itemId, await listMates(db, itemId, enrolmentId)],
  );
  return found.length > 0;
}

/** What a student took back, to be read and used again: the latest first. */
export async function listTakenBack(db: Db, submissionId: string): Promise<TakenBack[]> {
  const found = await rows<{ id: string; at: Date; attempt: { document: DocumentNode | null; note: string; link: string } }>(
    db,
    'select id, at, attempt from withdrawn_attempt where submission_id = $1 order by at desc, id desc limit 5',
    [submissionId],
  );
  return found.map(({ id, at, attempt }) => ({
    id,
    at: at.toISOString(),
    document: attempt.document,
    note: attempt.note,
    link: attempt.link,
  }));
}

/**
 * Takes back the latest attempt, of everyone it was handed in for. What was typed since stays the draft; where nothing was, the draft is what
 * was handed in. Its files stand in the draft again, and the whole of it is kept for its student to read and use.
 */
export async function withdraw(db: Db, courseId: string, itemId: string, member: Membership, personId: string, now: number): Promise<void> {
  const visible = await getVisible(db, courseId, itemId, member, now);
  const assignment = await findAssignment(db, itemId);
  if (assignment === null) throw notFound();
  const reason = whyKept(assignment.allowsWithdrawal, visible.dates.due.at, await isTouched(db, itemId, member.enrolmentId), now);
  if (reason !== null) throw new AppError('not-now', reason);
  const mates = await listMates(db, itemId, member.enrolmentId);
  const attempts = await rows<{ id: string; submission_id: string }>(
    db,
    `select distinct on (a.submission_id) a.id, a.submission_id from attempt a join submission s on s.id = a.submission_id
     where s.item_id = $1 and s.enrolment_id = any($2) order by a.submission_id, a.number desc`,
    [itemId, mates],
  );
  if (attempts.length === 0) throw new AppError('not-now', 'Nothing is handed in, so there is nothing to take back.');
  const [ids, submissions] = [attempts.map((a) => a.id), attempts.map((a) => a.submission_id)];
  await run(
    db,
    `insert into withdrawn_attempt (submission_id, attempt, by_id, at)
     select a.submission_id, to_jsonb(a) || jsonb_build_object('files', (select coalesce(jsonb_agg(f.file_id order by f.position), '[]') from attempt_file f where f.attempt_id = a.id)), $2, to_timestamp($3 / 1000.0)
     from attempt a where a.id = any($1)`,
    [ids, personId, now],
  );
  await run(
    db,
    `insert into submission_draft_file (submission_id, file_id, position)
     select a.submission_id, f.file_id, f.position from attempt_file f join attempt a on a.id = f.attempt_id where a.id = any($1) on conflict do nothing`,
    [ids],
  );
  await run(
    db,
    `update submission s set draft = coalesce(s.draft, a.document), draft_link = case when s.draft_link = '' then a.link else s.draft_link end
     from attempt a where a.submission_id = s.id and a.id = any($1)`,
    [ids],
  );
  // Notes that were removed again hold nothing of an attempt that is gone.
  await run(db, 'delete from margin_note where attempt_id = any($1)', [ids]);
  await run(db, 'delete from attempt_file where attempt_id = any($1)', [ids]);
  await run(db, 'delete from attempt where id = any($1) and lead_id is not null', [ids]);
  await run(db, 'delete from attempt where id = any($1)', [ids]);
  await run(db, 'update submission set draft_saved_at = to_timestamp($2 / 1000.0) where id = any($1) and draft_saved_at is not null', [
    submissions,
    now,
  ]);
}

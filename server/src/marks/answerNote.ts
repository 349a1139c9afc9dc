import { type Db, run } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

/** The student says of a note that went out with a revision whether it is answered. */
export async function setNoteAnswered(
  db: Db,
  target: { itemId: string; enrolmentId: string },
  noteId: string,
  at: number | null,
): Promise<void> {
  const changed = await run(
    db,
    `update margin_note n set answered_at = to_timestamp($4 / 1000.0) from attempt a, submission s
    where n.attempt_id = coalesce(a.lead_id, a.id) and s.id = a.submission_id and n.id = $1 and s.item_id = $2 and s.enrolment_id = $3 and n.removed_at is null
      and exists (select 1 from revision r where r.submission_id = s.id and r.ended_at is null)`,
    [noteId, target.itemId, target.enrolmentId, at],
  );
  if (changed === 0) throw notFound();
}

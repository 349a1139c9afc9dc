import type { Target } from '../anonymity/index.ts';
import { findFile, type StoredFile } from '../files/index.ts';
import { type Db, maybe } from '../platform/database.ts';

/** A file of this very work, handed in or in its draft. */
export async function canReachBare(db: Db, courseId: string, target: Target, fileId: string): Promise<StoredFile | null> {
  const isOfWork = await maybe(
    db,
    `select 1 as one from submission s where s.item_id = $1 and s.enrolment_id = $2 and (
       exists (select 1 from attempt a join attempt_file f on f.attempt_id = a.id where a.submission_id = s.id and f.file_id = $3)
       or exists (select 1 from submission_draft_file d where d.submission_id = s.id and d.file_id = $3)
       or exists (select 1 from link_copy c join attempt a on coalesce(a.lead_id, a.id) = c.attempt_id where a.submission_id = s.id and c.file_id = $3))`,
    [target.itemId, target.enrolmentId, fileId],
  );
  return isOfWork === null ? null : findFile(db, courseId, fileId);
}

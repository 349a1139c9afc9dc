import type { DocumentNode } from '@rosemary/core';
import { FILE_COLUMNS, type FileRow } from '../files/store.ts';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

interface DraftRow {
  id: string;
  draft: DocumentNode | null;
  draft_saved_at: Date | null;
  version: number;
  draft_link: string;
}

export async function findSubmission(db: Db, itemId: string, enrolmentId: string): Promise<DraftRow | null> {
  return maybe<DraftRow>(
    db,
    'select id, draft, draft_saved_at, version, draft_link from submission where item_id = $1 and enrolment_id = $2',
    [itemId, enrolmentId],
  );
}

/** The submission of a student for an item, made if it is not there, locked until the transaction ends. */
export async function makeSubmission(db: Db, itemId: string, enrolmentId: string): Promise<DraftRow> {
  await run(db, 'insert into submission (item_id, enrolment_id) values ($1, $2) on conflict do nothing', [itemId, enrolmentId]);
  const row = await maybe<DraftRow>(
    db,
    'select id, draft, draft_saved_at, version, draft_link from submission where item_id = $1 and enrolment_id = $2 for update',
    [itemId, enrolmentId],
  );
  if (row === null) throw notFound();
  return row;
}

export async function listDraftFiles(db: Db, submissionId: string): Promise<FileRow[]> {
  return rows<FileRow>(
    db,
    `select ${FILE_COLUMNS} from submission_draft_file d join file f on f.id = d.file_id join file_blob b on b.sha256 = f.sha256 where d.submission_id = $1 order by d.position, f.created_at`,
    [submissionId],
  );
}

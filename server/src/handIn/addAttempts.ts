import type { DocumentNode } from '@rosemary/core';
import { createHash } from 'node:crypto';
import { type Db, rows, run } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

/** SHA-256 over the text and the files' hashes: what a receipt proves. */
async function contentHash(db: Db, document: DocumentNode | null, link: string, submissionId: string): Promise<string> {
  const files = await rows<{ hash: string; name: string }>(
    db,
    "select encode(f.sha256, 'hex') as hash, f.name from submission_draft_file d join file f on f.id = d.file_id where d.submission_id = $1 order by d.position, f.id",
    [submissionId],
  );
  return createHash('sha256')
    .update(JSON.stringify(link === '' ? { document, files } : { document, files, link }))
    .digest('hex');
}

interface AttemptWork {
  readonly document: DocumentNode | null;
  readonly words: number;
  readonly note: string;
  readonly link: string;
  readonly key: string;
  readonly handedInBy: string;
  readonly at: number;
}

/** Hands in for everyone whose draft it is: the first named has the leading attempt, to which those of the others point. */
export async function addAttempts(db: Db, submissionIds: readonly string[], work: AttemptWork): Promise<number> {
  let lead: { id: string; number: number } | null = null;
  for (const id of submissionIds) {
    const made: { id: string; number: number } = await addAttempt(db, id, work, lead?.id ?? null);
    lead ??= made;
  }
  return lead?.number ?? 0;
}

/** Makes an attempt of what is given and of the files of the draft, which go with it. */
async function addAttempt(db: Db, submissionId: string, work: AttemptWork, leadId: string | null): Promise<{ id: string; number: number }> {
  const hash = await contentHash(db, work.document, work.link, submissionId);
  const attempt = await rows<{ id: string; number: number }>(
    db,
    `
    insert into attempt (submission_id, number, document, word_count, note, content_hash, handed_in_at, handed_in_by, idempotency_key, link, lead_id)
    select $1, coalesce(max(number), 0) + 1, $2, $3, $4, $5, to_timestamp($6 / 1000.0), $7, $8, $9, $10 from attempt where submission_id = $1 returning id, number`,
    [submissionId, work.document, work.words, work.note, hash, work.at, work.handedInBy, work.key, work.link, leadId],
  );
  const made = attempt[0];
  if (made === undefined) throw notFound();
  await run(
    db,
    'insert into attempt_file (attempt_id, file_id, position) select $1, file_id, position from submission_draft_file where submission_id = $2',
    [made.id, submissionId],
  );
  await run(db, 'delete from submission_draft_file where submission_id = $1', [submissionId]);
  return made;
}

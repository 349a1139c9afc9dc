import { checkDocument, type Anchor, type ReadWorkView, type ReviewNote, type ReviewNoteChange } from '@rosemary/api';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { conflict, invalid, notFound } from '../platform/errors.ts';

interface NoteRow {
  id: string;
  review_id: string;
  attempt_id: string | null;
  file_id: string | null;
  anchor: Anchor;
  quote: string;
  body: string;
  version: number;
}

/** The notes of reviews at places of the work, by review, in the order of their identifiers: it says nothing of when they were made. */
export async function listNotesOf(db: Db, reviewIds: readonly string[]): Promise<ReadonlyMap<string, ReviewNote[]>> {
  const found = await rows<NoteRow & Record<string, unknown>>(
    db,
    'select id, review_id, attempt_id, file_id, anchor, quote, body, version from review_note where review_id = any($1) and removed_at is null order by id',
    [reviewIds],
  );
  const byReview = new Map<string, ReviewNote[]>();
  for (const n of found) {
    const note = {
      ...{ id: n.id, attemptId: n.attempt_id, fileId: n.file_id, anchor: n.anchor },
      ...{ quote: n.quote, body: n.body, version: n.version },
    };
    byReview.set(n.review_id, [...(byReview.get(n.review_id) ?? []), note]);
  }
  return byReview;
}

/** Writes a note of a review; one without words is taken off. The place must be in the very work that is reviewed. */
export async function putNote(
  db: Db,
  reviewId: string,
  work: ReadWorkView,
  noteId: string,
  change: ReviewNoteChange,
  now: number,
): Promise<void> {
  const held = await maybe<{ review_id: string; version: number; removed_at: Date | null }>(
    db,
    'select review_id, version, removed_at from review_note where id = $1',
    [noteId],
  );
  if (held !== null && held.review_id !== reviewId) throw notFound();
  if ((held?.version ?? 0) !== change.version) throw conflict({ version: held?.version ?? 0 });
  if (change.anchor.kind === 'text') {
    const check = work.document === null ? null : checkDocument(work.document);
    if (check === null || !check.ok || change.anchor.to > check.node.content.size)
      throw invalid('anchor', 'The place of this note is not in the work. Select the words again.');
  } else if (!work.files.some((file) => file.id === change.fileId))
    throw invalid('anchor', 'This file is not part of the work. Select the words again.');
  await run(
    db,
    `insert into review_note (id, review_id, attempt_id, file_id, anchor, quote, body, removed_at) values ($1, $2, $3, $4, $5, $6, $7, case when $7 = '' then to_timestamp($8 / 1000.0) end)
     on conflict (id) do update set body = excluded.body, removed_at = excluded.removed_at, version = review_note.version + 1`,
    [noteId, reviewId, work.attemptId, change.fileId, JSON.stringify(change.anchor), change.quote, change.body, now],
  );
}

/** The notes of reviews that the author of the work took up, by review. */
export async function listTakenUp(db: Db, reviewIds: readonly string[]): Promise<ReadonlyMap<string, readonly string[]>> {
  const found = await rows<{ id: string; review_id: string }>(
    db,
    'select id, review_id from review_note where review_id = any($1) and removed_at is null and answered_at is not null',
    [reviewIds],
  );
  const byReview = new Map<string, string[]>();
  for (const { id, review_id: reviewId } of found) byReview.set(reviewId, [...(byReview.get(reviewId) ?? []), id]);
  return byReview;
}

/** Notes at `at` that a note of a review was taken up; null takes that back. */
export async function setTakenUp(db: Db, reviewId: string, noteId: string, at: number | null): Promise<void> {
  const changed = await run(
    db,
    'update review_note set answered_at = to_timestamp($3 / 1000.0) where id = $1 and review_id = $2 and removed_at is null',
    [noteId, reviewId, at],
  );
  if (changed === 0) throw notFound();
}

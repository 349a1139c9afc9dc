import { checkDocument, type NewNote, type NoteChange } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import type { Target } from '../anonymity/index.ts';
import { type Db, maybe, run } from '../platform/database.ts';
import { conflict, invalid, notFound } from '../platform/errors.ts';

/** Ties a note to its place. The place must be in this very attempt; the work itself never changes, so it stays true. */
export async function addNote(db: Db, target: Target, note: NewNote, authorId: string, now: number): Promise<void> {
  const attempt = await maybe<{ document: DocumentNode | null; lead: string }>(
    db,
    `
    select a.document, coalesce(a.lead_id, a.id) as lead from attempt a join submission s on s.id = a.submission_id where a.id = $1 and s.item_id = $2 and s.enrolment_id = $3`,
    [note.attemptId, target.itemId, target.enrolmentId],
  );
  if (attempt === null) throw notFound();
  if (note.replacement !== undefined && note.replacement !== null && note.anchor.kind !== 'text')
    throw invalid('replacement', 'A correction is of words that were written here.');
  if (note.anchor.kind === 'text') {
    const check = attempt.document === null ? null : checkDocument(attempt.document);
    if (check === null || !check.ok || note.anchor.to > check.node.content.size)
      throw invalid('anchor', 'The place of this note is not in the work. Select the words again.');
  } else if (
    note.fileId === null ||
    (await maybe(db, 'select 1 as one from attempt_file where attempt_id = $1 and file_id = $2', [note.attemptId, note.fileId])) === null
  ) {
    throw invalid('anchor', 'This file is not part of the work. Select the words again.');
  }
  await run(
    db,
    `
    insert into margin_note (id, attempt_id, file_id, anchor, quote, body, author_id, created_at, remark_id, replacement, points)
    select $1, $2, $3, $4, $5, $6, $7::uuid, to_timestamp($8 / 1000.0), r.id, $10, r.points from (select 1) one left join remark r on r.id = $9 and r.owner_id = $7 on conflict (id) do nothing`,
    [
      note.id,
      attempt.lead,
      note.fileId,
      JSON.stringify(note.anchor),
      note.quote,
      note.body,
      authorId,
      now,
      note.remarkId ?? null,
      note.replacement ?? null,
    ],
  );
}

/** A note is reached through the work it stands at, and through no other. */
const OF_WORK = `attempt a, submission s where n.attempt_id = coalesce(a.lead_id, a.id) and s.id = a.submission_id and n.id = $1 and s.item_id = $2 and s.enrolment_id = $3`;

export async function changeNote(db: Db, target: Target, noteId: string, change: NoteChange): Promise<void> {
  const changed = await run(db, `update margin_note n set body = $4, version = n.version + 1 from ${OF_WORK} and n.version = $5`, [
    noteId,
    target.itemId,
    target.enrolmentId,
    change.body,
    change.version,
  ]);
  if (changed === 1) return;
  const current = await maybe(db, `select n.id, n.body, n.version from margin_note n, ${OF_WORK}`, [
    noteId,
    target.itemId,
    target.enrolmentId,
  ]);
  if (current === null) throw notFound();
  throw conflict(current);
}

export async function setNoteRemoved(db: Db, target: Target, noteId: string, removedAt: number | null): Promise<void> {
  const changed = await run(
    db,
    `update margin_note n set removed_at = to_timestamp($4 / 1000.0), version = n.version + 1 from ${OF_WORK}`,
    [noteId, target.itemId, target.enrolmentId, removedAt],
  );
  if (changed === 0) throw notFound();
}

import type { NoteView } from '@rosemary/api';
import { type Db, rows } from '../platform/database.ts';

interface NoteRow {
  id: string;
  attempt_id: string;
  file_id: string | null;
  anchor: NoteView['anchor'];
  quote: string;
  body: string;
  author: string;
  replacement: string | null;
  points: number | null;
  version: number;
  answered_at: Date | null;
}

/** The notes on the works of one student at an item: those that stand, or the ones named, also where they were removed since. */
export async function listNotes(db: Db, itemId: string, enrolmentId: string, ids: readonly string[] | null = null): Promise<NoteView[]> {
  const found = await rows<NoteRow>(
    db,
    `
    select n.id, a.id as attempt_id, n.file_id, n.anchor, n.quote, n.body, n.replacement, (n.points * 1000)::int as points, n.version, n.answered_at, p.given_name || ' ' || p.family_name as author
    -- What a group handed in together has its notes once, at the attempt of whoever handed it in.
    from margin_note n join attempt a on n.attempt_id = coalesce(a.lead_id, a.id) join submission s on s.id = a.submission_id join person p on p.id = n.author_id
    where s.item_id = $1 and s.enrolment_id = $2 and case when $3::uuid[] is null then n.removed_at is null else n.id = any($3) end order by n.created_at, n.id`,
    [itemId, enrolmentId, ids],
  );
  return found.map((row) => ({
    id: row.id,
    attemptId: row.attempt_id,
    fileId: row.file_id,
    anchor: row.anchor,
    quote: row.quote,
    body: row.body,
    author: row.author,
    replacement: row.replacement,
    points: row.points,
    version: row.version,
    isAnswered: row.answered_at !== null,
  }));
}

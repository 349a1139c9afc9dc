import type { Adjustments, CourseFile, MarkView, NoteView } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import type { Target } from '../anonymity/index.ts';
import { type Db, maybe, run } from '../platform/database.ts';
import { listFeedbackFiles } from './feedbackFiles.ts';
import { listNotes } from './listNotes.ts';

/** A mark as its marker stood by it: what its student reads once it is released. */
export interface FinishedMark extends Pick<MarkView, 'choices' | 'scoreReason' | 'feedback' | 'given' | 'comments'> {
  readonly adjustments: Adjustments;
  readonly notes: readonly NoteView[];
  readonly feedbackFiles: readonly CourseFile[];
}

interface Row {
  id: string;
  choices: Record<string, string>;
  score_reason: string;
  feedback: DocumentNode | null;
  adjustments: Adjustments;
  given: Record<string, number>;
  comments: Record<string, string>;
  notes: Record<string, string>;
  file_ids: string[];
}

/** Keeps the mark of one member of a work as it stands now, with its notes and files. Gives the identifier of what was kept. */
export async function keepFinished(db: Db, target: Target, markerId: string, now: number, attemptBefore: unknown): Promise<string> {
  const kept = await maybe<{ id: string }>(
    db,
    `insert into finished_mark (submission_id, choices, score_reason, feedback, adjustments, given, comments, notes, file_ids, marker_id, finished_at, attempt_before)
     select m.submission_id, m.choices, m.score_reason, m.feedback, m.adjustments, m.given, m.comments,
       coalesce((select jsonb_object_agg(n.id, n.body) from margin_note n join attempt a on n.attempt_id = coalesce(a.lead_id, a.id) where a.submission_id = s.id and n.removed_at is null), '{}'),
       coalesce((select array_agg(k.file_id) from feedback_file k where k.submission_id = s.id), '{}'), $3, to_timestamp($4 / 1000.0), $5
     from mark m join submission s on s.id = m.submission_id where s.item_id = $1 and s.enrolment_id = $2 and m.slot = 1 returning id`,
    [target.itemId, target.enrolmentId, markerId, now, attemptBefore === null ? null : JSON.stringify(attemptBefore)],
  );
  return kept?.id ?? '';
}

/** The latest version of a mark that its marker stood by; null where there is none. */
export async function findFinished(db: Db, target: Target): Promise<FinishedMark | null> {
  const row = await maybe<Row>(
    db,
    `select f.id, f.choices, f.score_reason, f.feedback, f.adjustments, f.given, f.comments, f.notes, f.file_ids
     from finished_mark f join submission s on s.id = f.submission_id where s.item_id = $1 and s.enrolment_id = $2 and f.undone_at is null order by f.id desc limit 1`,
    [target.itemId, target.enrolmentId],
  );
  if (row === null) return null;
  const notes = await listNotes(db, target.itemId, target.enrolmentId, Object.keys(row.notes));
  const files = await listFeedbackFiles(db, target, row.file_ids);
  return {
    choices: row.choices,
    scoreReason: row.score_reason,
    feedback: row.feedback,
    adjustments: row.adjustments,
    given: row.given,
    comments: row.comments,
    notes: notes.map((note) => ({ ...note, body: row.notes[note.id] ?? note.body })),
    feedbackFiles: files,
  };
}

export const noteEvent = (db: Db, finishedId: string, eventId: string): Promise<number> =>
  run(db, 'update finished_mark set event_id = $2 where id = $1', [finishedId, eventId]);

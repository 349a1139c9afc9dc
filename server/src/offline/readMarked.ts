import { dayAndTime, type DocumentNode, formatPoints, numberNotes } from '@rosemary/core';
import type { Target } from '../anonymity/index.ts';
import { readWhole } from '../files/index.ts';
import { type AttemptFile, listAttemptFiles } from '../handIn/index.ts';
import { findFinished, getMark, listFeedbackFiles, listNotes } from '../marks/index.ts';
import type { CopiedFile, MarkedWork } from '../paper/index.ts';
import { type Db, maybe } from '../platform/database.ts';
import { findRubricInUse } from '../rubric/index.ts';

const MOST_BYTES = 41_943_040;

const ON_PAPER = ['application/pdf', 'image/png', 'image/jpeg'];

async function readFile(db: Db, file: AttemptFile, name: string): Promise<CopiedFile> {
  const about = { id: file.id, name, mediaType: file.media_type };
  // Sound, film and what is too large for paper is named on the copy; its bytes are not needed for that.
  if (!ON_PAPER.includes(file.media_type) || Number(file.size) > MOST_BYTES)
    return { ...about, mediaType: 'other', bytes: Buffer.alloc(0) };
  return { ...about, bytes: await readWhole(db, file) };
}

interface AttemptRow {
  id: string;
  document: DocumentNode | null;
  link: string;
  content_hash: string;
  handed_in_at: Date;
  number: number;
}

/** For whom a marked copy is made: staff see the mark as it stands, a student what was released; where names are hidden, no name. */
export interface CopyFor {
  readonly who: string;
  readonly isVeiled: boolean;
  readonly isStudent: boolean;
  readonly zone: string;
  readonly now: number;
}

/** What a marked copy of a work shows; null where nothing is handed in and nothing may be shown. */
export async function readMarked(db: Db, target: Target, copyFor: CopyFor): Promise<MarkedWork | null> {
  const ids = [target.itemId, target.enrolmentId];
  const item = await maybe<{ title: string; possible: number }>(
    db,
    'select title, (possible * 1000)::int as possible from graded_item where id = $1',
    [target.itemId],
  );
  const attempt = await maybe<AttemptRow>(
    db,
    `select a.id, a.document, a.link, a.content_hash, a.handed_in_at, a.number from attempt a join submission s on s.id = a.submission_id
     where s.item_id = $1 and s.enrolment_id = $2 order by a.number desc limit 1`,
    ids,
  );
  if (item === null || attempt === null) return null;
  const noted = copyFor.isStudent ? await findFinished(db, target) : null;
  const current = copyFor.isStudent ? null : await getMark(db, target);
  const grade = await maybe<{ raw: number | null; is_released: boolean }>(
    db,
    'select (raw * 1000)::int as raw, is_released from work_grade where item_id = $1 and enrolment_id = $2',
    ids,
  );
  const isOut = grade?.is_released === true;
  const shown = copyFor.isStudent ? (isOut ? noted : null) : current;
  const score = copyFor.isStudent ? (isOut ? grade.raw : null) : (grade?.raw ?? current?.total ?? null);
  const files = await listAttemptFiles(db, attempt.id);
  const copied: CopiedFile[] = [];
  for (const [n, file] of files.entries()) copied.push(await readFile(db, file, copyFor.isVeiled ? `File ${n + 1}` : file.name));
  const notes = shown === null ? [] : noted === null ? await listNotes(db, target.itemId, target.enrolmentId) : noted.notes;
  const feedbackFiles = shown === null ? [] : noted === null ? await listFeedbackFiles(db, target) : noted.feedbackFiles;
  return {
    ...{ title: item.title, who: copyFor.who, hash: attempt.content_hash, document: attempt.document, link: attempt.link, files: copied },
    handedIn: copyFor.isVeiled
      ? ''
      : `handed in ${dayAndTime(attempt.handed_in_at.getTime(), copyFor.zone, copyFor.now)}, attempt ${attempt.number}`,
    score: score === null ? null : `${formatPoints(score)} of ${formatPoints(item.possible)}`,
    scoreReason: shown?.scoreReason ?? '',
    notes: numberNotes(
      notes.filter((n) => n.attemptId === attempt.id),
      files.map((f) => f.id),
    ),
    rubric: shown === null ? null : await findRubricInUse(db, target.itemId),
    choices: shown?.choices ?? {},
    given: shown?.given ?? {},
    comments: shown?.comments ?? {},
    feedback: shown?.feedback ?? null,
    feedbackFiles: feedbackFiles.map((f) => f.name),
  };
}

import { checkDocument, type Finish, type MarkChange, type MarkView, type RubricView } from '@rosemary/api';
import { decimalText, formatPoints, plainText, rubricScore, type DocumentNode } from '@rosemary/core';
import { findGradeForUpdate, recordGrade } from '../gradebook/ledger.ts';
import { findAssignment, findRubricInUse } from '../plan/queries.ts';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { announce } from '../platform/events.ts';
import { tellReturned } from '../talk/returned.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { makeSubmission } from '../student/submission.ts';
import type { Target } from './target.ts';

interface MarkRow {
  choices: Record<string, string>;
  score: number | null;
  score_reason: string;
  feedback: DocumentNode | null;
  state: 'draft' | 'finished';
  saved_at: Date;
  version: number;
  marker: string;
}

const EMPTY: MarkView = {
  version: 0,
  choices: {},
  score: null,
  scoreReason: '',
  feedback: null,
  state: 'draft',
  savedAt: null,
  marker: null,
  total: null,
  fromRubric: null,
  isComplete: false,
};

function toView(row: MarkRow, rubric: RubricView | null, isReleased: boolean): MarkView {
  const judged = rubric === null ? null : rubricScore(rubric.criteria, row.choices);
  const fromRubric = judged !== null && Object.keys(row.choices).length > 0 ? judged.score : null;
  return {
    version: row.version,
    choices: row.choices,
    score: row.score,
    scoreReason: row.score_reason,
    feedback: row.feedback,
    state: row.state === 'finished' && isReleased ? 'released' : row.state,
    savedAt: row.saved_at.toISOString(),
    marker: row.marker,
    fromRubric,
    total: row.score ?? fromRubric,
    isComplete: row.score !== null || (judged?.isComplete ?? false),
  };
}

export async function getMark(db: Db, target: Target): Promise<MarkView> {
  const row = await maybe<MarkRow>(
    db,
    `
    select m.choices, (m.score * 1000)::int as score, m.score_reason, m.feedback, m.state, m.saved_at, m.version, p.given_name || ' ' || p.family_name as marker
    from mark m join submission s on s.id = m.submission_id join person p on p.id = m.marker_id where s.item_id = $1 and s.enrolment_id = $2 and m.slot = 1`,
    [target.itemId, target.enrolmentId],
  );
  if (row === null) return EMPTY;
  const rubric = await findRubricInUse(db, target.itemId);
  const grade = await maybe<{ is_released: boolean }>(db, 'select is_released from grade where item_id = $1 and enrolment_id = $2', [
    target.itemId,
    target.enrolmentId,
  ]);
  return toView(row, rubric, grade?.is_released ?? false);
}

/** Keeps what the marker has so far, as a private draft; another's save since is a conflict with both versions. */
export async function saveMark(db: Db, target: Target, change: MarkChange, markerId: string, now: number): Promise<MarkView> {
  if (change.feedback !== null) {
    const check = checkDocument(change.feedback);
    if (!check.ok) throw invalid('feedback', check.reason);
  }
  const submission = await makeSubmission(db, target.itemId, target.enrolmentId);
  const current = await getMark(db, target);
  if (current.version !== change.version) throw conflict(current);
  await run(
    db,
    `
    insert into mark (submission_id, marker_id, choices, score, score_reason, feedback, started_at, saved_at) values ($1, $2, $3, $4, $5, $6, to_timestamp($7 / 1000.0), to_timestamp($7 / 1000.0))
    on conflict (submission_id, slot) do update set marker_id = excluded.marker_id, choices = excluded.choices, score = excluded.score, score_reason = excluded.score_reason, feedback = excluded.feedback,
      saved_at = excluded.saved_at, state = 'draft', version = mark.version + 1`,
    [
      submission.id,
      markerId,
      JSON.stringify(change.choices),
      change.score === null ? null : decimalText(change.score),
      change.scoreReason,
      change.feedback === null ? null : JSON.stringify(change.feedback),
      now,
    ],
  );
  return getMark(db, target);
}

/** The marker stands by the mark: it goes into the ledger, and to the student at once if the item says so. */
export async function finishMark(db: Db, target: Target, body: Finish, markerId: string, now: number): Promise<MarkView> {
  const mark = await getMark(db, target);
  if (mark.version !== body.version) throw conflict(mark);
  const judged = (await findAssignment(db, target.itemId))?.judged ?? 'points';
  if (judged === 'none') throw new AppError('not-now', 'This is a reminder with a date: it is not judged.');
  const isInWords = judged === 'words';
  if (isInWords && plainText(mark.feedback).trim() === '')
    throw invalid('feedback', 'It is judged in words, and there are none yet. Write the feedback.');
  if (!isInWords && mark.total === null) throw invalid('score', 'There is no mark yet. Choose a level for each criterion or type a score.');
  if (!isInWords && !mark.isComplete)
    throw invalid('choices', 'Some criteria have no level yet. Choose one for each, or type a score with its reason.');
  const item = await maybe<{ possible: number; release_mode: string; title: string; course_id: string }>(
    db,
    'select (possible * 1000)::int as possible, release_mode, title, course_id from item where id = $1',
    [target.itemId],
  );
  if (item === null) throw notFound();
  if (judged === 'done' && mark.total !== 0 && mark.total !== item.possible)
    throw invalid(
      'score',
      `It is judged done or not: ${formatPoints(item.possible)} or 0 points, and ${formatPoints(mark.total ?? 0)} is neither.`,
    );
  if (mark.total !== null && mark.total > item.possible && !body.isAboveConfirmed)
    throw new AppError(
      'confirm',
      `${formatPoints(mark.total)} is more than the ${formatPoints(item.possible)} points of “${item.title}”. Is it meant so?`,
    );
  if (mark.score !== null && mark.fromRubric !== null && mark.score !== mark.fromRubric && mark.scoreReason.trim() === '')
    throw invalid('scoreReason', 'The score differs from the rubric. Say why; the student sees the reason.');
  const current = await findGradeForUpdate(db, target.itemId, target.enrolmentId);
  const isReleased = item.release_mode === 'finished' || (current?.isReleased ?? false);
  await run(
    db,
    `update mark m set state = 'finished', finished_at = to_timestamp($3 / 1000.0), version = m.version + 1 from submission s where s.id = m.submission_id and s.item_id = $1 and s.enrolment_id = $2 and m.slot = 1`,
    [target.itemId, target.enrolmentId, now],
  );
  const state = isInWords ? 'judged' : 'scored';
  const raw = isInWords ? null : mark.total;
  if (current === null || current.raw !== raw || current.state !== state || current.isReleased !== isReleased) {
    await recordGrade(db, {
      ...target,
      kind: 'set',
      state,
      raw,
      isReleased,
      source: 'marking',
      reason: mark.scoreReason,
      actorId: markerId,
      at: now,
    });
    if (isReleased) await tellReturned(db, item.course_id, target.itemId, [target.enrolmentId], now);
  }
  return getMark(db, target);
}

/** Releases, or takes back, the finished marks of an item for the students named (or for all that are reached). */
export async function setReleased(
  db: Db,
  itemId: string,
  enrolmentIds: readonly string[],
  isReleased: boolean,
  actorId: string,
  now: number,
  source: 'marking' | 'job' = 'marking',
): Promise<number> {
  const due = await rows<{ enrolment_id: string }>(
    db,
    `
    select g.enrolment_id from grade g where g.item_id = $1 and g.enrolment_id = any($2) and g.is_released <> $3 and g.state is not null
      and not exists (select 1 from submission s join mark m on m.submission_id = s.id where s.item_id = g.item_id and s.enrolment_id = g.enrolment_id and m.state = 'draft')
    order by g.enrolment_id`,
    [itemId, enrolmentIds, isReleased],
  );
  const changed: string[] = [];
  for (const { enrolment_id: enrolmentId } of due) {
    // Each cell is read again under its own lock: another may have changed it since the list was made.
    const grade = await findGradeForUpdate(db, itemId, enrolmentId);
    if (grade === null || grade.state === null || grade.isReleased === isReleased) continue;
    await recordGrade(db, {
      itemId,
      enrolmentId,
      kind: isReleased ? 'release' : 'withhold',
      state: grade.state,
      raw: grade.raw,
      isReleased,
      source,
      reason: '',
      actorId,
      at: now,
    });
    changed.push(enrolmentId);
  }
  const course = isReleased ? await maybe<{ course_id: string }>(db, 'select course_id from item where id = $1', [itemId]) : null;
  if (course !== null) await tellReturned(db, course.course_id, itemId, changed, now);
  if (course !== null && source === 'job')
    await announce(db, { topic: 'marks', courseId: course.course_id, itemId, enrolmentId: null, tab: null, by: '', studentIds: [] });
  return changed.length;
}

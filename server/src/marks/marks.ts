import { type Adjustments, checkDocument, type MarkChange, type MarkView, type RubricView } from '@rosemary/api';
import { decimalText, type DocumentNode, rubricScore } from '@rosemary/core';
import type { Target } from '../anonymity/index.ts';
import { getWorkColumn, type GradeWrite, listGradesForUpdate, recordGrades } from '../gradebook/index.ts';
import { listMates, makeSubmission } from '../handIn/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { conflict, invalid } from '../platform/errors.ts';
import { announce } from '../platform/events.ts';
import { findRubricInUse } from '../rubric/index.ts';
import { tellReturned } from './returned.ts';
import type { Slot } from './slots.ts';

interface MarkRow {
  choices: Record<string, string>;
  score: number | null;
  score_reason: string;
  feedback: DocumentNode | null;
  adjustments: Adjustments;
  given: Record<string, number>;
  comments: Record<string, string>;
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
  adjustments: {},
  given: {},
  comments: {},
  studentReads: 'nothing',
};

function toView(row: MarkRow, rubric: RubricView | null, isReleased: boolean): MarkView {
  const judged = rubric === null ? null : rubricScore(rubric.criteria, row.choices, row.given);
  const isBegun = Object.keys(row.choices).length + Object.keys(row.given).length > 0;
  const fromRubric = judged !== null && judged.possible > 0 && isBegun ? judged.score : null;
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
    adjustments: row.adjustments,
    given: row.given,
    comments: row.comments,
    studentReads: !isReleased ? 'nothing' : row.state === 'finished' ? 'this' : 'an earlier version',
  };
}

/** The mark of a work: slot 1 is the one that counts; where two mark on their own, theirs are 2 and 3. */
export async function getMark(db: Db, target: Target, slot: Slot = 1): Promise<MarkView> {
  const row = await maybe<MarkRow>(
    db,
    `
    select m.choices, (m.score * 1000)::int as score, m.score_reason, m.feedback, m.adjustments, m.given, m.comments, m.state, m.saved_at, m.version, p.given_name || ' ' || p.family_name as marker
    from mark m join submission s on s.id = m.submission_id join person p on p.id = m.marker_id where s.item_id = $1 and s.enrolment_id = $2 and m.slot = $3`,
    [target.itemId, target.enrolmentId, slot],
  );
  if (row === null) return EMPTY;
  const rubric = await findRubricInUse(db, target.itemId);
  const grade =
    slot === 1
      ? await maybe<{ is_released: boolean }>(db, 'select is_released from work_grade where item_id = $1 and enrolment_id = $2', [
          target.itemId,
          target.enrolmentId,
        ])
      : null;
  return toView(row, rubric, grade?.is_released ?? false);
}

/** Only members of the group are given more or less than it, each with a reason; nothing is kept of those who are given the same. */
function checkedAdjustments(adjustments: Adjustments, mates: readonly string[]): Adjustments {
  const given = Object.entries(adjustments).filter(([, a]) => a.points !== 0 || a.reason !== '');
  const stranger = given.find(([id]) => !mates.includes(id));
  if (stranger !== undefined || (given.length > 0 && mates.length === 1))
    throw invalid('adjustments', 'Somebody named is not of this group. Look again at the group.');
  return Object.fromEntries(given);
}

/**
 * Keeps what the marker has so far, as a private draft; another's save since is a conflict with both versions. The mark of a group
 * is kept for each of its members, all alike.
 */
export async function saveMark(
  db: Db,
  target: Target,
  change: MarkChange,
  markerId: string,
  now: number,
  slot: Slot = 1,
): Promise<MarkView> {
  if (change.feedback !== null) {
    const check = checkDocument(change.feedback);
    if (!check.ok) throw invalid('feedback', check.reason);
  }
  const mates = await listMates(db, target.itemId, target.enrolmentId);
  const ids: string[] = [];
  for (const enrolmentId of mates) ids.push((await makeSubmission(db, target.itemId, enrolmentId)).id);
  const current = await getMark(db, target, slot);
  if (current.version !== change.version) throw conflict(current);
  await run(
    db,
    `
    insert into mark (submission_id, slot, marker_id, choices, score, score_reason, feedback, adjustments, started_at, saved_at, version, given, comments)
    select unnest($1::uuid[]), $2, $3, $4, $5, $6, $7, $8, to_timestamp($9 / 1000.0), to_timestamp($9 / 1000.0), $10, $11, $12
    on conflict (submission_id, slot) do update set marker_id = excluded.marker_id, choices = excluded.choices, score = excluded.score, score_reason = excluded.score_reason, feedback = excluded.feedback,
      adjustments = excluded.adjustments, given = excluded.given, comments = excluded.comments, saved_at = excluded.saved_at, state = 'draft', version = excluded.version`,
    [
      ...[
        ids,
        slot,
        markerId,
        JSON.stringify(change.choices),
        change.score === null ? null : decimalText(change.score),
        change.scoreReason,
      ],
      change.feedback === null ? null : JSON.stringify(change.feedback),
      ...[JSON.stringify(checkedAdjustments(change.adjustments ?? current.adjustments, mates)), now, current.version + 1],
      ...[JSON.stringify(change.given ?? current.given), JSON.stringify(withWords(change.comments ?? current.comments))],
    ],
  );
  return getMark(db, target, slot);
}

/** Only criteria that something was said of. */
const withWords = (comments: MarkChange['comments'] & object): MarkView['comments'] =>
  Object.fromEntries(Object.entries(comments).filter(([, words]) => words.trim() !== ''));

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
  const columnId = await getWorkColumn(db, itemId);
  const grades = await listGradesForUpdate(db, columnId, enrolmentIds);
  // What is taken up again is not finished, so it does not go out; it can be taken back from the student all the same.
  const drafts = new Set(
    (
      await rows<{ enrolment_id: string }>(
        db,
        "select s.enrolment_id from submission s join mark m on m.submission_id = s.id and m.slot = 1 where s.item_id = $1 and s.enrolment_id = any($2) and m.state = 'draft'",
        [itemId, enrolmentIds],
      )
    ).map((row) => row.enrolment_id),
  );
  const writes = [...grades].flatMap(([enrolmentId, grade]): GradeWrite[] => {
    if (grade.state === null || grade.isReleased === isReleased || (isReleased && drafts.has(enrolmentId))) return [];
    const kind = isReleased ? 'release' : 'withhold';
    return [{ columnId, enrolmentId, kind, state: grade.state, raw: grade.raw, isReleased, source, reason: '', actorId, at: now }];
  });
  await recordGrades(db, writes);
  const changed = writes.map((write) => write.enrolmentId);
  const course = isReleased ? await maybe<{ course_id: string }>(db, 'select course_id from item where id = $1', [itemId]) : null;
  if (course !== null) await tellReturned(db, course.course_id, itemId, changed, now);
  if (course !== null && source === 'job')
    await announce(db, {
      topic: 'marks',
      courseId: course.course_id,
      itemId,
      enrolmentId: null,
      rows: null,
      tab: null,
      by: '',
      hearers: 'staff',
    });
  return changed.length;
}

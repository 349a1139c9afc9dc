import type { Finish, MarkView } from '@rosemary/api';
import { countedScore, countedWords, type Counting, decimalText, formatPoints, plainText, pointsInWords } from '@rosemary/core';
import type { Target } from '../anonymity/index.ts';
import { findGradeForUpdate, getWorkColumn, recordGrade } from '../gradebook/index.ts';
import { listMates } from '../handIn/index.ts';
import { findAssignment } from '../kinds/assignment/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { keepFinished, noteEvent } from './finishedMark.ts';
import { getMark } from './marks.ts';
import { tellReturned } from './returned.ts';
import type { Slot } from './slots.ts';

interface ItemRow {
  possible: number;
  release_mode: string;
  title: string;
  course_id: string;
  names: Record<string, string>;
}

/** What keeps a marker from standing by a mark, as a refusal that names the field and the mend. */
function requireWhole(mark: MarkView, judged: string, item: ItemRow, isAboveConfirmed: boolean): void {
  if (judged === 'none') throw new AppError('not-now', 'This is a reminder with a date: it is not judged.');
  if (judged === 'words') {
    if (plainText(mark.feedback).trim() === '')
      throw invalid('feedback', 'It is judged in words, and there are none yet. Write the feedback.');
    return;
  }
  if (mark.total === null) throw invalid('score', 'There is no mark yet. Choose a level for each criterion or type a score.');
  if (!mark.isComplete) throw invalid('choices', 'Some criteria have no level yet. Choose one for each, or type a score with its reason.');
  if (judged === 'done' && mark.total !== 0 && mark.total !== item.possible)
    throw invalid(
      'score',
      `It is judged done or not: ${formatPoints(item.possible)} or 0 points, and ${formatPoints(mark.total)} is neither.`,
    );
  const nameless = Object.entries(mark.adjustments).find(([, a]) => a.points !== 0 && a.reason === '');
  if (nameless !== undefined)
    throw invalid(
      'adjustments',
      `${item.names[nameless[0]] ?? 'A member'} gets other points than the group. Say why; the student sees the reason.`,
    );
  const most = mark.total + Math.max(0, ...Object.values(mark.adjustments).map((a) => a.points));
  if (most > item.possible && !isAboveConfirmed)
    throw new AppError(
      'confirm',
      `${formatPoints(most)} is more than the ${pointsInWords(item.possible)} of “${item.title}”. Is it meant so?`,
    );
  if (mark.score !== null && mark.fromRubric !== null && mark.score !== mark.fromRubric && mark.scoreReason.trim() === '')
    throw invalid('scoreReason', 'The score differs from the rubric. Say why; the student sees the reason.');
}

/** A mark that was typed before anything was handed in may not fit what came: it is asked about, so that words for missing work are not sent with it. */
async function requireSeen(db: Db, target: Target, mark: MarkView): Promise<void> {
  const first = await maybe<{ at: Date }>(
    db,
    'select min(a.handed_in_at) as at from attempt a join submission s on s.id = a.submission_id where s.item_id = $1 and s.enrolment_id = $2 having min(a.handed_in_at) is not null',
    [target.itemId, target.enrolmentId],
  );
  if (first !== null && mark.savedAt !== null && Date.parse(mark.savedAt) < first.at.getTime())
    throw new AppError(
      'confirm',
      'This mark was typed before the work came. Look at its score and feedback again. Is it meant for this work?',
    );
}

/** Keeps what this attempt was given, and says what counts of all that were marked. */
async function countAttempt(
  db: Db,
  target: Target,
  given: number,
  rule: Counting,
  markerId: string,
  now: number,
): Promise<{ raw: number; reason: string }> {
  await run(
    db,
    `
    insert into attempt_mark (attempt_id, raw, choices, marker_id, finished_at)
    select a.id, $3, m.choices, $4, to_timestamp($5 / 1000.0) from submission s join mark m on m.submission_id = s.id and m.slot = 1
    join lateral (select id from attempt where submission_id = s.id order by case when $6 then number else -number end limit 1) a on true
    where s.item_id = $1 and s.enrolment_id = $2
    on conflict (attempt_id) do update set raw = excluded.raw, choices = excluded.choices, marker_id = excluded.marker_id, finished_at = excluded.finished_at`,
    [target.itemId, target.enrolmentId, decimalText(given), markerId, now, rule === 'first'],
  );
  const marked = await rows<{ number: number; score: number }>(
    db,
    `select a.number, (am.raw * 1000)::int as score from attempt_mark am join attempt a on a.id = am.attempt_id join submission s on s.id = a.submission_id
     where s.item_id = $1 and s.enrolment_id = $2 order by a.number`,
    [target.itemId, target.enrolmentId],
  );
  const counted = countedScore(rule, marked);
  // Judged without anything handed in: there is one score, and it counts.
  if (counted === null || marked.length < 2) return { raw: given, reason: '' };
  return { raw: counted.score, reason: countedWords(rule, marked.length) };
}

interface AttemptMark {
  readonly attemptId: string;
  readonly raw: string | null;
  readonly choices: unknown;
  readonly markerId: string | null;
  readonly finishedAt: string | null;
}

const COUNTED_ATTEMPT = 'select id from attempt where submission_id = s.id order by case when $3 then number else -number end limit 1';

/** What the attempt that is marked had been given before: for whoever undoes the finishing. */
async function findAttemptMark(db: Db, target: Target, rule: Counting): Promise<AttemptMark | null> {
  return maybe<AttemptMark>(
    db,
    `select a.id as "attemptId", am.raw::text as raw, am.choices, am.marker_id as "markerId", am.finished_at::text as "finishedAt"
     from submission s join lateral (${COUNTED_ATTEMPT}) a on true left join attempt_mark am on am.attempt_id = a.id where s.item_id = $1 and s.enrolment_id = $2`,
    [target.itemId, target.enrolmentId, rule === 'first'],
  );
}

/** The mark of one member: as the group, with what is more or less for them; never below nothing. */
async function recordMember(
  db: Db,
  target: Target,
  mark: MarkView,
  rule: Counting,
  isInWords: boolean,
  releases: boolean,
  markerId: string,
  now: number,
): Promise<boolean> {
  const columnId = await getWorkColumn(db, target.itemId);
  const current = await findGradeForUpdate(db, columnId, target.enrolmentId);
  // Exempt is somebody's decision about this student alone; the group's mark does not undo it.
  if (current?.state === 'exempt') return false;
  await run(
    db,
    `update mark m set state = 'finished', finished_at = to_timestamp($3 / 1000.0), version = m.version + 1 from submission s where s.id = m.submission_id and s.item_id = $1 and s.enrolment_id = $2 and m.slot = 1`,
    [target.itemId, target.enrolmentId, now],
  );
  const isReleased = releases || (current?.isReleased ?? false);
  const attemptBefore = isInWords ? null : await findAttemptMark(db, target, rule);
  const own = mark.adjustments[target.enrolmentId];
  const given = Math.max(0, (mark.total ?? 0) + (own?.points ?? 0));
  const counted = isInWords ? { raw: null, reason: '' } : await countAttempt(db, target, given, rule, markerId, now);
  const state = isInWords ? 'judged' : 'scored';
  const finishedId = await keepFinished(db, target, markerId, now, attemptBefore);
  if (current !== null && current.raw === counted.raw && current.state === state && current.isReleased === isReleased) return isReleased;
  const reason = [mark.scoreReason, own === undefined ? '' : own.reason, counted.reason].filter((r) => r !== '').join('; ');
  const eventId = await recordGrade(db, {
    columnId,
    enrolmentId: target.enrolmentId,
    kind: 'set',
    state,
    raw: counted.raw,
    isReleased,
    source: 'marking',
    reason,
    actorId: markerId,
    at: now,
  });
  await noteEvent(db, finishedId, eventId);
  return isReleased;
}

/** A marker of two stands by their own mark: nothing is in the ledger until the two are agreed. */
async function finishOwn(db: Db, target: Target, slot: Slot, now: number): Promise<void> {
  const mates = await listMates(db, target.itemId, target.enrolmentId);
  await run(
    db,
    `update mark m set state = 'finished', finished_at = to_timestamp($3 / 1000.0), version = m.version + 1 from submission s where s.id = m.submission_id and s.item_id = $1 and s.enrolment_id = any($2) and m.slot = $4`,
    [target.itemId, mates, now, slot],
  );
}

/** The marker stands by the mark: it goes into the ledger, of every member of a group, and to the students at once if the item says so. */
export async function finishMark(db: Db, target: Target, body: Finish, markerId: string, now: number, slot: Slot = 1): Promise<MarkView> {
  const mark = await getMark(db, target, slot);
  if (mark.version !== body.version) throw conflict(mark);
  const assignment = await findAssignment(db, target.itemId);
  const judged = assignment?.judged ?? 'points';
  const mates = await listMates(db, target.itemId, target.enrolmentId);
  const item = await maybe<ItemRow>(
    db,
    `select (possible * 1000)::int as possible, release_mode, title, course_id,
       (select coalesce(json_object_agg(e.id, p.given_name || ' ' || p.family_name), '{}') from enrolment e join person p on p.id = e.person_id where e.id = any($2)) as names
     from graded_item where id = $1`,
    [target.itemId, mates],
  );
  if (item === null) throw notFound();
  requireWhole(mark, judged, item, body.isAboveConfirmed);
  if (slot !== 1) {
    await finishOwn(db, target, slot, now);
    return getMark(db, target, slot);
  }
  if (!body.isAboveConfirmed) await requireSeen(db, target, mark);
  const released: string[] = [];
  for (const enrolmentId of mates) {
    const goesOut = await recordMember(
      db,
      { itemId: target.itemId, enrolmentId },
      mark,
      assignment?.counted ?? 'latest',
      judged === 'words',
      item.release_mode === 'finished',
      markerId,
      now,
    );
    if (goesOut) released.push(enrolmentId);
  }
  if (released.length > 0) await tellReturned(db, item.course_id, target.itemId, released, now);
  return getMark(db, target);
}

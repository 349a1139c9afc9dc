import type { PointAnswer, ReviewAnswer, ReviewChange, ReviewSaved, SettingAside, TeacherAssessment } from '@rosemary/api';
import { type Db, maybe, run } from '../platform/database.ts';
import { AppError, conflict, notFound } from '../platform/errors.ts';
import { findPeer } from '../peerSetting/index.ts';
import { findRubric } from '../rubric/index.ts';
import { attemptOf } from './own.ts';
import { doorOf, requireOwn, type Reviewing } from './reviewing.ts';
import { findReview, type ReviewRow } from './reviewRows.ts';
import { setTakenUp } from './reviewNotes.ts';
import { requireWhole, WHY } from './whole.ts';

/** A review can be written now, else the reason why not. */
function requireDoor(reviewing: Reviewing, review: ReviewRow): void {
  const door = doorOf(reviewing, review);
  if (!door.isOpen) throw new AppError('not-now', WHY[door.why]);
}

/** How long a door that was found open is taken to be so without asking again: whoever writes saves every few seconds. */
const KNOWN_FOR = 10_000;
/** Until when the review of somebody, known by both, may be written without asking again. */
const knownOpen = new Map<string, number>();
const keyOf = (reviewId: string, enrolmentId: string): string => `${reviewId} ${enrolmentId}`;
function noteOpen(reviewing: Reviewing, reviewId: string, now: number): void {
  if (knownOpen.size > 10_000) knownOpen.clear();
  // A due time is kept to the moment.
  knownOpen.set(keyOf(reviewId, reviewing.enrolmentId), Math.min(now + KNOWN_FOR, reviewing.dates.reviewsDueAt ?? Infinity));
}

async function writeReview(db: Db, reviewId: string, change: ReviewChange, now: number, only = ''): Promise<ReviewSaved | null> {
  const changed = await run(
    db,
    `update review set choices = $3, given = $4, comments = $5, words = $6, seconds = least(86400, seconds + $7), saved_at = to_timestamp($8 / 1000.0), version = version + 1
     where id = $1 and version = $2 and dropped_at is null ${only}`,
    [
      ...[reviewId, change.version, JSON.stringify(change.choices), JSON.stringify(change.given), JSON.stringify(change.comments)],
      ...[change.words, change.seconds, now],
    ],
  );
  return changed === 0 ? null : { version: change.version + 1, savedAt: new Date(now).toISOString() };
}

/**
 * Saves a review that was found open a moment ago, by one statement: a class that writes at once saves hundreds of times in a second. Null
 * where it must be asked again, which also finds the reason of a refusal.
 */
export async function saveKnown(
  db: Db,
  reviewId: string,
  enrolmentId: string,
  change: ReviewChange,
  now: number,
): Promise<ReviewSaved | null> {
  if ((knownOpen.get(keyOf(reviewId, enrolmentId)) ?? 0) <= now) return null;
  return writeReview(db, reviewId, change, now, 'and handed_in_at is null');
}

/** Keeps what is written so far. One that was handed in is saved too, until it is due, as long as it stays whole: it stays handed in. */
export async function saveReview(db: Db, reviewing: Reviewing, reviewId: string, change: ReviewChange, now: number): Promise<ReviewSaved> {
  const review = requireOwn(reviewing, reviewId);
  requireDoor(reviewing, review);
  if (review.form !== null) requireWhole(review.form.criteria, change, reviewing.peer.leastWords);
  const saved = await writeReview(db, reviewId, change, now);
  if (saved === null) throw conflict({ ...(await findReview(db, reviewing.itemId, reviewId)) });
  noteOpen(reviewing, reviewId, now);
  return saved;
}

/** Hands a review in, under the form it was given by and of the attempt that was read. It can be changed until it is due. */
export async function handInReview(db: Db, reviewing: Reviewing, reviewId: string, version: number, now: number): Promise<void> {
  const review = requireOwn(reviewing, reviewId);
  requireDoor(reviewing, review);
  const held = await findReview(db, reviewing.itemId, reviewId, true);
  if (held === null) throw notFound();
  if (held.version !== version) throw conflict({ ...held });
  const form = held.form ?? (await findRubric(db, reviewing.peer.rubricId)) ?? { version: 0, criteria: [] };
  requireWhole(form.criteria, held, reviewing.peer.leastWords);
  await run(
    db,
    `update review set handed_in_at = coalesce(handed_in_at, to_timestamp($2 / 1000.0)), form = $3, attempt_id = coalesce(attempt_id, $4::uuid), version = version + 1,
       seconds = case when seconds = 0 and saved_at is null then 1 else seconds end where id = $1`,
    [reviewId, now, JSON.stringify(form), await attemptOf(db, reviewing, held)],
  );
}

/** A review of one’s own work by another student, once results are out; any other is not found. */
async function requireReceived(db: Db, { peer, itemId, ownWork }: Reviewing, reviewId: string): Promise<ReviewRow> {
  const review = await findReview(db, itemId, reviewId, true);
  const isTheirs = review !== null && ownWork !== null && ownWork.submissionIds.includes(review.workId);
  if (!isTheirs || review.role !== 'peer' || peer.resultsOutAt === null || review.handedInAt === null || review.setAsideAt !== null)
    throw notFound();
  return review;
}

/** What an author says to a review of their work: an answer, thanks, or what is wrong with it. */
export async function answerReview(db: Db, reviewing: Reviewing, reviewId: string, answer: ReviewAnswer, now: number): Promise<void> {
  const review = await requireReceived(db, reviewing, reviewId);
  if (review.answerVersion !== answer.version) throw conflict({ ...review, version: review.answerVersion });
  await run(
    db,
    `update review set answer = $2, is_thanked = $3, reported_why = $4, reported_at = case when $4 = '' then null else coalesce(reported_at, to_timestamp($5 / 1000.0)) end, answer_version = answer_version + 1 where id = $1`,
    [reviewId, answer.answer, answer.isThanked, answer.reportedWhy, now],
  );
}

/** Says of a point of a review, a note or the words on a criterion, whether it was taken up in the work. */
export async function answerPoint(
  db: Db,
  reviewing: Reviewing,
  reviewId: string,
  { point, isAnswered }: PointAnswer,
  now: number,
): Promise<void> {
  const review = await requireReceived(db, reviewing, reviewId);
  if ('noteId' in point) return setTakenUp(db, reviewId, point.noteId, isAnswered ? now : null);
  if ((review.comments[point.criterionId] ?? '') === '') throw notFound();
  const answered = new Set(review.answered);
  if (isAnswered) answered.add(point.criterionId);
  else answered.delete(point.criterionId);
  await run(db, 'update review set answered = $2 where id = $1', [
    reviewId,
    JSON.stringify(Object.fromEntries([...answered].map((id) => [id, true]))),
  ]);
}

/** Sets a review aside, or takes it in again. Gives what stood before, for the one who undoes it. */
export async function setAside(
  db: Db,
  itemId: string,
  reviewId: string,
  change: SettingAside,
  personId: string,
  now: number,
): Promise<void> {
  const changed = await run(
    db,
    `update review set set_aside_at = case when $3 then coalesce(set_aside_at, to_timestamp($7 / 1000.0)) end, set_aside_by = case when $3 then $6::uuid end, set_aside_why = case when $3 then $4 else '' end, keeps_credit = $5
     where item_id = $1 and id = $2 and role <> 'teacher' and handed_in_at is not null and dropped_at is null`,
    [itemId, reviewId, change.isAside, change.reason, change.keepsCredit, personId, now],
  );
  if (changed === 0) throw new AppError('not-now', 'Only a review that was handed in can be set aside.');
}

/** The teacher’s own assessment of a work, on the same form. Kept as a draft until it is to count. */
export async function assess(
  db: Db,
  itemId: string,
  workId: string,
  change: TeacherAssessment,
  personId: string,
  now: number,
): Promise<void> {
  const peer = await findPeer(db, itemId, true);
  if (peer === null) throw notFound();
  const held = await maybe<{ id: string; version: number }>(
    db,
    "select id, version from review where submission_id = $1 and role = 'teacher' for update",
    [workId],
  );
  if ((held?.version ?? 0) !== change.version) throw conflict({ version: held?.version ?? 0 });
  const form = (await findRubric(db, peer.rubricId)) ?? { version: 0, criteria: [] };
  if (change.isGiven) requireWhole(form.criteria, change, 0);
  const attempt = await maybe<{ id: string }>(
    db,
    'select coalesce(lead_id, id) as id from attempt where submission_id = $1 order by number desc limit 1',
    [workId],
  );
  await run(
    db,
    `insert into review (item_id, role, submission_id, person_id, origin, made_at, choices, given, comments, words, saved_at, handed_in_at, form, attempt_id)
     values ($1, 'teacher', $2, $3, 'own', to_timestamp($4 / 1000.0), $5, $6, $7, $8, to_timestamp($4 / 1000.0), case when $9 then to_timestamp($4 / 1000.0) end, $10, $11)
     on conflict (submission_id) where role = 'teacher' do update set person_id = excluded.person_id, choices = excluded.choices, given = excluded.given, comments = excluded.comments, words = excluded.words,
       saved_at = excluded.saved_at, handed_in_at = excluded.handed_in_at, form = excluded.form, version = review.version + 1`,
    [
      ...[itemId, workId, personId, now, JSON.stringify(change.choices), JSON.stringify(change.given), JSON.stringify(change.comments)],
      ...[change.words, change.isGiven, change.isGiven ? JSON.stringify(form) : null, attempt?.id ?? null],
    ],
  );
}

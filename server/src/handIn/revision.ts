import { pageOf, type RevisionAsk, type RevisionView } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import type { Target } from '../anonymity/index.ts';
import { tell } from '../notices/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';
import { announceReturned } from '../platform/events.ts';
import { listMates } from './mates.ts';

/** The revision asked for last and not taken back, or null. */
export async function findRevision(db: Db, target: Target): Promise<RevisionView | null> {
  const row = await maybe<{ id: string; words: string; due_at: Date; asked_at: Date; asked_by: string; is_answered: boolean }>(
    db,
    `
    select r.id, r.words, r.due_at, r.asked_at, p.given_name || ' ' || p.family_name as asked_by,
           exists (select 1 from attempt a where a.submission_id = s.id and a.number > r.attempt_number) as is_answered
    from revision r join submission s on s.id = r.submission_id join person p on p.id = r.asked_by
    where s.item_id = $1 and s.enrolment_id = $2 and r.ended_at is null order by r.attempt_number desc, r.asked_at desc limit 1`,
    [target.itemId, target.enrolmentId],
  );
  return row === null
    ? null
    : {
        id: row.id,
        words: row.words,
        dueAt: row.due_at.toISOString(),
        askedAt: row.asked_at.toISOString(),
        askedBy: row.asked_by,
        isAnswered: row.is_answered,
      };
}

/** Asks for the work once more: whoever it is the work of is told, sees the notes there are, and has one attempt more, until the new date. */
export async function askRevision(db: Db, courseId: string, target: Target, ask: RevisionAsk, askedBy: string, now: number): Promise<void> {
  if (Date.parse(ask.dueAt) <= now) throw invalid('dueAt', 'The new date is past. Choose a later one.');
  const mates = await listMates(db, target.itemId, target.enrolmentId);
  const works = await rows<{ submission_id: string; title: string; person_id: string; time_zone: string; is_sample: boolean }>(
    db,
    `
    select s.id as submission_id, i.title, e.person_id, c.time_zone, e.is_sample from submission s join item i on i.id = s.item_id join course c on c.id = i.course_id join enrolment e on e.id = s.enrolment_id
    where s.item_id = $1 and s.enrolment_id = any($2) and exists (select 1 from attempt a where a.submission_id = s.id) order by s.id for update of s`,
    [target.itemId, mates],
  );
  const [work] = works;
  if (work === undefined) throw invalid('words', 'Nothing is handed in yet, so there is nothing to revise.');
  const ids = works.map((w) => w.submission_id);
  // Asked again before it was answered, the new words and date stand in place of the old.
  await run(
    db,
    `update revision r set ended_at = to_timestamp($2 / 1000.0) where r.submission_id = any($1) and r.ended_at is null
       and not exists (select 1 from attempt a where a.submission_id = r.submission_id and a.number > r.attempt_number)`,
    [ids, now],
  );
  await run(
    db,
    'insert into revision (submission_id, attempt_number, words, due_at, asked_by, asked_at) select submission_id, max(number), $2, $3, $4, to_timestamp($5 / 1000.0) from attempt where submission_id = any($1) group by submission_id',
    [ids, ask.words, ask.dueAt, askedBy, now],
  );
  await announceReturned(db, courseId, target.itemId, mates);
  await tell(db, {
    courseId,
    personIds: works.filter((w) => !w.is_sample).map((w) => w.person_id),
    kind: 'returned',
    words: `“${work.title}” is to be revised by ${dayAndTime(Date.parse(ask.dueAt), work.time_zone, now)}`,
    body: ask.words,
    path: pageOf('study', { courseId, itemId: target.itemId }),
    at: now,
  });
}

/** Takes the ask back, or sets it again, for all whose work it is: `endedAt` null is the way back. */
export async function setRevisionEnded(
  db: Db,
  courseId: string,
  target: Target,
  revisionId: string,
  endedAt: number | null,
): Promise<void> {
  const mates = await listMates(db, target.itemId, target.enrolmentId);
  const changed = await run(
    db,
    `update revision r set ended_at = to_timestamp($4 / 1000.0) from submission s, revision one join submission own on own.id = one.submission_id
     where one.id = $1 and own.item_id = $2 and own.enrolment_id = any($3) and s.id = r.submission_id and s.item_id = $2 and s.enrolment_id = any($3) and r.asked_at = one.asked_at`,
    [revisionId, target.itemId, mates, endedAt],
  );
  if (changed === 0) throw notFound();
  await announceReturned(db, courseId, target.itemId, mates);
}

/** How many attempts more a student has by revisions asked for. */
export async function countRevisions(db: Db, itemId: string, enrolmentId: string): Promise<number> {
  const found = await rows<{ many: number }>(
    db,
    'select count(*)::int as many from revision r join submission s on s.id = r.submission_id where s.item_id = $1 and s.enrolment_id = $2 and r.ended_at is null',
    [itemId, enrolmentId],
  );
  return found[0]?.many ?? 0;
}

const AFTER_REVIEWS = 'Revise your work by what its reviews say. Say at each of their points whether you took it up.';

/**
 * Opens the works of an item for one attempt more after their reviews, until `dueAt`, or shuts them again where it is null or past. What was
 * revised already keeps its attempt. Nobody is told: whoever gives the reviews out tells them.
 */
export async function setRevisionsAfterReviews(db: Db, itemId: string, dueAt: number | null, askedBy: string, now: number): Promise<void> {
  await run(
    db,
    `update revision r set ended_at = to_timestamp($2 / 1000.0) from submission s where s.id = r.submission_id and s.item_id = $1 and r.is_of_reviews and r.ended_at is null
       and not exists (select 1 from attempt a where a.submission_id = r.submission_id and a.number > r.attempt_number)`,
    [itemId, now],
  );
  if (dueAt === null || dueAt <= now) return;
  await run(
    db,
    `insert into revision (submission_id, attempt_number, words, due_at, asked_by, asked_at, is_of_reviews)
     select s.id, max(a.number), $2, to_timestamp($3 / 1000.0), $4, to_timestamp($5 / 1000.0), true from submission s join attempt a on a.submission_id = s.id
     where s.item_id = $1 and not exists (select 1 from revision r where r.submission_id = s.id and r.is_of_reviews and r.ended_at is null) group by s.id`,
    [itemId, AFTER_REVIEWS, dueAt, askedBy, now],
  );
}

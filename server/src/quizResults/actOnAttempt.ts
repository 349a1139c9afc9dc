import type { AttemptAct } from '@rosemary/api';
import { type Db, maybe, run } from '../platform/database.ts';
import { AppError, invalid } from '../platform/errors.ts';
import { closeAttempt, endsOf, readGiven, readQuizDates, recordResult, scoreAttempts } from '../quizTaking/index.ts';
import { type Asking, requireAttempt } from './requireAttempt.ts';

/** Takes answers that came after time into the attempt, the latest of each question. */
async function takeLate(db: Db, attemptId: string): Promise<number> {
  return run(
    db,
    `insert into quiz_answer (attempt_id, question_id, answer, device, turn, saved_at)
     select distinct on (e.question_id) e.attempt_id, e.question_id, e.answer, e.device, e.turn, e.at from quiz_answer_event e where e.attempt_id = $1 and e.is_late order by e.question_id, e.id desc
     on conflict (attempt_id, question_id) do update set answer = excluded.answer, device = excluded.device, turn = excluded.turn, saved_at = excluded.saved_at, version = quiz_answer.version + 1`,
    [attemptId],
  );
}

/** Extends, resumes, hands in or sets aside an attempt, with a reason where it takes something from its student; every such act is kept. */
export async function actOnAttempt(
  db: Db,
  courseId: string,
  itemId: string,
  attemptId: string,
  act: AttemptAct,
  by: Asking,
  now: number,
): Promise<void> {
  const attempt = await requireAttempt(db, courseId, itemId, attemptId, by.member);
  const { multiplier } = await readGiven(db, attempt.enrolment_id);
  const closesAt = (await readQuizDates(db, courseId, itemId, now))(attempt.enrolment_id).closes.at;
  const wish = { at: now, actorId: by.personId, reason: act.reason };
  if (act.action === 'set aside' && act.reason === '')
    throw invalid('reason', 'Say why the attempt is set aside; its student sees the reason.');
  if (act.action === 'extend' || act.action === 'resume') {
    if (attempt.state === 'open' && act.action === 'resume') throw new AppError('not-now', 'This attempt is open already.');
    if (act.minutes === 0 && act.action === 'extend') throw invalid('minutes', 'Give it some minutes more.');
    const isOther = await maybe(
      db,
      "select 1 as one from quiz_attempt where item_id = $1 and enrolment_id = $2 and state = 'open' and id <> $3",
      [itemId, attempt.enrolment_id, attemptId],
    );
    if (isOther !== null) throw new AppError('not-now', 'Another attempt of this student is open. Hand that in first.');
    const over = (end: number | null): number => (end === null ? 0 : Math.max(0, Math.ceil((now - end) / 60_000)));
    // Minutes are counted from now where the time is over, so that what is given can be used.
    const added = attempt.added_minutes + over(endsOf(attempt, multiplier, closesAt).end) + act.minutes;
    const { end } = endsOf({ ...attempt, added_minutes: added }, multiplier, closesAt);
    await run(
      db,
      "update quiz_attempt set state = 'open', handed_in_at = null, handed_in_how = null, score = null, added_minutes = $2, ends_at = to_timestamp($3 / 1000.0), version = version + 1 where id = $1",
      [attemptId, added, end],
    );
  } else if (act.action === 'hand in') {
    if (attempt.state !== 'open') throw new AppError('not-now', 'This attempt is handed in already.');
    await closeAttempt(db, courseId, attempt, 'instructor', Math.min(now, attempt.ends_at?.getTime() ?? now), null);
  } else if (act.action === 'take late') {
    if ((await takeLate(db, attemptId)) === 0) throw new AppError('not-now', 'No answer came after time.');
    await scoreAttempts(db, courseId, itemId, [attemptId], wish);
  } else await run(db, "update quiz_attempt set state = 'set aside', version = version + 1 where id = $1", [attemptId]);
  await run(
    db,
    'insert into quiz_attempt_event (attempt_id, action, detail, by_person, at) values ($1, $2, $3, $4, to_timestamp($5 / 1000.0))',
    [attemptId, act.action, [act.minutes > 0 ? `${act.minutes} min` : '', act.reason].filter((w) => w !== '').join(', '), by.personId, now],
  );
  await recordResult(db, courseId, itemId, attempt.enrolment_id, wish);
}

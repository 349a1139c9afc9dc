import type { GivenScore, GivenScores } from '@rosemary/api';
import { formatPoints, parseShare, pointsInWords, ratio, shareText } from '@rosemary/core';
import { questionsOf, type StoredPaper } from '../kinds/quiz/index.ts';
import { type Db, maybe, run } from '../platform/database.ts';
import { conflict, invalid, notFound } from '../platform/errors.ts';
import { scoreAttempts } from '../quizTaking/index.ts';
import { type AnswerTarget, type Asking, requireAnswer } from './requireAttempt.ts';

/** Points by a person, which count before the key; null gives the question back to its key. */
async function writeGiven(db: Db, courseId: string, target: AnswerTarget, body: GivenScore, by: Asking, now: number): Promise<GivenBefore> {
  const attempt = await requireAnswer(db, courseId, target, by);
  const full = await maybe<{ paper: StoredPaper }>(db, 'select paper from quiz_attempt where id = $1', [attempt.id]);
  const question = full === null ? undefined : questionsOf(full.paper).find((q) => q.questionId === target.questionId);
  if (question === undefined || attempt.state !== 'handed in') throw notFound();
  const held = await maybe<{ version: number; points: number; given: string | null; given_reason: string | null }>(
    db,
    'select version, (points * 1000)::int as points, given, given_reason from quiz_score where attempt_id = $1 and question_id = $2 for update',
    [attempt.id, target.questionId],
  );
  if (held === null) throw notFound();
  if (held.version !== body.version) throw conflict(held);
  const points = held.points === 0 ? question.points : held.points;
  if (body.points !== null && (body.points > points || body.points < (question.floor ?? -points)))
    throw invalid(
      'points',
      `${formatPoints(body.points)} is not between ${formatPoints(question.floor ?? -points)} and the ${pointsInWords(points)} of this question.`,
    );
  await run(
    db,
    'update quiz_score set given = $3, given_reason = $4, given_by = $5, given_at = to_timestamp($6 / 1000.0), version = version + 1 where attempt_id = $1 and question_id = $2',
    [
      attempt.id,
      target.questionId,
      body.points === null || points === 0 ? null : shareText(ratio(body.points, points)),
      body.points === null ? '' : body.reason === '' ? 'Marked by hand.' : body.reason,
      by.personId,
      now,
    ],
  );
  const was = held.given === null ? null : parseShare(held.given).mul(ratio(points));
  return {
    attemptId: attempt.id,
    points: was === null ? null : Math.round(was.valueOf()),
    reason: held.given_reason ?? '',
    version: held.version + 1,
  };
}

/** What an answer had before it was given something else, with the version it has now: what Undo writes again. */
type GivenBefore = GivenScores['scores'][number];

/** A person gives an answer its points, or gives it back to its key. */
export async function giveScore(
  db: Db,
  courseId: string,
  target: AnswerTarget,
  body: GivenScore,
  by: Asking,
  now: number,
): Promise<{ version: number }> {
  const { version } = await writeGiven(db, courseId, target, body, by, now);
  await scoreAttempts(db, courseId, target.itemId, [target.attemptId], { at: now, actorId: by.personId, onlyQuestion: target.questionId });
  return { version };
}

/**
 * Gives several answers to one question their points as one act: all of them or none. Each names the version that was seen, so that nothing
 * which was marked meanwhile is written over. Gives what each had before, for one Undo.
 */
export async function giveScores(
  db: Db,
  courseId: string,
  target: Omit<AnswerTarget, 'attemptId'>,
  body: GivenScores,
  by: Asking,
  now: number,
): Promise<GivenScores> {
  const before: GivenBefore[] = [];
  for (const { attemptId, ...given } of body.scores) before.push(await writeGiven(db, courseId, { ...target, attemptId }, given, by, now));
  const attempts = body.scores.map((s) => s.attemptId);
  await scoreAttempts(db, courseId, target.itemId, attempts, { at: now, actorId: by.personId, onlyQuestion: target.questionId });
  return { scores: before };
}

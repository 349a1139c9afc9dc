import { type Membership, reachesSection } from '@rosemary/core';
import { type Db, maybe } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { type AttemptRow, findAttempt } from '../quizTaking/index.ts';
import { listQuestionShares, reachesAnswer } from './questionShares.ts';

/** Who of the staff asks. */
export interface Asking {
  readonly member: Membership;
  readonly personId: string;
}

export interface AnswerTarget {
  readonly itemId: string;
  readonly attemptId: string;
  readonly questionId: string;
}

/** An attempt with an answer that a member of staff marks. */
export async function requireAnswer(db: Db, courseId: string, target: AnswerTarget, by: Asking): Promise<AttemptRow> {
  const attempt = await findAttempt(db, target.itemId, target.attemptId);
  const who =
    attempt === null
      ? null
      : await maybe<{ section_id: string | null }>(db, 'select section_id from enrolment where id = $1 and course_id = $2', [
          attempt.enrolment_id,
          courseId,
        ]);
  const shares = await listQuestionShares(db, target.itemId);
  if (attempt === null || who === null || !reachesAnswer(by, shares, target.questionId, who.section_id)) throw notFound();
  return attempt;
}

/** An attempt whose student a member of staff reaches. */
export async function requireAttempt(db: Db, courseId: string, itemId: string, attemptId: string, member: Membership): Promise<AttemptRow> {
  const attempt = await findAttempt(db, itemId, attemptId);
  const who =
    attempt === null
      ? null
      : await maybe<{ section_id: string | null }>(db, 'select section_id from enrolment where id = $1 and course_id = $2', [
          attempt.enrolment_id,
          courseId,
        ]);
  if (attempt === null || who === null || !reachesSection(member, who.section_id)) throw notFound();
  return attempt;
}

/** The file of an answer that a member of staff marks or whose student they reach. */
export async function requireAnswerFile(
  db: Db,
  courseId: string,
  itemId: string,
  attemptId: string,
  fileId: string,
  by: Asking,
): Promise<void> {
  const row = await maybe<{ question_id: string }>(
    db,
    "select question_id from quiz_answer where attempt_id = $1 and answer ->> 'fileId' = $2::text",
    [attemptId, fileId],
  );
  if (row === null) throw notFound();
  await requireAnswer(db, courseId, { itemId, attemptId, questionId: row.question_id }, by).catch(() =>
    requireAttempt(db, courseId, itemId, attemptId, by.member),
  );
}

import { answerSave, beginAttempt, leaveNote } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { findFile, sendFile, storeFile } from '../files/index.ts';
import { getVisible } from '../opening/index.ts';
import { maybe } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { saveAnswer } from './answers.ts';
import { findAttempt } from './attemptRows.ts';
import { handInQuiz, noteLeave } from './attempts.ts';
import { begin } from './begin.ts';
import { getOwnReview } from './review.ts';
import { getTaking, getTime } from './taking.ts';

const item = (c: MemberContext<unknown>): string => c.params.itemId ?? '';

const attempt = (c: MemberContext<unknown>): string => c.params.attemptId ?? '';

const MOST_FILE_BYTES = 20_971_520;

async function requireOwn(c: MemberContext<unknown>): Promise<NonNullable<Awaited<ReturnType<typeof findAttempt>>>> {
  const found = await findAttempt(c.db, item(c), attempt(c));
  if (found === null || found.enrolment_id !== c.member.enrolmentId) throw notFound();
  return found;
}

export const ownQuizRoutes: readonly Route[] = [
  implement(api.beginAttempt, beginAttempt, (c) => begin(c.db, c.courseId, item(c), c.member, c.body, c.request.ip ?? '', c.now)),
  implement(api.getTaking, async (c) => ({
    taking: await getTaking(c.db, c.courseId, item(c), attempt(c), c.member, c.now),
  })),
  implement(api.getTakingTime, (c) => getTime(c.db, c.courseId, item(c), attempt(c), c.member, c.now)),
  implement(api.saveAnswer, answerSave, async (c) =>
    saveAnswer(c.db, { itemId: item(c), attemptId: attempt(c), questionId: c.params.questionId }, c.member, c.body, c.now),
  ),
  implement(api.addAnswerFile, async (c) => {
    const own = await requireOwn(c);
    if (own.state !== 'open') throw new AppError('not-now', 'This attempt is handed in.');
    return storeFile(c.db, {
      ...c.file,
      courseId: c.courseId,
      ownerId: c.person.personId,
      types: ['pdf', 'picture', 'word', 'text', 'sound', 'video'],
      mostBytes: MOST_FILE_BYTES,
      now: c.now,
    });
  }),
  implement(api.handInAttempt, async (c) => {
    await handInQuiz(c.db, c.courseId, item(c), attempt(c), c.member, c.now);
    c.kick('follow-results');
  }),
  implement(api.noteLeave, leaveNote, (c) => noteLeave(c.db, item(c), attempt(c), c.member, c.body.isBack, c.now)),
  implement(api.getOwnPaper, async (c) =>
    getOwnReview(c.db, c.courseId, await getVisible(c.db, c.courseId, item(c), c.member, c.now), attempt(c), c.member.enrolmentId, c.now),
  ),
  implement(api.getOwnAnswerFile, async (c) => {
    await requireOwn(c);
    const file = await findFile(c.db, c.courseId, c.params.fileId);
    if (file === null || file.owner_id !== c.person.personId) throw notFound();
    return sendFile(file, c.request, c.response);
  }),
  // A picture of a question: of an attempt of one's own, and of no other.
  implement(api.getOwnQuizFile, async (c) => {
    const row = await maybe<{ course_id: string }>(
      c.db,
      `select f.course_id from question_file qf join file f on f.id = qf.file_id join quiz_attempt t on t.item_id = $1 and t.enrolment_id = $3
           and t.paper @> jsonb_build_object('sections', jsonb_build_array(jsonb_build_object('questions', jsonb_build_array(jsonb_build_object('questionId', qf.question_id))))) where qf.file_id = $2 limit 1`,
      [item(c), c.params.fileId, c.member.enrolmentId],
    );
    const file = row === null ? null : await findFile(c.db, row.course_id, c.params.fileId);
    if (file === null) throw notFound();
    return sendFile(file, c.request, c.response);
  }),
];

import type { GivenAnswer, HeldView, Taking } from '@rosemary/api';
import type { Membership } from '@rosemary/core';
import { getQuiz, loadQuestions, questionsOf, showPaper } from '../kinds/quiz/index.ts';
import { getVisible } from '../opening/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { isoAt } from '../platform/instants.ts';
import { endsOf, getOwn, readGiven } from './attemptRows.ts';
import { ownFilesAt } from './attempts.ts';
import { termsOf } from './terms.ts';

interface AnswerRow {
  question_id: string;
  answer: GivenAnswer | null;
  is_flagged: boolean;
  version: number;
  device: string;
  turn: number;
  saved_at: Date;
}

export async function listAnswers(db: Db, attemptId: string): Promise<AnswerRow[]> {
  return rows<AnswerRow>(
    db,
    'select question_id, answer, is_flagged, version, device, turn, saved_at from quiz_answer where attempt_id = $1',
    [attemptId],
  );
}

const heldView = (row: Pick<AnswerRow, 'answer' | 'is_flagged' | 'version' | 'saved_at'>): HeldView => ({
  answer: row.answer,
  isFlagged: row.is_flagged,
  version: row.version,
  savedAt: row.saved_at.toISOString(),
});

/** An open attempt as it is taken: its paper without anything of the key, and what is saved of it. */
export async function getTaking(
  db: Db,
  courseId: string,
  itemId: string,
  attemptId: string,
  member: Membership,
  now: number,
): Promise<Taking> {
  const visible = await getVisible(db, courseId, itemId, member, now);
  const attempt = await getOwn(db, itemId, attemptId, member.enrolmentId);
  if (attempt.state !== 'open') throw new AppError('not-now', 'This attempt is handed in.');
  const setting = termsOf(await getQuiz(db, itemId), attempt);
  const { multiplier } = await readGiven(db, member.enrolmentId);
  const { end, limit } = endsOf(attempt, multiplier, visible.dates.closes.at);
  // Dates may have been changed since it began.
  if (end !== (attempt.ends_at?.getTime() ?? null))
    await run(db, 'update quiz_attempt set ends_at = to_timestamp($2 / 1000.0) where id = $1', [attemptId, end]);
  const loaded = await loadQuestions(db, questionsOf(attempt.paper));
  const { sections } = showPaper(attempt.paper, attempt.seed, setting, loaded, ownFilesAt(courseId, itemId));
  return {
    attemptId,
    number: attempt.number,
    title: visible.item.title,
    now: new Date(now).toISOString(),
    begunAt: attempt.begun_at.toISOString(),
    endsAt: isoAt(limit),
    setting: {
      layout: setting.layout,
      mayGoBack: setting.mayGoBack,
      atEnd: attempt.at_end,
      allowsCalculator: setting.allowsCalculator,
      recordsLeaving: setting.recordsLeaving,
      discouragesCopying: setting.discouragesCopying,
    },
    sections,
    answers: Object.fromEntries((await listAnswers(db, attemptId)).map((row) => [row.question_id, heldView(row)])),
  };
}

/** How much time is left, in few bytes: it is asked again and again. */
export async function getTime(
  db: Db,
  courseId: string,
  itemId: string,
  attemptId: string,
  member: Membership,
  now: number,
): Promise<{ now: string; endsAt: string | null; isOpen: boolean }> {
  const attempt = await getOwn(db, itemId, attemptId, member.enrolmentId);
  const { multiplier } = await readGiven(db, member.enrolmentId);
  const { dates } = await getVisible(db, courseId, itemId, member, now);
  return {
    now: new Date(now).toISOString(),
    endsAt: isoAt(endsOf(attempt, multiplier, dates.closes.at).limit),
    isOpen: attempt.state === 'open',
  };
}

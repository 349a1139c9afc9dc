import type { OwnAttempt, OwnQuiz, QuizSetting } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import { dayAndTime, exactPoints, mayReview, type Membership, REVIEWED, reviewInWords } from '@rosemary/core';
import { getQuiz, listSections } from '../kinds/quiz/index.ts';
import { getVisible, toReviewTime, type Visible } from '../opening/index.ts';
import { type Db, maybe, run } from '../platform/database.ts';
import { isoAt } from '../platform/instants.ts';
import { getTerm } from '../term/index.ts';
import { type AttemptRow, endsOf, getOwn, type Given, listOwnAttempts, readGiven } from './attemptRows.ts';
import { closeAttempt } from './closeAttempt.ts';
import { termsAfter, termsOf } from './terms.ts';

/** What of a result its student may see now, and what of it later, in words. Whether the score is out at all is what the mark says: see `seesScores`. */
export function reviewNow(
  setting: QuizSetting,
  now: number,
  closesAt: number | null,
  zone: string,
): { readonly sees: { readonly [what in (typeof REVIEWED)[number]]: boolean }; readonly later: string[] } {
  const words = { score: 'the score', answers: 'your answers', key: 'what is right', feedback: 'feedback' } as const;
  const isSeen = (what: (typeof REVIEWED)[number]): boolean => {
    const when = toReviewTime(setting.review[what]);
    // The mark itself says when it is out; of a paper that may be looked at for a time only, its score is seen no longer than that.
    return what === 'score' ? when.kind !== 'window' || mayReview(when, now, closesAt) : mayReview(when, now, closesAt);
  };
  const sees = Object.fromEntries(REVIEWED.map((what) => [what, isSeen(what)])) as {
    [what in (typeof REVIEWED)[number]]: boolean;
  };
  const isDue = (what: (typeof REVIEWED)[number]): boolean => mayReview(toReviewTime(setting.review[what]), now, closesAt);
  const later = REVIEWED.filter((what) => !isDue(what) && setting.review[what].kind !== 'never').map((what) => {
    const when = toReviewTime(setting.review[what]);
    const isOver = when.kind === 'window' && now >= when.to;
    return isOver ? '' : `${words[what]} ${reviewInWords(when, (at) => dayAndTime(at, zone, now))}`;
  });
  return { sees, later: later.filter((w) => w !== '') };
}

/** Which attempt makes the result: none while it is not known. */
export function countedOf(attempts: readonly AttemptRow[], rule: QuizSetting['counted']): ReadonlySet<string> {
  const scored = attempts.filter((a) => a.state === 'handed in' && a.score !== null);
  if (rule === 'mean') return new Set(scored.map((a) => a.id));
  const best =
    rule === 'first'
      ? scored[0]
      : rule === 'latest'
        ? scored.at(-1)
        : scored.reduce<AttemptRow | undefined>((b, a) => (b === undefined || (a.score ?? 0) > (b.score ?? 0) ? a : b), undefined);
  return new Set(best === undefined ? [] : [best.id]);
}

const toOwn = (row: AttemptRow, seesScore: boolean, counted: ReadonlySet<string>): OwnAttempt => ({
  id: row.id,
  number: row.number,
  handedInAt: row.handed_in_at?.toISOString() ?? null,
  how: row.handed_in_how,
  state: row.state,
  scoreText: seesScore && row.score !== null ? exactPoints(row.score) : null,
  isWaiting: row.state === 'handed in' && row.score === null,
  counts: seesScore && counted.has(row.id),
});

/** A score is seen once the mark is released: by the quiz's own rule, at its date or by hand, as the item is set. */
export async function seesScores(db: Db, itemId: string, enrolmentId: string): Promise<boolean> {
  return (
    (await maybe(db, 'select 1 as one from work_grade where item_id = $1 and enrolment_id = $2 and is_released', [itemId, enrolmentId])) !==
    null
  );
}

export function whyNotBegin(
  visible: Visible,
  setting: QuizSetting,
  taken: readonly AttemptRow[],
  allowed: number | null,
  seesScore: boolean,
): string | null {
  if (setting.taken === 'paper') return 'This test is taken on paper.';
  if (visible.visibility === 'announced')
    return `Not open yet: it ${visible.waitsFor === '' ? 'is opened by your instructor' : visible.waitsFor}.`;
  if (visible.visibility === 'closed') return 'This quiz is closed. Ask your instructor if something kept you from taking it.';
  const used = taken.filter((a) => a.state !== 'set aside');
  const best = Math.max(-1, ...used.map((a) => a.score ?? -1));
  // Whoever may not see a score is not told by a refusal that it is high enough.
  if (seesScore && setting.retryUntil !== null && best >= setting.retryUntil)
    return 'You have reached what was to be reached, so there is no further attempt.';
  return allowed !== null && used.length >= allowed
    ? `You have taken this ${used.length === 1 ? 'once' : `${used.length} times`}, which is all there is.`
    : null;
}

export const allowedFor = (setting: QuizSetting, given: Given): number | null =>
  setting.attemptsAllowed === null ? null : setting.attemptsAllowed + given.extraAttempts;

/** How a student stands with a quiz. */
export async function getOwnQuiz(db: Db, visible: Visible, courseId: string, enrolmentId: string, now: number): Promise<OwnQuiz> {
  const itemId = visible.item.id;
  const given = await readGiven(db, enrolmentId);
  const taken = await listOwnAttempts(db, itemId, enrolmentId);
  const latest = taken.at(-1);
  const quiz = termsAfter(await getQuiz(db, itemId), taken);
  // Who is at it is told of what they are under; who has handed in, of what may be seen of that.
  const setting = latest?.state === 'open' ? termsOf(quiz, latest) : { ...quiz, review: latest?.kept.review ?? quiz.review };
  const { zone } = await getTerm(db, courseId);
  const open = taken.find((a) => a.state === 'open');
  const sections = await listSections(db, itemId);
  const { sees, later } = reviewNow(setting, now, visible.dates.closes.at, zone);
  const seesScore = sees.score && (await seesScores(db, itemId, enrolmentId));
  const allowed = allowedFor(setting, given);
  const isTold = visible.visibility !== 'announced';
  return {
    instructions: setting.instructions,
    questions: sections.flatMap((s) => s.parts).reduce((sum, p) => sum + (p.draw?.count ?? 1), 0),
    limitMinutes: setting.limitMinutes === null ? null : Math.round(setting.limitMinutes * given.multiplier),
    limitReason: setting.limitMinutes === null ? '' : given.reason,
    attemptsAllowed: allowed,
    counted: setting.counted,
    needsCode: setting.accessCode !== '',
    mayGoBack: setting.mayGoBack,
    atEnd: setting.atEnd,
    recordsLeaving: setting.recordsLeaving,
    open:
      open === undefined
        ? null
        : {
            id: open.id,
            begunAt: open.begun_at.toISOString(),
            endsAt: isoAt(endsOf(open, given.multiplier, visible.dates.closes.at).limit),
          },
    attempts: isTold ? taken.filter((a) => a.state !== 'open').map((a) => toOwn(a, seesScore, countedOf(taken, setting.counted))) : [],
    whyNot: open === undefined ? whyNotBegin(visible, setting, taken, allowed, seesScore) : null,
    review: later,
  };
}

export const ownFilesAt =
  (courseId: string, itemId: string) =>
  (fileId: string): string =>
    urlOf(api.getOwnQuizFile, { courseId, itemId, fileId });

export async function handInQuiz(
  db: Db,
  courseId: string,
  itemId: string,
  attemptId: string,
  member: Membership,
  now: number,
): Promise<void> {
  const attempt = await getOwn(db, itemId, attemptId, member.enrolmentId);
  if (attempt.state !== 'open') return;
  const visible = await getVisible(db, courseId, itemId, member, now);
  const { multiplier } = await readGiven(db, member.enrolmentId);
  const { end, limit } = endsOf(attempt, multiplier, visible.dates.closes.at);
  const isOver = end !== null && now > end;
  await closeAttempt(db, courseId, attempt, isOver ? 'time' : 'student', isOver ? end : now, attempt.at_end === 'flag' ? limit : null);
}

/** That the page was left and come back to, where the quiz says it is recorded. */
export async function noteLeave(
  db: Db,
  itemId: string,
  attemptId: string,
  member: Membership,
  isBack: boolean,
  now: number,
): Promise<void> {
  const attempt = await getOwn(db, itemId, attemptId, member.enrolmentId);
  const setting = termsOf(await getQuiz(db, itemId), attempt);
  if (!setting.recordsLeaving || attempt.state !== 'open') return;
  await run(
    db,
    isBack
      ? 'update quiz_leave set back_at = to_timestamp($2 / 1000.0) where attempt_id = $1 and back_at is null'
      : 'insert into quiz_leave (attempt_id, left_at) values ($1, to_timestamp($2 / 1000.0))',
    [attemptId, now],
  );
}

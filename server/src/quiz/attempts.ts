import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { BeginAttempt, GivenAnswer, HeldView, OwnAttempt, OwnQuiz, QuizSetting, Taking } from '@rosemary/api';
import { attemptEnd, exactPoints, mayReview, reviewInWords, dayAndTime, REVIEWED, type Membership } from '@rosemary/core';
import ipaddr from 'ipaddr.js';
import { randomUUID } from 'node:crypto';
import { getTerm } from '../gradebook/facts.ts';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { AppError, invalid, notFound } from '../platform/errors.ts';
import { toReviewTime } from '../release/toldNow.ts';
import { getVisible, type Visible } from '../student/visible.ts';
import { loadQuestions, questionsOf, showPaper, type StoredPaper } from './content.ts';
import { getQuiz, listSections, readPools, readRange, storePaper } from './quizzes.ts';
import { scoreAttempts } from './scoring.ts';

export interface AttemptRow {
  id: string;
  item_id: string;
  enrolment_id: string;
  number: number;
  seed: string;
  paper: StoredPaper;
  state: 'open' | 'handed in' | 'set aside';
  begun_at: Date;
  ends_at: Date | null;
  added_minutes: number;
  handed_in_at: Date | null;
  handed_in_how: OwnAttempt['how'];
  over_seconds: number;
  score: number | null;
  /** The time it began under. */
  limit_minutes: number | null;
  at_end: QuizSetting['atEnd'];
}
const COLUMNS =
  'id, item_id, enrolment_id, number, seed, paper, state, begun_at, ends_at, added_minutes, handed_in_at, handed_in_how, over_seconds, (score * 1000)::int as score, limit_minutes, at_end';

export async function findAttempt(db: Db, itemId: string, attemptId: string): Promise<AttemptRow | null> {
  return maybe<AttemptRow>(db, `select ${COLUMNS} from quiz_attempt where id = $1 and item_id = $2`, [attemptId, itemId]);
}
export async function listOwnAttempts(db: Db, itemId: string, enrolmentId: string): Promise<AttemptRow[]> {
  return rows<AttemptRow>(db, `select ${COLUMNS} from quiz_attempt where item_id = $1 and enrolment_id = $2 order by number`, [
    itemId,
    enrolmentId,
  ]);
}
async function getOwn(db: Db, itemId: string, attemptId: string, enrolmentId: string): Promise<AttemptRow> {
  const row = await findAttempt(db, itemId, attemptId);
  if (row === null || row.enrolment_id !== enrolmentId) throw notFound();
  return row;
}

interface Given {
  readonly multiplier: number;
  readonly reason: string;
  readonly extraAttempts: number;
}
/** What arrangements give one student: of several the longest time, and all their attempts. */
export async function readGiven(db: Db, enrolmentId: string): Promise<Given> {
  const found = await rows<{ time_multiplier: string; extra_attempts: number; reason: string }>(
    db,
    'select time_multiplier, extra_attempts, reason from arrangement where enrolment_id = $1 order by time_multiplier desc',
    [enrolmentId],
  );
  const multiplier = Number(found[0]?.time_multiplier ?? '1');
  return {
    multiplier,
    reason: multiplier > 1 ? `${String(multiplier)} times the usual, by arrangement` : '',
    extraAttempts: found.reduce((sum, a) => sum + a.extra_attempts, 0),
  };
}

/** When an attempt ends for good, and when its time is over: two things where one may go on after the time. It keeps the time it began under. */
export function endsOf(
  attempt: Pick<AttemptRow, 'begun_at' | 'added_minutes' | 'limit_minutes' | 'at_end'>,
  multiplier: number,
  closesAt: number | null,
): { readonly end: number | null; readonly limit: number | null } {
  const timing = { limitMinutes: attempt.limit_minutes, multiplier, addedMinutes: attempt.added_minutes, closesAt };
  const limit = attemptEnd(attempt.begun_at.getTime(), timing);
  const end = attempt.at_end === 'flag' ? attemptEnd(attempt.begun_at.getTime(), { ...timing, limitMinutes: null }) : limit;
  return { end, limit };
}

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
    (await maybe(db, 'select 1 as one from grade where item_id = $1 and enrolment_id = $2 and is_released', [itemId, enrolmentId])) !== null
  );
}

function whyNotBegin(
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

const allowedFor = (setting: QuizSetting, given: Given): number | null =>
  setting.attemptsAllowed === null ? null : setting.attemptsAllowed + given.extraAttempts;

/** How a student stands with a quiz. */
export async function getOwnQuiz(db: Db, visible: Visible, courseId: string, enrolmentId: string, now: number): Promise<OwnQuiz> {
  const itemId = visible.item.id;
  const setting = await getQuiz(db, itemId);
  const { zone } = await getTerm(db, courseId);
  const given = await readGiven(db, enrolmentId);
  const taken = await listOwnAttempts(db, itemId, enrolmentId);
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
            endsAt: isoOf(endsOf(open, given.multiplier, visible.dates.closes.at).limit),
          },
    attempts: isTold ? taken.filter((a) => a.state !== 'open').map((a) => toOwn(a, seesScore, countedOf(taken, setting.counted))) : [],
    whyNot: open === undefined ? whyNotBegin(visible, setting, taken, allowed, seesScore) : null,
    review: later,
  };
}
const isoOf = (at: number | null): string | null => (at === null ? null : new Date(at).toISOString());

/** Whether an address of the network is among those a quiz may be taken from. */
function isFrom(address: string, allowed: readonly string[]): boolean {
  if (allowed.length === 0) return true;
  if (!ipaddr.isValid(address)) return false;
  const from = ipaddr.process(address);
  return allowed.some((text) => {
    const range = readRange(text);
    return range !== null && range[0].kind() === from.kind() && (from as ipaddr.IPv4).match(range as [ipaddr.IPv4, number]);
  });
}

/** Begins an attempt, or goes on with the one that is open. The key makes a repeated request do nothing twice. */
export async function begin(
  db: Db,
  courseId: string,
  itemId: string,
  member: Membership,
  body: BeginAttempt,
  from: string,
  now: number,
  seed: string = randomUUID(),
): Promise<{ attemptId: string }> {
  const visible = await getVisible(db, courseId, itemId, member, now);
  if (visible.item.kind !== 'quiz') throw notFound();
  // Two requests of one student wait for one another, so that there is one attempt.
  await db.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`quiz ${itemId} ${member.enrolmentId}`]);
  const setting = await getQuiz(db, itemId);
  const taken = await listOwnAttempts(db, itemId, member.enrolmentId);
  const open = taken.find((a) => a.state === 'open');
  const isIn = setting.accessCode === '' || body.code.toLowerCase() === setting.accessCode.toLowerCase();
  if (open !== undefined) return { attemptId: open.id };
  const given = await readGiven(db, member.enrolmentId);
  const seesScore = await seesScores(db, itemId, member.enrolmentId);
  const why = whyNotBegin(visible, setting, taken, allowedFor(setting, given), seesScore);
  if (why !== null) throw new AppError('not-now', why);
  if (!isIn)
    throw invalid(
      'code',
      body.code === ''
        ? 'This quiz begins with a code, which is shown in the room.'
        : `“${body.code}” is not the code. It is shown in the room.`,
    );
  if (!isFrom(from, setting.allowedAddresses))
    throw new AppError('refused', 'This quiz can be taken from certain places alone, and this is none of them. Ask whoever supervises it.');
  const sections = await listSections(db, itemId);
  const paper = storePaper(sections, await readPools(db, sections), seed, setting.shufflesSections);
  const questions = questionsOf(paper);
  if (questions.length === 0) throw new AppError('not-now', 'There is no question in this quiz yet. Ask your instructor.');
  await run(
    db,
    `update question_version v set fixed_at = to_timestamp($3 / 1000.0) from unnest($1::uuid[], $2::int[]) as w(id, number) where v.question_id = w.id and v.number = w.number and v.fixed_at is null`,
    [questions.map((q) => q.questionId), questions.map((q) => q.number), now],
  );
  const { end } = endsOf(
    { begun_at: new Date(now), added_minutes: 0, limit_minutes: setting.limitMinutes, at_end: setting.atEnd },
    given.multiplier,
    visible.dates.closes.at,
  );
  const made = await maybe<{ id: string }>(
    db,
    `insert into quiz_attempt (item_id, enrolment_id, number, seed, paper, begun_at, ends_at, idempotency_key, limit_minutes, at_end)
     values ($1, $2, $3, $4, $5, to_timestamp($6 / 1000.0), to_timestamp($7 / 1000.0), $8, $9, $10) returning id`,
    [itemId, member.enrolmentId, taken.length + 1, seed, JSON.stringify(paper), now, end, body.key, setting.limitMinutes, setting.atEnd],
  );
  return { attemptId: made?.id ?? '' };
}

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
  const setting = await getQuiz(db, itemId);
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
    endsAt: isoOf(limit),
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
export const ownFilesAt =
  (courseId: string, itemId: string) =>
  (fileId: string): string =>
    urlOf(api.getOwnQuizFile, { courseId, itemId, fileId });

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
    endsAt: isoOf(endsOf(attempt, multiplier, dates.closes.at).limit),
    isOpen: attempt.state === 'open',
  };
}

/** Hands in an attempt: once, whatever is sent twice. What can be scored at once is. */
export async function closeAttempt(
  db: Db,
  courseId: string,
  attempt: Pick<AttemptRow, 'id' | 'item_id' | 'enrolment_id' | 'begun_at' | 'added_minutes'>,
  how: NonNullable<OwnAttempt['how']>,
  at: number,
  limit: number | null,
): Promise<void> {
  const over = limit === null ? 0 : Math.max(0, Math.round((at - limit) / 1000));
  const changed = await run(
    db,
    `update quiz_attempt set state = 'handed in', handed_in_at = to_timestamp($2 / 1000.0), handed_in_how = $3, over_seconds = $4, version = version + 1 where id = $1 and state = 'open'`,
    [attempt.id, at, how, over],
  );
  if (changed === 1) await scoreAttempts(db, courseId, attempt.item_id, [attempt.id], { at, actorId: null });
}

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
  const setting = await getQuiz(db, itemId);
  if (!setting.recordsLeaving || attempt.state !== 'open') return;
  await run(
    db,
    isBack
      ? 'update quiz_leave set back_at = to_timestamp($2 / 1000.0) where attempt_id = $1 and back_at is null'
      : 'insert into quiz_leave (attempt_id, left_at) values ($1, to_timestamp($2 / 1000.0))',
    [attemptId, now],
  );
}

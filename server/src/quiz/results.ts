import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type {
  AttemptAct,
  AttemptLine,
  AttemptPaper,
  CorrectionView,
  GivenAnswer,
  GivenScore,
  GivenScores,
  QuestionAnswers,
  QuizPerson,
  QuizResults,
} from '@rosemary/api';
import {
  formatPoints,
  pointsInWords,
  parseShare,
  plainText,
  ratio,
  reachesSection,
  shareText,
  type Actor,
  type Membership,
  type QuestionKind,
} from '@rosemary/core';
import { getQuestion, titleOf } from '../bank/questions.ts';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { getPlanItem } from '../plan/queries.ts';
import { listMarkers } from '../marking/shares.ts';
import { readReach } from '../release/reach.ts';
import { closeAttempt, countedOf, endsOf, findAttempt, listOwnAttempts, readGiven, type AttemptRow } from './attempts.ts';
import { questionsOf, type StoredPaper } from './content.ts';
import { listQuestionShares, reachesAnswer } from './questionShares.ts';
import { getQuiz } from './quizzes.ts';
import { getStaffReview } from './review.ts';
import { readQuizDates } from './quizDates.ts';
import { recordResult, scoreAttempts } from './scoring.ts';

/** Who of the staff asks. */
export interface Asking {
  readonly member: Membership;
  readonly personId: string;
}
interface AnswerTarget {
  readonly itemId: string;
  readonly attemptId: string;
  readonly questionId: string;
}

interface LineRow extends AttemptRow {
  answered: number;
  questions: number;
  last_saved_at: Date | null;
  so_far: string | null;
  left: number;
  came_late: number;
}
const LINE_SQL = `
  select t.id, t.item_id, t.enrolment_id, t.number, t.seed, '{"sections": []}'::jsonb as paper, t.state, t.begun_at, t.ends_at, t.added_minutes, t.handed_in_at, t.handed_in_how, t.over_seconds, (t.score * 1000)::int as score,
    (select count(*)::int from quiz_answer a where a.attempt_id = t.id and a.answer is not null and a.answer <> 'null') as answered,
    (select coalesce(sum(jsonb_array_length(s -> 'questions')), 0)::int from jsonb_array_elements(t.paper -> 'sections') s) as questions,
    (select max(a.saved_at) from quiz_answer a where a.attempt_id = t.id) as last_saved_at,
    (select sum(split_part(s.share, '/', 1)::numeric / split_part(s.share, '/', 2)::numeric * s.points) from quiz_score s where s.attempt_id = t.id and s.share is not null)::text as so_far,
    (select count(*)::int from quiz_leave l where l.attempt_id = t.id) as left,
    (select count(distinct e.question_id)::int from quiz_answer_event e where e.attempt_id = t.id and e.is_late) as came_late
  from quiz_attempt t`;

const toLine = (row: LineRow, counted: ReadonlySet<string>): AttemptLine => ({
  id: row.id,
  number: row.number,
  state: row.state,
  begunAt: row.begun_at.toISOString(),
  endsAt: row.ends_at?.toISOString() ?? null,
  handedInAt: row.handed_in_at?.toISOString() ?? null,
  how: row.handed_in_how,
  answered: row.answered,
  questions: row.questions,
  lastSavedAt: row.last_saved_at?.toISOString() ?? null,
  score: row.score,
  soFar: row.so_far === null ? null : Math.round(Number(row.so_far) * 1000),
  addedMinutes: row.added_minutes,
  overSeconds: row.over_seconds,
  left: row.left,
  cameLate: row.came_late,
  isCounted: counted.has(row.id),
});

function stateOf(lines: readonly AttemptLine[]): QuizPerson['state'] {
  if (lines.some((l) => l.state === 'open')) return 'in the middle';
  const handed = lines.filter((l) => l.state === 'handed in');
  if (handed.length === 0) return lines.length === 0 ? 'not begun' : 'set aside';
  return handed.some((l) => l.score === null) ? 'waiting' : 'scored';
}

export interface WhoRow {
  id: string;
  given_name: string;
  family_name: string;
  section: string | null;
  section_id: string | null;
  is_sample: boolean;
}
/** Whom a quiz is for, as far as a member of staff reaches. */
export async function listWhom(db: Db, courseId: string, itemId: string, member: Membership): Promise<WhoRow[]> {
  const reach = await readReach(db, courseId);
  const found = await rows<WhoRow>(
    db,
    `select e.id, p.given_name, p.family_name, s.title as section, e.section_id, e.is_sample from enrolment e join person p on p.id = e.person_id left join section s on s.id = e.section_id
     where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null and not e.is_sample order by p.family_name collate "C", p.given_name collate "C"`,
    [courseId],
  );
  return found.filter((w) => reachesSection(member, w.section_id) && reach.isFor(itemId, { enrolmentId: w.id, sectionId: w.section_id }));
}

export async function listCorrectionViews(db: Db, itemId: string): Promise<CorrectionView[]> {
  const found = await rows<{
    id: string;
    question_id: string;
    title: string;
    plain: string;
    kind: CorrectionView['kind'];
    points: number | null;
    reason: string;
    by: string;
    made_at: Date;
    undone_at: Date | null;
    applied_at: Date | null;
  }>(
    db,
    `select c.id, c.question_id, q.title, v.plain, c.kind, (c.points * 1000)::int as points, c.reason, p.given_name || ' ' || p.family_name as by, c.made_at, c.undone_at, c.applied_at
     from quiz_correction c join question q on q.id = c.question_id join question_version v on v.question_id = q.id and v.number = q.newest join person p on p.id = c.made_by where c.item_id = $1 order by c.place desc`,
    [itemId],
  );
  return found.map((c) => ({
    id: c.id,
    questionId: c.question_id,
    question: titleOf(c.title, c.plain),
    kind: c.kind,
    points: c.points,
    reason: c.reason,
    by: c.by,
    at: c.made_at.toISOString(),
    isUndone: c.undone_at !== null,
    isApplied: c.applied_at !== null,
  }));
}

/** Everybody at a quiz: who has not begun, who is in the middle, who handed in, and what waits for a person. */
export async function getResults(db: Db, courseId: string, itemId: string, by: Asking, now: number): Promise<QuizResults> {
  const { member } = by;
  const item = await getPlanItem(db, courseId, itemId, now);
  const setting = await getQuiz(db, itemId);
  const whom = await listWhom(db, courseId, itemId, member);
  const found = await rows<LineRow>(db, `${LINE_SQL} where t.item_id = $1 order by t.number`, [itemId]);
  const people = whom.map((w): QuizPerson => {
    const own = found.filter((row) => row.enrolment_id === w.id);
    const counted = countedOf(own, setting.counted);
    const lines = own.map((row) => toLine(row, counted));
    return {
      enrolmentId: w.id,
      name: `${w.family_name}, ${w.given_name}`,
      section: w.section ?? '',
      sectionId: w.section_id,
      state: stateOf(lines),
      attempts: lines,
    };
  });
  const shares = await listQuestionShares(db, itemId);
  const marked = await rows<{ question_id: string; title: string; plain: string; kind: QuestionKind; section_ids: (string | null)[] }>(
    db,
    `select s.question_id, q.title, v.plain, v.kind, array_agg(e.section_id) filter (where s.share is null) as section_ids from quiz_score s join quiz_attempt t on t.id = s.attempt_id
       join enrolment e on e.id = t.enrolment_id join question q on q.id = s.question_id join question_version v on v.question_id = q.id and v.number = q.newest
     where t.item_id = $1 and t.state = 'handed in' and e.withdrawn_at is null and not e.is_sample and (s.share is null or v.kind in ('essay', 'file')) group by 1, 2, 3, 4 order by 2, 3`,
    [itemId],
  );
  return {
    title: item.title,
    possible: item.possible,
    people,
    marked: marked.map((m) => {
      const waiting = m.section_ids ?? [];
      const markerIds = shares.get(m.question_id) ?? [];
      const own = waiting.filter((sectionId) => reachesAnswer(by, shares, m.question_id, sectionId));
      return {
        questionId: m.question_id,
        title: titleOf(m.title, m.plain),
        kind: m.kind,
        waiting: own.length,
        markerIds,
        isTheirs: markerIds.length === 0 || member.role === 'instructor' || markerIds.includes(by.personId),
      };
    }),
    markers: (await listMarkers(db, courseId)).map(({ id, name }) => ({ id, name })),
    corrections: await listCorrectionViews(db, itemId),
    setting: {
      passPoints: setting.passPoints,
      meritPoints: setting.meritPoints,
      counted: setting.counted,
      limitMinutes: setting.limitMinutes,
    },
  };
}

/** An attempt with an answer that a member of staff marks. */
async function requireAnswer(db: Db, courseId: string, target: AnswerTarget, by: Asking): Promise<AttemptRow> {
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

export async function getAttemptPaper(
  db: Db,
  courseId: string,
  itemId: string,
  attemptId: string,
  member: Membership,
  now: number,
): Promise<AttemptPaper> {
  const attempt = await requireAttempt(db, courseId, itemId, attemptId, member);
  const item = await getPlanItem(db, courseId, itemId, now);
  const who = await maybe<{ name: string }>(
    db,
    "select p.family_name || ', ' || p.given_name as name from enrolment e join person p on p.id = e.person_id where e.id = $1",
    [attempt.enrolment_id],
  );
  const line = await maybe<LineRow>(db, `${LINE_SQL} where t.id = $1`, [attemptId]);
  if (line === null) throw notFound();
  const counted = countedOf(await listOwnAttempts(db, itemId, attempt.enrolment_id), (await getQuiz(db, itemId)).counted);
  const events = await rows<{ at: Date; action: string; detail: string; by: string }>(
    db,
    "select v.at, v.action, v.detail, p.given_name || ' ' || p.family_name as by from quiz_attempt_event v join person p on p.id = v.by_person where v.attempt_id = $1 order by v.id",
    [attemptId],
  );
  return {
    ...(await getStaffReview(db, courseId, itemId, attemptId, item.title, item.possible)),
    name: who?.name ?? '',
    line: toLine(line, counted),
    events: events.map((v) => ({ at: v.at.toISOString(), words: v.detail === '' ? v.action : `${v.action}: ${v.detail}`, by: v.by })),
  };
}

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

/** What was answered to one question, to be marked together; alike answers are grouped where they are looked at. */
export async function listQuestionAnswers(
  db: Db,
  actor: Actor,
  courseId: string,
  itemId: string,
  questionId: string,
  member: Membership,
): Promise<QuestionAnswers> {
  const by = { member, personId: actor.personId };
  const shares = await listQuestionShares(db, itemId);
  const question = await getQuestion(db, actor, questionId);
  const found = await rows<{
    attempt_id: string;
    name: string;
    section_id: string | null;
    answer: GivenAnswer | null;
    share: string | null;
    given: string | null;
    points: number;
    rule: string;
    given_reason: string;
    version: number;
    file_id: string | null;
    file_name: string | null;
  }>(
    db,
    `select s.attempt_id, p.family_name || ', ' || p.given_name as name, e.section_id, a.answer, s.share, s.given, (s.points * 1000)::int as points, s.rule, s.given_reason, s.version, f.id as file_id, f.name as file_name
     from quiz_score s join quiz_attempt t on t.id = s.attempt_id join enrolment e on e.id = t.enrolment_id join person p on p.id = e.person_id
       left join quiz_answer a on a.attempt_id = s.attempt_id and a.question_id = s.question_id left join file f on f.id = (a.answer ->> 'fileId')::uuid
     where t.item_id = $1 and s.question_id = $2 and t.state = 'handed in' and not e.is_sample order by p.family_name collate "C", p.given_name collate "C", t.number`,
    [itemId, questionId],
  );
  const reached = found.filter((row) => reachesAnswer(by, shares, questionId, row.section_id));
  if (reached.length === 0 && found.length > 0) throw notFound();
  return {
    question,
    points: found[0]?.points ?? 0,
    answers: reached.map((row) => ({
      attemptId: row.attempt_id,
      name: row.name,
      answer: row.answer,
      text: textOf(row.answer),
      file:
        row.file_id === null
          ? null
          : {
              name: row.file_name ?? '',
              url: urlOf(api.getAttemptFile, { courseId, itemId, attemptId: row.attempt_id, fileId: row.file_id }),
            },
      share: row.share,
      given: row.given === null ? null : Number(roundPoints(row.given, row.points)),
      rule: row.rule,
      reason: row.given === null ? '' : row.given_reason,
      version: row.version,
    })),
  };
}
const roundPoints = (share: string, points: number): bigint => {
  const value = parseShare(share).mul(ratio(points));
  return (2n * value.s * value.n + value.d) / (2n * value.d);
};
function textOf(answer: GivenAnswer | null): string {
  if (answer === null) return '';
  if (answer.kind === 'text') return answer.text;
  if (answer.kind === 'texts') return Object.values(answer.texts).join(' · ');
  return answer.kind === 'work' ? plainText(answer.document ?? null) : '';
}

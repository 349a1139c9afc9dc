import type { GivenAnswer } from '@rosemary/api';
import {
  type Correction,
  countedScore,
  countedWords,
  decimalText,
  type GradeFacts,
  parseShare,
  type QuestionKey,
  type ScoredPart,
  scorePart,
  shareText,
  sumParts,
  wantedOf,
} from '@rosemary/core';
import { toAnswer } from '../bank/index.ts';
import { getWorkColumn, type GradeWrite, lockGrades, recordGrades } from '../gradebook/index.ts';
import { loadQuestions, questionsOf, type StoredPaper } from '../kinds/quiz/index.ts';
import { listToldNow } from '../opening/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { announceReturned } from '../platform/events.ts';

interface CorrectionRow {
  question_id: string;
  kind: Correction['kind'];
  key: QuestionKey | null;
  points: number | null;
}

/** The corrections of a quiz that hold, in their order. */
export async function listCorrections(db: Db, itemId: string): Promise<Correction[]> {
  const found = await rows<CorrectionRow>(
    db,
    'select question_id, kind, key, (points * 1000)::int as points from quiz_correction where item_id = $1 and undone_at is null order by place',
    [itemId],
  );
  return found.flatMap((row): Correction[] => {
    const questionId = row.question_id;
    if (row.kind === 'key') return row.key === null ? [] : [{ kind: 'key', questionId, key: row.key }];
    if (row.kind === 'points') return [{ kind: 'points', questionId, points: row.points ?? 0 }];
    return [{ kind: row.kind, questionId }];
  });
}

interface TakenRow {
  id: string;
  enrolment_id: string;
  seed: string;
  paper: StoredPaper;
}

interface GivenRow {
  attempt_id: string;
  question_id: string;
  answer: GivenAnswer | null;
  share: string | null;
  rule: string | null;
  points: number | null;
  given: string | null;
  given_reason: string | null;
}

const givenOf = (row: GivenRow | undefined): { share: ReturnType<typeof parseShare>; reason: string } | null => {
  const share = row?.given ?? null;
  return share === null ? null : { share: parseShare(share), reason: row?.given_reason ?? '' };
};

/** How a re-mark goes about it: of one question alone the others keep what they earned. */
export interface ScoringWish {
  readonly at: number;
  /** Who made it so; null is the student who handed in. */
  readonly actorId: string | null;
  readonly reason?: string;
  readonly onlyQuestion?: string;
}

/** What attempts that are handed in earn by the keys and rules of now, and what each question earned before; nothing is written. */
async function computeScores(db: Db, itemId: string, attemptIds: readonly string[], onlyQuestion: string | undefined) {
  const attempts = await rows<TakenRow>(
    db,
    "select id, enrolment_id, seed, paper from quiz_attempt where id = any($1) and item_id = $2 and state = 'handed in'",
    [attemptIds, itemId],
  );
  const item = await maybe<{ possible: number }>(db, 'select (possible * 1000)::int as possible from graded_item where id = $1', [itemId]);
  const possible = item?.possible ?? 0;
  const corrections = await listCorrections(db, itemId);
  const byQuestion = new Map<string, Correction[]>();
  for (const c of corrections) byQuestion.set(c.questionId, [...(byQuestion.get(c.questionId) ?? []), c]);
  const held = await rows<GivenRow>(
    db,
    `select coalesce(a.attempt_id, s.attempt_id) as attempt_id, coalesce(a.question_id, s.question_id) as question_id, a.answer, s.share, s.rule, (s.points * 1000)::int as points, s.given, s.given_reason
     from (select * from quiz_answer where attempt_id = any($1)) a full join (select * from quiz_score where attempt_id = any($1)) s on s.attempt_id = a.attempt_id and s.question_id = a.question_id`,
    [attempts.map((a) => a.id)],
  );
  const heldOf = new Map(held.map((row) => [`${row.attempt_id} ${row.question_id}`, row]));
  const loaded = await loadQuestions(db, [
    ...new Map(attempts.flatMap((a) => questionsOf(a.paper)).map((q) => [`${q.questionId} ${q.number}`, q])).values(),
  ]);
  const written = {
    attempt: [] as string[],
    question: [] as string[],
    share: [] as (string | null)[],
    rule: [] as string[],
    points: [] as string[],
    was: [] as (string | null)[],
  };
  const totals = { attempt: [] as string[], score: [] as (string | null)[] };
  for (const attempt of attempts) {
    const parts = questionsOf(attempt.paper).map((q): ScoredPart => {
      const row = heldOf.get(`${attempt.id} ${q.questionId}`);
      const isKnown = onlyQuestion !== undefined && onlyQuestion !== q.questionId && row?.rule !== undefined && row.rule !== null;
      if (isKnown)
        return {
          questionId: q.questionId,
          points: row.points ?? 0,
          isDropped: false,
          rule: row.rule ?? '',
          share: row.share === null ? null : parseShare(row.share),
        };
      const { key } = loaded(q).content;
      const part = scorePart(
        {
          ...q,
          key,
          wanted: wantedOf(key, q.questionId, attempt.seed),
          answer: toAnswer(row?.answer ?? null),
          given: givenOf(row),
        },
        byQuestion.get(q.questionId) ?? [],
      );
      written.attempt.push(attempt.id);
      written.question.push(q.questionId);
      written.share.push(part.share === null ? null : shareText(part.share));
      written.rule.push(part.rule);
      written.points.push(decimalText(part.points));
      written.was.push(row?.share ?? null);
      return part;
    });
    const { score } = sumParts(parts, possible);
    totals.attempt.push(attempt.id);
    totals.score.push(score === null ? null : decimalText(score));
  }
  return { attempts, written, totals };
}

/** How many answers to a question would earn another share by the keys and rules of now than they did when they were scored. */
export async function countOutdated(db: Db, itemId: string, attemptIds: readonly string[], questionId: string): Promise<number> {
  if (attemptIds.length === 0) return 0;
  const { written } = await computeScores(db, itemId, attemptIds, questionId);
  return written.share.filter((share, n) => written.question[n] === questionId && share !== written.was[n]).length;
}

/**
 * Scores attempts that are handed in, and brings the results into the ledger. The exact share of each question is kept with the rule that
 * gave it; what waits for a person stays open, and so does the attempt.
 */
export async function scoreAttempts(
  db: Db,
  courseId: string,
  itemId: string,
  attemptIds: readonly string[],
  wish: ScoringWish,
): Promise<void> {
  if (attemptIds.length === 0) return;
  const { attempts, written, totals } = await computeScores(db, itemId, attemptIds, wish.onlyQuestion);
  await run(
    db,
    `insert into quiz_score (attempt_id, question_id, share, rule, points) select * from unnest($1::uuid[], $2::uuid[], $3::text[], $4::text[], $5::numeric[])
     on conflict (attempt_id, question_id) do update set share = excluded.share, rule = excluded.rule, points = excluded.points
       where (quiz_score.share, quiz_score.rule, quiz_score.points) is distinct from (excluded.share, excluded.rule, excluded.points)`,
    [written.attempt, written.question, written.share, written.rule, written.points],
  );
  await run(
    db,
    'update quiz_attempt a set score = t.score, scored_at = to_timestamp($3 / 1000.0) from unnest($1::uuid[], $2::numeric[]) as t(id, score) where a.id = t.id and a.score is distinct from t.score',
    [totals.attempt, totals.score, wish.at],
  );
  await recordResults(db, courseId, itemId, [...new Set(attempts.map((a) => a.enrolment_id))], wish);
}

interface ResultRow {
  column_id: string;
  enrolment_id: string;
  counted: 'latest' | 'best' | 'first' | 'mean';
  person_id: string;
  /** The grade as it stands; null where there is none yet. */
  last_event_id: string | null;
  state: GradeFacts['state'];
  raw: number | null;
  is_released: boolean | null;
  source: string | null;
  attempts: { number: number; score: number | null }[];
}

/** What a student's attempts give now, or null where the grade stays as it is. */
function resultOf(row: ResultRow, told: ReadonlySet<string>, wish: ScoringWish): GradeWrite | null {
  const isGraded = row.last_event_id !== null;
  if (row.state === 'exempt' || (isGraded && row.state !== null && row.source === 'gradebook')) return null;
  const isWaiting = row.attempts.some((a) => a.score === null);
  const counted = isWaiting ? null : countedScore(row.counted, row.attempts as { number: number; score: number }[]);
  // A result that waits again, or has no attempt behind it any more, is taken back.
  const raw = counted?.score ?? null;
  if (raw === null && (!isGraded || row.raw === null || isWaiting)) return null;
  const isReleased = row.is_released === true || told.has(row.enrolment_id);
  if (isGraded && row.raw === raw && row.is_released === isReleased) return null;
  const many = row.attempts.length > 1 ? countedWords(row.counted, row.attempts.length) : '';
  return {
    ...{
      columnId: row.column_id,
      enrolmentId: row.enrolment_id,
      kind: 'set',
      state: raw === null ? null : 'scored',
      raw,
      isReleased,
      source: 'quiz',
    },
    reason: [wish.reason ?? '', many].filter((w) => w !== '').join('; '),
    actorId: wish.actorId ?? row.person_id,
    at: wish.at,
  };
}

/**
 * Brings the results of students at a quiz into the ledger, from the attempts that are scored. Nothing is written where one of them waits,
 * where somebody typed a mark by hand, or where the student is exempt.
 */
export async function recordResults(
  db: Db,
  courseId: string,
  itemId: string,
  enrolmentIds: readonly string[],
  wish: ScoringWish,
): Promise<void> {
  await lockGrades(db, await getWorkColumn(db, itemId), enrolmentIds);
  const found = await rows<ResultRow>(
    db,
    `select e.id as enrolment_id, c.id as column_id, z.counted, e.person_id, g.last_event_id, g.state, (g.raw * 1000)::int as raw, g.is_released,
       (select source from grade_event where id = g.last_event_id) as source,
       coalesce((select json_agg(json_build_object('number', a.number, 'score', (a.score * 1000)::int) order by a.number) from quiz_attempt a where a.item_id = $1 and a.enrolment_id = e.id and a.state = 'handed in'), '[]') as attempts
     from unnest($2::uuid[]) as w(id) join enrolment e on e.id = w.id join grade_column c on c.item_id = $1 and c.role = 'work' join quiz z on z.item_id = $1
       left join grade g on g.column_id = c.id and g.enrolment_id = e.id order by e.id`,
    [itemId, enrolmentIds],
  );
  const told = await listToldNow(db, courseId, itemId, enrolmentIds, wish.at);
  const writes = found.flatMap((row) => resultOf(row, told, wish) ?? []);
  await recordGrades(db, writes);
  const released = writes.filter((w) => w.isReleased).map((w) => w.enrolmentId);
  if (released.length > 0) await announceReturned(db, courseId, itemId, released);
}

export const recordResult = (db: Db, courseId: string, itemId: string, enrolmentId: string, wish: ScoringWish): Promise<void> =>
  recordResults(db, courseId, itemId, [enrolmentId], wish);

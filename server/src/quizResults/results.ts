import type { AttemptLine, AttemptPaper, CorrectionView, QuizPerson, QuizResults } from '@rosemary/api';
import { type Membership, PERSON_KINDS, type QuestionKind } from '@rosemary/core';
import { titleOf } from '../bank/index.ts';
import { getPlanItem } from '../items/index.ts';
import { getQuiz } from '../kinds/quiz/index.ts';
import { type Db, maybe, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { type AttemptRow, countedOf, getStaffReview, listOwnAttempts } from '../quizTaking/index.ts';
import { listMarkers } from '../shares/index.ts';
import { listWhom } from './listWhom.ts';
import { listQuestionShares, reachesAnswer } from './questionShares.ts';
import { type Asking, requireAttempt } from './requireAttempt.ts';

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
  if (lines.some((l) => l.state === 'open')) return 'under way';
  const handed = lines.filter((l) => l.state === 'handed in');
  if (handed.length === 0) return lines.length === 0 ? 'not begun' : 'set aside';
  return handed.some((l) => l.score === null) ? 'waiting' : 'scored';
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
     where t.item_id = $1 and t.state = 'handed in' and e.withdrawn_at is null and not e.is_sample and (s.share is null or v.kind = any($2)) group by 1, 2, 3, 4 order by 2, 3`,
    [itemId, PERSON_KINDS],
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

import type { GivenAnswer, QuizStatistics } from '@rosemary/api';
import { itemFlags, itemStatistics, plainText, quantile, type QuestionKey, reliability, type StatisticAttempt } from '@rosemary/core';
import { titleOf } from '../bank/index.ts';
import { getPlanItem } from '../items/index.ts';
import { listSections, loadQuestions, questionsOf, type StoredPaper } from '../kinds/quiz/index.ts';
import { type Db, rows } from '../platform/database.ts';
import { listCorrections } from '../quizTaking/index.ts';

interface FirstRow {
  id: string;
  paper: StoredPaper;
  seconds: number;
  score: number;
}

interface CellRow {
  attempt_id: string;
  question_id: string;
  points: number;
  answer: GivenAnswer | null;
  seconds: number | null;
}

const median = (values: readonly number[]): number | null => quantile(values, 0.5);

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';

function optionsOf(key: QuestionKey): readonly { id: string; isRight: boolean; words: string }[] {
  return 'choices' in key ? key.choices.map((c) => ({ id: c.id, isRight: c.share > 0, words: plainText(c.words) })) : [];
}

const pickedOf = (answer: GivenAnswer | null): readonly string[] | null =>
  answer?.kind === 'choice' ? [answer.id] : answer?.kind === 'choices' ? answer.ids : [];

/** The order of questions a reader knows: as in the quiz, then those that were drawn. */
async function orderOf(
  db: Db,
  itemId: string,
  attempts: readonly FirstRow[],
): Promise<{ questionId: string; number: number; points: number }[]> {
  const fixed = (await listSections(db, itemId)).flatMap((s) => s.parts).flatMap((p) => p.question_id ?? []);
  const held = new Map(attempts.flatMap((a) => questionsOf(a.paper)).map((q) => [q.questionId, q]));
  return [...fixed.filter((id) => held.has(id)), ...[...held.keys()].filter((id) => !fixed.includes(id)).sort()].flatMap(
    (id) => held.get(id) ?? [],
  );
}

/** Figures of a quiz over everybody's first complete attempt. */
export async function getStatistics(db: Db, courseId: string, itemId: string, now: number): Promise<QuizStatistics> {
  const item = await getPlanItem(db, courseId, itemId, now);
  const attempts = await rows<FirstRow>(
    db,
    `select distinct on (t.enrolment_id) t.id, t.paper, extract(epoch from t.handed_in_at - t.begun_at)::int as seconds, (t.score * 1000)::int as score
     from quiz_attempt t join enrolment e on e.id = t.enrolment_id where t.item_id = $1 and t.state = 'handed in' and t.score is not null and not e.is_sample order by t.enrolment_id, t.number`,
    [itemId],
  );
  const order = await orderOf(db, itemId, attempts);
  const loaded = await loadQuestions(db, order);
  const corrections = await listCorrections(db, itemId);
  const keys = order.map((q) =>
    corrections.reduce<QuestionKey>((key, c) => (c.kind === 'key' && c.questionId === q.questionId ? c.key : key), loaded(q).content.key),
  );
  const cells = await rows<CellRow>(
    db,
    `select s.attempt_id, s.question_id, round(split_part(s.share, '/', 1)::numeric / split_part(s.share, '/', 2)::numeric * s.points, 6)::float8 as points, a.answer, a.seconds
     from quiz_score s left join quiz_answer a on a.attempt_id = s.attempt_id and a.question_id = s.question_id where s.attempt_id = any($1) and s.share is not null`,
    [attempts.map((a) => a.id)],
  );
  const cellOf = new Map(cells.map((c) => [`${c.attempt_id} ${c.question_id}`, c]));
  const rowsOf = attempts.map((a): StatisticAttempt => {
    const own = order.map((q) => cellOf.get(`${a.id} ${q.questionId}`));
    return {
      earned: own.map((c) => (c === undefined ? null : c.points)),
      picked: own.map((c) => (c === undefined ? null : pickedOf(c.answer))),
    };
  });
  const pointsOf = order.map(
    (q) =>
      corrections.reduce(
        (held, c) => (c.questionId !== q.questionId ? held : c.kind === 'points' ? c.points : c.kind === 'drop' ? 0 : held),
        q.points,
      ) / 1000,
  );
  const items = itemStatistics(
    order.map((q, n) => ({ id: q.questionId, points: pointsOf[n] ?? 0, options: optionsOf(keys[n] as QuestionKey) })),
    rowsOf,
  );
  const earned = rowsOf.map((a) => a.earned);
  const found = reliability(earned, pointsOf);
  const shared = pointsOf.filter((points, n) => points > 0 && earned.every((row) => row[n] !== null)).length;
  return {
    title: item.title,
    attempts: attempts.length,
    questions: items.map((figures, n) => {
      const q = order[n] as (typeof order)[number];
      const { title, plain } = loaded(q);
      const options = optionsOf(keys[n] as QuestionKey);
      const letters = Object.fromEntries(options.map((o, place) => [o.id, LETTERS.charAt(place)]));
      return {
        ...figures,
        number: n + 1,
        title: titleOf(title, plain),
        kind: (keys[n] as QuestionKey).kind,
        points: q.points,
        letters,
        optionWords: Object.fromEntries(options.map((o) => [o.id, o.words])),
        medianSeconds: median(cells.filter((c) => c.question_id === q.questionId && (c.seconds ?? 0) > 0).map((c) => c.seconds ?? 0)),
        flags: itemFlags(figures, (id) => letters[id] ?? '?'),
        version: q.number,
      };
    }),
    reliability: found,
    whyNoReliability: found !== null ? '' : whyNone(attempts.length, order.length, shared),
    scores: attempts.map((a) => a.score),
    possible: item.possible,
    medianMinutes: attempts.length === 0 ? null : Math.round((median(attempts.map((a) => a.seconds)) ?? 0) / 60),
  };
}

function whyNone(attempts: number, questions: number, shared: number): string {
  if (attempts < 3) return 'Fewer than three attempts are scored, so reliability cannot be told.';
  if (questions < 2) return 'One question alone has no reliability.';
  return shared >= 2
    ? 'Scores do not differ, so reliability cannot be told.'
    : 'Fewer than two questions were in everybody’s paper, so there is no one reliability.';
}

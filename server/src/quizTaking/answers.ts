import { type AnswerKept, type AnswerSave, checkWork, type GivenAnswer } from '@rosemary/api';
import { fitsQuestion, meetAnswer, type Membership, ON_THE_WAY_MS, type QuestionKind } from '@rosemary/core';
import { soundAnswer } from '../bank/index.ts';
import { questionsOf, type StoredPaper } from '../kinds/quiz/index.ts';
import { type Db, maybe, often, run } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import type { AttemptRow } from './attemptRows.ts';

interface SaveRow {
  enrolment_id: string;
  state: AttemptRow['state'];
  ends_at: Date | null;
  /** Of the question, as the paper has it; null where it is not in it. */
  kind: QuestionKind | null;
  may_go_back: boolean;
  answer: GivenAnswer | null;
  is_flagged: boolean | null;
  version: number | null;
  device: string | null;
  turn: number | null;
  saved_at: Date | null;
}

/** What is kept as an answer can be shown and marked as one: it is of the question's kind, and its words are such as may be handed in. */
function requireFitting(kind: QuestionKind, answer: GivenAnswer | null): void {
  if (!fitsQuestion(kind, answer)) throw invalid('answer', 'This is no answer to a question of its kind. Load the page again.');
  const check = answer?.kind === 'work' && (answer.document ?? null) !== null ? checkWork(answer.document) : null;
  if (check?.ok === false) throw invalid('answer', check.reason);
}

/** A file of an answer is one that its student sent. */
async function requireOwnFile(db: Db, enrolmentId: string, answer: GivenAnswer | null): Promise<void> {
  if (answer?.kind !== 'work' || (answer.fileId ?? null) === null) return;
  const own = await maybe(
    db,
    'select 1 as one from file f join enrolment e on e.person_id = f.owner_id and e.course_id = f.course_id where f.id = $1 and e.id = $2',
    [answer.fileId, enrolmentId],
  );
  if (own === null) throw invalid('answer', 'The file of this answer is not here. Add it again.');
}

/** Where one may not go back, what stands before a question that was answered is left for good. */
async function requireNotLeft(db: Db, target: { readonly attemptId: string; readonly questionId: string }): Promise<void> {
  const row = await maybe<{ paper: StoredPaper; answered: string[] }>(
    db,
    "select t.paper, coalesce((select array_agg(a.question_id::text) from quiz_answer a where a.attempt_id = t.id), '{}') as answered from quiz_attempt t where t.id = $1",
    [target.attemptId],
  );
  const order = row === null ? [] : questionsOf(row.paper).map((q) => q.questionId);
  const at = order.indexOf(target.questionId);
  if (row?.answered.some((id) => order.indexOf(id) > at) === true)
    throw new AppError('not-now', 'You have gone on from this question, and this quiz does not go back.');
}

/** Keeps an answer that came after time where staff find it; it counts for nothing unless they take it. */
async function keepLate(db: Db, attemptId: string, questionId: string, body: AnswerSave, now: number): Promise<void> {
  await run(
    db,
    'insert into quiz_answer_event (attempt_id, question_id, answer, device, turn, at, is_late) values ($1, $2, $3, $4, $5, to_timestamp($6 / 1000.0), true)',
    [attemptId, questionId, JSON.stringify(soundAnswer(body.answer)), body.device, body.turn, now],
  );
}

async function readHeld(
  db: Db,
  target: { readonly itemId: string; readonly attemptId: string; readonly questionId: string },
): Promise<SaveRow | undefined> {
  const [held] = await often<SaveRow>(
    db,
    `select t.enrolment_id, t.state, t.ends_at,
       (select v.kind from question_version v where v.question_id = $3::uuid and v.number =
         (jsonb_path_query_first(t.paper, '$.sections[*].questions[*] ? (@.questionId == $id)', jsonb_build_object('id', $3::text)) ->> 'number')::int) as kind,
       coalesce((t.kept ->> 'mayGoBack')::boolean, z.may_go_back) as may_go_back, a.answer, a.is_flagged, a.version, a.device, a.turn, a.saved_at
     from quiz_attempt t join quiz z on z.item_id = t.item_id left join quiz_answer a on a.attempt_id = t.id and a.question_id = $3::uuid where t.id = $1 and t.item_id = $2`,
    [target.attemptId, target.itemId, target.questionId],
  );
  return held;
}

// The attempt is held open while the answer goes in, so that nothing is acknowledged after the hand-in; and the answer goes over the one
// that was read, or nowhere.
const SAVE_SQL = `
  with t as (select id from quiz_attempt where id = $1 and state = 'open' and (ends_at is null or ends_at >= to_timestamp($10 / 1000.0)) for share),
    kept as (
      insert into quiz_answer (attempt_id, question_id, answer, device, turn, saved_at, is_flagged, seconds) select $1, $2, $3, $4, $5, to_timestamp($6 / 1000.0), $7, $8 from t
      on conflict (attempt_id, question_id) do update set answer = excluded.answer, device = excluded.device, turn = excluded.turn, saved_at = excluded.saved_at,
        is_flagged = excluded.is_flagged, seconds = quiz_answer.seconds + excluded.seconds, version = quiz_answer.version + 1 where quiz_answer.version = $9 returning version),
    event as (insert into quiz_answer_event (attempt_id, question_id, answer, device, turn, at) select $1, $2, $3, $4, $5, to_timestamp($6 / 1000.0) from kept)
  select version from kept`;

const TRIES = 5;

/**
 * Saves one answer. It is acknowledged when it is committed, and only then. The server's clock decides whether it is in time; what comes
 * after it is kept beside, and said. Repeated and overtaken saves change nothing; a save of another window over an answer it has not seen
 * is a conflict, with what stands there. Each write is one statement: what happens between reading and writing makes it read again.
 */
export async function saveAnswer(
  db: Db,
  target: { readonly itemId: string; readonly attemptId: string; readonly questionId: string },
  member: Membership,
  body: AnswerSave,
  now: number,
): Promise<AnswerKept | { late: true }> {
  const answer = JSON.stringify(soundAnswer(body.answer));
  for (let n = 0; n < TRIES; n += 1) {
    const held = await readHeld(db, target);
    if (held === undefined || held.enrolment_id !== member.enrolmentId || held.kind === null) throw notFound();
    requireFitting(held.kind, body.answer);
    if (n === 0) await requireOwnFile(db, member.enrolmentId, body.answer);
    const isLate = held.state !== 'open' || (held.ends_at !== null && now > held.ends_at.getTime() + ON_THE_WAY_MS);
    const fate = meetAnswer(held.version === null ? null : { version: held.version, device: held.device ?? '', turn: held.turn ?? 0 }, {
      device: body.device,
      turn: body.turn,
      seen: body.seen,
    });
    if (fate === 'kept') return { version: held.version ?? 0, savedAt: held.saved_at?.toISOString() ?? '' };
    if (isLate) {
      await keepLate(db, target.attemptId, target.questionId, body, now);
      return { late: true };
    }
    if (!held.may_go_back) await requireNotLeft(db, target);
    if (fate === 'conflict')
      throw conflict({
        answer: held.answer,
        isFlagged: held.is_flagged ?? false,
        version: held.version,
        savedAt: held.saved_at?.toISOString() ?? '',
      });
    const { attemptId, questionId } = target;
    const [saved] = await often<{ version: number }>(db, SAVE_SQL, [
      ...[attemptId, questionId, answer, body.device, body.turn, now, body.isFlagged, body.seconds],
      ...[held.version ?? 0, now - ON_THE_WAY_MS],
    ]);
    if (saved !== undefined) return { version: saved.version, savedAt: new Date(now).toISOString() };
  }
  throw new AppError('database-away', 'This answer is being saved from several places at once. It is sent again by itself.');
}

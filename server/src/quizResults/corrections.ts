import type { CorrectableQuestion, NewCorrection, QuestionView } from '@rosemary/api';
import { type Actor, decimalText } from '@rosemary/core';
import { faultsOf, listVersions } from '../bank/index.ts';
import { loadQuestions } from '../kinds/quiz/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, invalid, notFound } from '../platform/errors.ts';
import { jobOf } from '../platform/jobs.ts';
import { listCorrections, scoreAttempts } from '../quizTaking/index.ts';

/** Marked again in one go at most; beyond it a job goes on, and the page says how far it is. */
export const MOST_AT_ONCE = 500;

async function requireUsed(db: Db, itemId: string, questionId: string): Promise<number> {
  const used = await maybe<{ number: number }>(
    db,
    `select (q ->> 'number')::int as number from quiz_attempt t, jsonb_array_elements(t.paper -> 'sections') s, jsonb_array_elements(s -> 'questions') q
     where t.item_id = $1 and q ->> 'questionId' = $2 limit 1`,
    [itemId, questionId],
  );
  if (used === null)
    throw new AppError('not-now', 'Nobody has had this question yet, so there is nothing to correct. Change the question itself.');
  return used.number;
}

/** A question in the version that was taken, its key as corrections have made it; and the newest of the bank, which may be taken over. */
export async function getCorrectable(db: Db, actor: Actor, itemId: string, questionId: string): Promise<CorrectableQuestion> {
  const number = await requireUsed(db, itemId, questionId);
  const taken = (await listVersions(db, actor, [{ id: questionId, number }])).get(questionId);
  if (taken === undefined) throw notFound();
  const key = (await listCorrections(db, itemId)).reduce(
    (held, c) => (c.kind === 'key' && c.questionId === questionId ? c.key : held),
    taken.key,
  );
  const newest =
    taken.newest > number ? await listVersions(db, actor, [{ id: questionId, number: taken.newest }]) : new Map<string, QuestionView>();
  const newer = newest.get(questionId);
  return { question: { ...taken, key }, newer: newer?.key.kind === key.kind ? newer : null };
}

/** Attempts that hold a question and are handed in. */
const ATTEMPTS = `select distinct t.id from quiz_attempt t join quiz_score s on s.attempt_id = t.id where t.item_id = $1 and s.question_id = $2 and t.state = 'handed in' order by t.id`;

/** Marks the attempts that hold a question again, with all corrections that hold now. */
export async function remark(
  db: Db,
  courseId: string,
  itemId: string,
  questionId: string,
  wish: { at: number; actorId: string; reason: string },
): Promise<number> {
  const found = await rows<{ id: string }>(db, ATTEMPTS, [itemId, questionId]);
  for (let n = 0; n < found.length; n += MOST_AT_ONCE)
    await scoreAttempts(
      db,
      courseId,
      itemId,
      found.slice(n, n + MOST_AT_ONCE).map((a) => a.id),
      { ...wish, onlyQuestion: questionId },
    );
  return found.length;
}

async function applyOrLeave(
  db: Db,
  courseId: string,
  itemId: string,
  correctionId: string,
  questionId: string,
  wish: { at: number; actorId: string; reason: string },
  isNow: boolean,
): Promise<boolean> {
  const many = (await maybe<{ many: number }>(db, `select count(*)::int as many from (${ATTEMPTS}) t`, [itemId, questionId]))?.many ?? 0;
  // The ripple is shown before anything is kept, so a rehearsal goes through with all of it at once.
  if (many > MOST_AT_ONCE && !isNow) return false;
  await remark(db, courseId, itemId, questionId, wish);
  await run(db, 'update quiz_correction set applied_at = to_timestamp($2 / 1000.0) where id = $1', [correctionId, wish.at]);
  return true;
}

/** Changes how a question is scored after it was taken; old attempts are marked again, at once or by the job. */
export async function correctQuestion(
  db: Db,
  courseId: string,
  itemId: string,
  body: NewCorrection,
  personId: string,
  now: number,
  isNow: boolean,
): Promise<{ id: string; isApplied: boolean }> {
  const number = await requireUsed(db, itemId, body.questionId);
  if (body.kind === 'key') {
    if (body.key === null) throw invalid('key', 'A corrected key is needed.');
    const { content } = (await loadQuestions(db, [{ questionId: body.questionId, number }]))({ questionId: body.questionId, number });
    if (content.key.kind !== body.key.kind)
      throw invalid('key', 'A correction keeps the kind of the question. Drop the question, or give everybody its points.');
    const faults = (await faultsOf([{ ...content, key: body.key }])).flat();
    if (faults.length > 0) throw invalid('key', faults.join(' '));
  }
  if (body.kind === 'points' && (body.points === null || body.points <= 0))
    throw invalid('points', 'Give it points, more than 0; to leave it out, drop it.');
  const made = await maybe<{ id: string }>(
    db,
    'insert into quiz_correction (item_id, question_id, kind, key, points, reason, made_by, made_at) values ($1, $2, $3, $4, $5, $6, $7, to_timestamp($8 / 1000.0)) returning id',
    [
      ...[itemId, body.questionId, body.kind, body.kind === 'key' ? JSON.stringify(body.key) : null],
      ...[body.kind === 'points' && body.points !== null ? decimalText(body.points) : null, body.reason, personId, now],
    ],
  );
  const id = made?.id ?? '';
  const isApplied = await applyOrLeave(
    db,
    courseId,
    itemId,
    id,
    body.questionId,
    { at: now, actorId: personId, reason: `key corrected: ${body.reason}` },
    isNow,
  );
  return { id, isApplied };
}

/** Takes a correction back, or lets it hold again; attempts are marked again either way. */
export async function setCorrectionUndone(
  db: Db,
  courseId: string,
  itemId: string,
  correctionId: string,
  personId: string,
  isUndone: boolean,
  now: number,
  isNow: boolean,
): Promise<void> {
  const row = await maybe<{ question_id: string; reason: string }>(
    db,
    `update quiz_correction set undone_at = case when $3 then to_timestamp($4 / 1000.0) end, undone_by = case when $3 then $5::uuid end, applied_at = null where id = $1 and item_id = $2 returning question_id, reason`,
    [correctionId, itemId, isUndone, now, personId],
  );
  if (row === null) throw notFound();
  const words = isUndone ? 'correction taken back' : 'key corrected';
  await applyOrLeave(
    db,
    courseId,
    itemId,
    correctionId,
    row.question_id,
    { at: now, actorId: personId, reason: `${words}: ${row.reason}` },
    isNow,
  );
}

interface LeftRow {
  readonly id: string;
  readonly item_id: string;
  readonly question_id: string;
  readonly course_id: string;
  readonly by: string;
  readonly reason: string;
  readonly is_undone: boolean;
}

/** Marks again what a correction has left for later. */
export const markAgain = jobOf<LeftRow>({
  name: 'mark-again',
  due: (db) =>
    rows<LeftRow>(
      db,
      `select c.id, c.item_id, c.question_id, i.course_id, coalesce(c.undone_by, c.made_by) as by, c.reason, c.undone_at is not null as is_undone
       from quiz_correction c join item i on i.id = c.item_id where c.applied_at is null order by c.place`,
    ),
  one: async (db, row, now) => {
    const waits = await maybe(db, 'select 1 as one from quiz_correction where id = $1 and applied_at is null for update', [row.id]);
    if (waits === null) return;
    const words = row.is_undone ? 'correction taken back' : 'key corrected';
    await remark(db, row.course_id, row.item_id, row.question_id, { at: now, actorId: row.by, reason: `${words}: ${row.reason}` });
    await run(db, 'update quiz_correction set applied_at = to_timestamp($2 / 1000.0) where id = $1', [row.id, now]);
  },
});

import { type GivenAnswer, paragraphs } from '@rosemary/api';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { readQuizDates, recordResult, scoreAttempts } from '../quizTaking/index.ts';
import type { FormRow } from './forms.ts';
import { pickedOf, sheetState, type StandingSheet } from './sheets.ts';

/** Answers that are written on the question paper wait for a person. */
const ON_PAPER: GivenAnswer = { kind: 'work', document: paragraphs('On the question paper.'), fileId: null };

function answerOf(row: FormRow, picked: readonly number[]): GivenAnswer | null {
  if (row.optionIds.length === 0) return ON_PAPER;
  const ids = picked.flatMap((n) => row.optionIds[n] ?? []);
  const [only] = ids;
  if (only === undefined) return null;
  return row.isMany || ids.length > 1 ? { kind: 'choices', ids } : { kind: 'choice', id: only };
}

interface Bringing {
  readonly db: Db;
  readonly courseId: string;
  readonly itemId: string;
  readonly personId: string;
  readonly now: number;
}

/** The attempt a sheet stands for: made when its result is first brought in. */
async function attemptOf(b: Bringing, sheet: StandingSheet, at: number): Promise<string> {
  const { db, itemId } = b;
  const known = await maybe<{ id: string }>(
    db,
    "update quiz_attempt set state = 'handed in', handed_in_at = coalesce(handed_in_at, to_timestamp($4 / 1000.0)), handed_in_how = 'paper', version = version + 1 where item_id = $1 and enrolment_id = $2 and idempotency_key = $3 returning id",
    [itemId, sheet.enrolmentId, `paper ${sheet.id}`, at],
  );
  if (known !== null) return known.id;
  const open = await maybe<{ name: string }>(
    db,
    `select p.given_name || ' ' || p.family_name as name from quiz_attempt t join enrolment e on e.id = t.enrolment_id join person p on p.id = e.person_id where t.item_id = $1 and t.enrolment_id = $2 and t.state = 'open'`,
    [itemId, sheet.enrolmentId],
  );
  if (open !== null) throw new AppError('not-now', `${open.name} is taking this test on screen. Hand that in first, under Results.`);
  const made = await maybe<{ id: string }>(
    db,
    `insert into quiz_attempt (item_id, enrolment_id, number, seed, paper, state, begun_at, handed_in_at, handed_in_how, idempotency_key)
     values ($1, $2, (select coalesce(max(number), 0) + 1 from quiz_attempt where item_id = $1 and enrolment_id = $2), $3, $4, 'handed in', to_timestamp($5 / 1000.0), to_timestamp($5 / 1000.0), 'paper', $6) returning id`,
    [itemId, sheet.enrolmentId, sheet.form.seed, JSON.stringify(sheet.form.paper), at, `paper ${sheet.id}`],
  );
  return made?.id ?? '';
}

/** Makes results of sheets that are ready: attempts handed in on paper, scored as any other, in the ledger. */
export async function bringIn(b: Bringing, sheets: readonly StandingSheet[]): Promise<number> {
  const { db, courseId, itemId, now } = b;
  const datesOf = await readQuizDates(db, courseId, itemId, now);
  // A sheet read after its student's due time was not handed in late: it was taken in the room.
  const takenAt = (enrolmentId: string): number => Math.min(now, datesOf(enrolmentId).due.at ?? now);
  const ready = sheets.filter((s) => s.enrolmentId !== null && ['ready', 'changed since'].includes(sheetState(s)));
  const attempts: string[] = [];
  for (const sheet of ready) attempts.push(await attemptOf(b, sheet, takenAt(sheet.enrolmentId ?? '')));
  const answers = ready.flatMap((sheet, n) =>
    sheet.form.rows.map((row, at) => ({
      attempt_id: attempts[n],
      device: `paper ${sheet.number}`,
      question_id: row.questionId,
      answer: answerOf(row, sheet.rows[at]?.picked ?? []),
    })),
  );
  const values = [JSON.stringify(answers), now];
  await run(
    db,
    `insert into quiz_answer (attempt_id, question_id, answer, device, turn, saved_at)
     select t.attempt_id, t.question_id, nullif(t.answer, 'null'), t.device, 1, to_timestamp($2 / 1000.0) from jsonb_to_recordset($1) as t(attempt_id uuid, device text, question_id uuid, answer jsonb)
     on conflict (attempt_id, question_id) do update set answer = excluded.answer, saved_at = excluded.saved_at, turn = quiz_answer.turn + 1, version = quiz_answer.version + 1 where quiz_answer.answer is distinct from excluded.answer`,
    values,
  );
  await run(
    db,
    `insert into quiz_answer_event (attempt_id, question_id, answer, device, turn, at)
     select t.attempt_id, t.question_id, nullif(t.answer, 'null'), t.device, 1, to_timestamp($2 / 1000.0) from jsonb_to_recordset($1) as t(attempt_id uuid, device text, question_id uuid, answer jsonb)`,
    values,
  );
  await run(db, 'update paper_sheet p set brought_in = t.picked from unnest($1::uuid[], $2::jsonb[]) as t(id, picked) where p.id = t.id', [
    ready.map((sheet) => sheet.id),
    ready.map((sheet) => JSON.stringify(pickedOf(sheet))),
  ]);
  await scoreAttempts(db, courseId, itemId, attempts, { at: now, actorId: b.personId, reason: 'read from paper' });
  return ready.length;
}

/** Takes results of sheets out again: their attempts are set aside, with the reason in their history. */
export async function takeBack(b: Bringing, sheets: readonly StandingSheet[]): Promise<number> {
  const { db, courseId, itemId, now } = b;
  const held = sheets.filter((s) => s.broughtIn !== null);
  const aside = await rows<{ id: string; enrolment_id: string }>(
    db,
    "update quiz_attempt set state = 'set aside', version = version + 1 where item_id = $1 and idempotency_key = any($2) and state = 'handed in' returning id, enrolment_id",
    [itemId, held.map((s) => `paper ${s.id}`)],
  );
  await run(
    db,
    "insert into quiz_attempt_event (attempt_id, action, detail, by_person, at) select unnest($1::uuid[]), 'set aside', 'the result of the sheet was taken back', $2, to_timestamp($3 / 1000.0)",
    [aside.map((a) => a.id), b.personId, now],
  );
  await run(db, 'update paper_sheet set brought_in = null where id = any($1)', [held.map((s) => s.id)]);
  for (const { enrolment_id: enrolmentId } of aside)
    await recordResult(db, courseId, itemId, enrolmentId, { at: now, actorId: b.personId, reason: 'the sheet was taken back' });
  return held.length;
}

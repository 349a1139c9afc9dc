import type { AnswersTableDone } from '@rosemary/api';
import { keyString, type Membership, readKeyString } from '@rosemary/core';
import { parse } from 'csv-parse/sync';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, invalid, notFound } from '../platform/errors.ts';
import { listWhom } from '../quizResults/index.ts';
import { getPaperTest, printSheets } from './forms.ts';
import { readStanding, type StandingSheet } from './sheets.ts';

interface Saying {
  readonly db: Db;
  readonly courseId: string;
  readonly itemId: string;
  readonly member: Membership;
  readonly personId: string;
  readonly now: number;
}

/** A sheet whose student a member of staff reaches; one that is nobody’s yet is everybody’s. */
export async function getReachedSheet(s: Saying, sheetId: string): Promise<StandingSheet> {
  const { sheets } = await readStanding(s.db, s.itemId);
  const sheet = sheets.find((one) => one.id === sheetId);
  const whom = await listWhom(s.db, s.courseId, s.itemId, s.member);
  if (sheet === undefined || (sheet.enrolmentId !== null && !whom.some((w) => w.id === sheet.enrolmentId))) throw notFound();
  return sheet;
}

async function say(s: Saying, sheet: StandingSheet, picked: ReadonlyMap<number, readonly number[]>): Promise<void> {
  const said = [...picked].map(([question, options]) => ({ question, picked: `{${options.join(',')}}` }));
  await run(
    s.db,
    `insert into paper_answer (sheet_id, question, picked, said_by, said_at) select $1, t.question, t.picked::int[], $3, to_timestamp($4 / 1000.0) from jsonb_to_recordset($2) as t(question int, picked text)
     on conflict (sheet_id, question) do update set picked = excluded.picked, said_by = excluded.said_by, said_at = excluded.said_at`,
    [sheet.id, JSON.stringify(said), s.personId, s.now],
  );
}

/** What a person says of one row; null gives it back to what was read. */
export async function sayRow(s: Saying, sheetId: string, question: number, picked: readonly number[] | null): Promise<void> {
  const sheet = await getReachedSheet(s, sheetId);
  const row = sheet.form.rows[question];
  if (row === undefined) throw notFound();
  const strange = picked?.find((n) => n >= row.optionIds.length);
  if (strange !== undefined)
    throw invalid(
      'picked',
      `Question ${question + 1} has ${row.optionIds.length} answers to choose from; there is no number ${strange + 1}.`,
    );
  if (picked === null) await run(s.db, 'delete from paper_answer where sheet_id = $1 and question = $2', [sheetId, question]);
  else await say(s, sheet, new Map([[question, [...new Set(picked)].sort((a, b) => a - b)]]));
}

/** All answers of a sheet as they are typed; nothing typed gives the sheet back to what was read. */
export async function sayAnswers(s: Saying, sheetId: string, text: string): Promise<void> {
  const sheet = await getReachedSheet(s, sheetId);
  if (text.trim() === '') {
    await run(s.db, 'delete from paper_answer where sheet_id = $1', [sheetId]);
    return;
  }
  const read = readKeyString(text, sheet.form.rows);
  if (!read.ok) throw invalid('answers', read.reason);
  await say(s, sheet, new Map(read.picked.map((picked, question) => [question, picked])));
}

/** Says whose a spare sheet is. */
export async function setOwner(s: Saying, sheetId: string, enrolmentId: string | null): Promise<void> {
  const sheet = await getReachedSheet(s, sheetId);
  if (sheet.broughtIn !== null) throw new AppError('not-now', 'The result of this sheet is in the gradebook. Take it back first.');
  const whom = await listWhom(s.db, s.courseId, s.itemId, s.member);
  if (enrolmentId !== null && !whom.some((w) => w.id === enrolmentId))
    throw invalid('enrolmentId', 'This test is not for the student chosen. Choose another.');
  if (enrolmentId !== null) {
    const other = await maybe<{ id: string; number: number }>(
      s.db,
      'select id, number from paper_sheet where item_id = $1 and enrolment_id = $2 and id <> $3',
      [s.itemId, enrolmentId, sheetId],
    );
    const { sheets } = await readStanding(s.db, s.itemId);
    const held = sheets.find((one) => one.id === other?.id);
    if (held !== undefined && (held.broughtIn !== null || held.rows.some((row) => row !== null)))
      throw new AppError('not-now', `There are answers on this student’s own sheet ${held.number}. Leave out its scan first.`);
    // The sheet that was printed for them was not used; it stays as a spare one.
    if (other !== null) await run(s.db, 'update paper_sheet set enrolment_id = null where id = $1', [other.id]);
  }
  await run(s.db, 'update paper_sheet set enrolment_id = $2 where id = $1', [sheetId, enrolmentId]);
}

const plain = (text: string): string => text.normalize('NFC').trim().toLowerCase();

/**
 * Answers as a table: the address of a student, then all answers in one column (“answers”) or one for each question. Each line is told
 * apart: a good one is taken, a bad one is named with its mend and changes nothing.
 */
export async function readAnswersTable(s: Saying, csv: string, isPreview: boolean): Promise<AnswersTableDone> {
  let lines: string[][];
  try {
    lines = parse(csv, { bom: true, relax_column_count: true, skip_empty_lines: true, trim: true, delimiter: [',', ';', '\t'] });
  } catch (error) {
    throw invalid('csv', `This table cannot be read: ${error instanceof Error ? error.message : ''}`);
  }
  const [head = [], ...body] = lines;
  if (plain(head[0] ?? '') !== 'email' || head.length < 2)
    throw invalid(
      'csv',
      `The first line names the columns: “email, answers”, or “email, 1, 2, 3…”. It reads “${head.join(', ').slice(0, 80)}”.`,
    );
  if ((await getPaperTest(s.db, s.itemId)).printedAt === null)
    throw new AppError('not-now', 'The sheets have not been made yet, and answers are kept on them. Make them first.');
  const whom = await listWhom(s.db, s.courseId, s.itemId, s.member);
  // Whoever joined since and has no sheet yet gets one.
  await printSheets(
    s.db,
    s.itemId,
    whom.map((w) => w.id),
    0,
    s.now,
  );
  const emails = await rows<{ id: string; email: string }>(
    s.db,
    'select e.id, p.email from enrolment e join person p on p.id = e.person_id where e.id = any($1)',
    [whom.map((w) => w.id)],
  );
  const idOf = new Map(emails.map((row) => [plain(row.email), row.id]));
  const nameOf = new Map(whom.map((w) => [w.id, `${w.family_name}, ${w.given_name}`]));
  const { sheets } = await readStanding(s.db, s.itemId);
  const done: { line: number; name: string; answers: string; problem: string }[] = [];
  const seen = new Set<string>();
  for (const [n, cells] of body.entries()) {
    const email = cells[0] ?? '';
    const enrolmentId = idOf.get(plain(email));
    const sheet = sheets.find((one) => one.enrolmentId === enrolmentId);
    const name = nameOf.get(enrolmentId ?? '') ?? email;
    const tell = (problem: string, answers = ''): void => {
      done.push({ line: n + 2, name, answers, problem });
    };
    if (enrolmentId === undefined || sheet === undefined) {
      tell(`No student of this test has the address “${email}”.`);
      continue;
    }
    if (seen.has(enrolmentId)) {
      tell('This student stands in the table twice; the first line counts.');
      continue;
    }
    seen.add(enrolmentId);
    const texts = cells.slice(1);
    const one =
      head.length === 2
        ? (texts[0] ?? '')
        : texts.map((t) => (t === '' ? '-' : t.length > 1 && !t.startsWith('(') ? `(${t})` : t)).join('');
    const read = readKeyString(one, sheet.form.rows);
    if (!read.ok) {
      tell(read.reason);
      continue;
    }
    if (!isPreview) await say(s, sheet, new Map(read.picked.map((picked, question) => [question, picked])));
    tell('', keyString(read.picked, sheet.form.rows));
  }
  return { rows: done };
}

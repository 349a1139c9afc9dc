import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import { newQuestion, validationOptions, type NewQuestion, type QuestionTableDone, type QuestionView } from '@rosemary/api';
import { plainText, QUESTION_COLUMNS, questionRow, readQuestionRow, type Actor, type FileAt } from '@rosemary/core';
import { parse } from 'csv-parse/sync';
import { randomUUID } from 'node:crypto';
import { unguarded, writeTable } from '../files/index.ts';
import { rows, run, type Db } from '../platform/database.ts';
import { AppError, invalid } from '../platform/errors.ts';
import { piece } from '../platform/piece.ts';
import { listFolders } from './folders.ts';
import { addQuestion, listWords, SAME_WORDS } from './questions.ts';
import { listFaults } from './keyVerdict.ts';

const MOST_ROWS = 500;

/** Questions as a table (docs/question-table.md), in UTF-8 with the mark that spreadsheets look for. */
export function writeQuestionTable(questions: readonly QuestionView[]): string {
  const lines = questions.map((q) => {
    const row = questionRow({ ...q, title: q.ownTitle, points: null });
    return QUESTION_COLUMNS.map((column) => row[column] ?? '');
  });
  return writeTable([QUESTION_COLUMNS, ...lines]);
}

/** Files that are named in a table and may be used by whoever brings it in: of this course, or of questions in folders they reach. */
async function filesNamed(db: Db, actor: Actor, courseId: string, csv: string): Promise<FileAt> {
  const ids = [...new Set([...csv.matchAll(/file:([0-9a-f-]{36})/g)].map((m) => m[1] ?? ''))];
  const folders = await listFolders(db, actor, false);
  const found = await rows<{ id: string; name: string; media_type: string }>(
    db,
    `select f.id, f.name, b.media_type from file f join file_blob b on b.sha256 = f.sha256 where f.id = any($1) and (f.course_id = $2
       or exists (select 1 from question_file qf join question q on q.id = qf.question_id where qf.file_id = f.id and q.folder_id = any($3)))`,
    [ids, courseId, folders.map((f) => f.id)],
  );
  const byId = new Map(
    found.map((f) => [f.id, { src: urlOf(api.getFile, { courseId, fileId: f.id }), name: f.name, mediaType: f.media_type }]),
  );
  return (fileId) => byId.get(fileId) ?? null;
}

function readLines(csv: string): { head: string[]; body: string[][] } {
  let lines: string[][];
  try {
    lines = parse(csv, { bom: true, relax_column_count: true, skip_empty_lines: true, delimiter: [',', ';', '\t'] });
  } catch (error) {
    throw invalid('csv', `This table cannot be read: ${error instanceof Error ? error.message : ''}`);
  }
  const [first = [], ...body] = lines;
  const head = first.map((column) => column.trim().toLowerCase());
  if (!head.includes('kind'))
    throw invalid('csv', `The first line names the columns: ${QUESTION_COLUMNS.join(', ')}. It reads “${first.join(', ').slice(0, 80)}”.`);
  if (body.length > MOST_ROWS) throw invalid('csv', `This table has ${body.length} questions; ${MOST_ROWS} are taken in at a time.`);
  return { head, body };
}

/**
 * Makes questions of a table, row by row: a row that is not understood is named with its mend and left out, and hinders no other. With
 * `isPreview` everything is done and taken back, so that what is said before is what happens after.
 */
export async function readQuestionTable(
  db: Db,
  actor: Actor,
  courseId: string,
  folderId: string,
  csv: string,
  isPreview: boolean,
  now: number,
): Promise<QuestionTableDone> {
  const { head, body } = readLines(csv);
  const fileAt = await filesNamed(db, actor, courseId, csv);
  const done: QuestionTableDone['rows'][number][] = [];
  const made = new Map<number, string>();
  const here = await listWords(db, folderId);
  if (isPreview) await run(db, 'savepoint looked');
  for (const [n, cells] of body.entries()) {
    const row = Object.fromEntries(head.map((column, k) => [column, unguarded(cells[k] ?? '')]));
    const read = readQuestionRow(row, randomUUID, fileAt);
    const base = { line: n + 2, kind: row.kind ?? '', title: (row.title || row.words || '').replace(/<[^>]*>/g, ' ').slice(0, 80) };
    if (!read.ok) {
      done.push({ ...base, problem: read.reason, notes: [] });
      continue;
    }
    const { title, level, tags, objectives, words, key, feedback, picture } = read.question;
    const { error, value } = newQuestion.validate({ title, level, tags, objectives, words, key, feedback, picture }, validationOptions);
    if (error !== undefined) {
      done.push({ ...base, problem: error.details.map((d) => d.message).join(' '), notes: [] });
      continue;
    }
    const result = await piece(db, () => addQuestion(db, actor, folderId, value as NewQuestion, now));
    if (!result.ok && !(result.error instanceof AppError)) throw result.error;
    if (result.ok) made.set(done.length, result.value);
    done.push(
      result.ok
        ? { ...base, problem: '', notes: [...read.problems, ...(here.has(plainText(words)) ? [SAME_WORDS] : [])] }
        : { ...base, problem: result.reason, notes: [] },
    );
  }
  const faults = await listFaults(db, [...made.values()]);
  if (isPreview) await run(db, 'rollback to savepoint looked');
  return { rows: done.map((row, n) => ({ ...row, notes: [...row.notes, ...(faults.get(made.get(n) ?? '') ?? [])] })) };
}

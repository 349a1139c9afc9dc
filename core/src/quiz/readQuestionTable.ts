import type { DocumentNode } from '../document/plainText.ts';
import { parsePoints } from '../exact/points.ts';
import type { FileAt } from './documentCell.ts';
import { KIND_WORDS } from './drawInWords.ts';
import { kindOfQuestion } from './kinds/kinds.ts';
import { documentOf, fail, Unread, type Reading } from './kinds/tableCells.ts';
import type { QuestionKind } from './question.ts';
import { QUESTION_COLUMNS, type QuestionRow, type TableQuestion } from './questionTable.ts';

const list = (text: string | undefined): string[] =>
  (text ?? '')
    .split(',')
    .map((w) => w.trim())
    .filter((w) => w !== '');
const LEVELS = ['easy', 'medium', 'hard'] as const;

export type QuestionRowRead =
  | { readonly ok: true; readonly question: TableQuestion; readonly problems: readonly string[] }
  | { readonly ok: false; readonly reason: string };

/**
 * Reads a row that {@link questionRow} wrote, or a teacher. Columns that are not there are empty; what is not understood is named by its
 * column, its text and the mend, and nothing is made of the row. `newId` gives identifiers; `fileAt` finds a file that is named.
 * Worked example: kind “short”, answers “100: pallet” is a short text that takes “pallet”.
 */
export function readQuestionRow(row: QuestionRow, newId: () => string, fileAt: FileAt): QuestionRowRead {
  const kind = (row.kind ?? '').trim() as QuestionKind;
  if (!(kind in KIND_WORDS)) return { ok: false, reason: `kind: “${kind}” is none. There are: ${Object.keys(KIND_WORDS).join(', ')}.` };
  const strange = Object.keys(row).find((column) => !(QUESTION_COLUMNS as readonly string[]).includes(column));
  if (strange !== undefined) return { ok: false, reason: `There is no column “${strange}”. There are: ${QUESTION_COLUMNS.join(', ')}.` };
  const lines = (row.answers ?? '')
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '');
  const rules = (row.rules ?? '')
    .split(';')
    .map((rule) => rule.trim())
    .filter((rule) => rule !== '');
  const reading: Reading = { kind, lines, rules, newId, fileAt, problems: [] };
  try {
    const level = LEVELS.find((l) => l === (row.level ?? '').trim()) ?? null;
    if (level === null && (row.level ?? '').trim() !== '') fail('level', row.level ?? '', `is none of ${LEVELS.join(', ')}.`);
    const points = (row.points ?? '').trim() === '' ? null : parsePoints(row.points ?? '');
    if (points !== null && !points.ok) fail('points', row.points ?? '', 'is no number of points.');
    const { key, placeOf, picture = null } = kindOfQuestion(kind).read(reading);
    const said = (text: string | undefined): DocumentNode | null => ((text ?? '') === '' ? null : documentOf(reading, text ?? ''));
    const question: TableQuestion = {
      ...{ title: (row.title ?? '').trim(), level, tags: list(row.tags), objectives: list(row.objectives) },
      points: points?.ok === true ? points.value : null,
      words: documentOf(reading, row.words ?? '', placeOf),
      feedback: { right: said(row.right), wrong: said(row.wrong), general: said(row.always) },
      ...{ key, picture },
    };
    return { ok: true, question, problems: reading.problems };
  } catch (error) {
    if (error instanceof Unread) return { ok: false, reason: error.message };
    throw error;
  }
}

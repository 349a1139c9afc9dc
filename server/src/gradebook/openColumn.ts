import type { CellWords, ColumnView, CurveChange } from '@rosemary/api';
import { classStatistics, curveFault, curveInWords, decimalText, type Exact, meanShift } from '@rosemary/core';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { conflict, invalid, notFound } from '../platform/errors.ts';
import { cellFor } from './cells.ts';
import type { CourseFacts, FactColumn } from './factTypes.ts';

function findColumn(facts: CourseFacts, columnId: string): FactColumn {
  const column = facts.columns.find((c) => c.id === columnId && !c.isDraft);
  if (column === undefined) throw notFound();
  return column;
}

/** Finished marks as they were given; sample students are in no facts of a class. */
const marksOf = (facts: CourseFacts, column: FactColumn): number[] =>
  facts.people.flatMap((person) => {
    const grade = facts.grades.get(column.id, person.enrolmentId);
    return grade?.state === 'scored' && grade.raw !== null ? [grade.raw] : [];
  });

export function columnView(facts: CourseFacts, columnId: string, now: number): ColumnView {
  const column = findColumn(facts, columnId);
  const cells = facts.people.map((person) => ({ person, cell: cellFor(facts, column, person, now, false) }));
  const results = cells.flatMap(({ cell }): Exact[] => (cell.state === 'marked' && cell.result !== null ? [cell.result] : []));
  const { curve } = column;
  return {
    id: column.id,
    title: column.title,
    possible: column.possible,
    curve: curve === null ? null : { kind: curve.kind, amount: curve.amount, isCapped: curve.isCapped },
    curveWords: curve === null ? null : curveInWords(curve, column.possible),
    marks: marksOf(facts, column),
    statistics: classStatistics(results),
    missing: cells.filter(({ cell }) => cell.state === 'missing').map(({ person }) => person.personId),
    unreleased: cells.filter(({ cell }) => cell.state === 'marked' && !cell.isReleased).length,
    isShownToStudents: column.showsStatistics,
  };
}

/**
 * Sets the curve of a column, or takes it away. What a mean needs is worked out now, from the marks that are finished now: a mark that comes
 * later moves nobody else by it.
 */
export async function setCurve(db: Db, facts: CourseFacts, columnId: string, change: CurveChange): Promise<{ before: CurveChange }> {
  const column = findColumn(facts, columnId);
  const before = column.curve === null ? null : { kind: column.curve.kind, amount: column.curve.amount, isCapped: column.curve.isCapped };
  await run(db, 'delete from column_curve where column_id = $1', [columnId]);
  const { curve } = change;
  if (curve === null) return { before: { curve: before } };
  const marks = marksOf(facts, column);
  const fault = curveFault(curve, column.possible, marks.length);
  if (fault !== null) throw invalid('amount', fault);
  const shift = curve.kind === 'mean' ? meanShift(marks, curve.amount ?? 0) : null;
  await run(
    db,
    'insert into column_curve (column_id, kind, amount, is_capped, shift_top, shift_bottom, shift_marks) values ($1, $2, $3, $4, $5, $6, $7)',
    [
      columnId,
      curve.kind,
      curve.kind === 'root' ? null : decimalText(curve.amount ?? 0),
      curve.isCapped,
      shift === null ? null : String(shift.s * shift.n),
      shift === null ? null : String(shift.d),
      shift === null ? null : marks.length,
    ],
  );
  return { before: { curve: before } };
}

/** Words on a cell; empty where nobody has written any. */
export async function findCellWords(db: Db, columnId: string, enrolmentId: string): Promise<CellWords> {
  const found = await maybe<CellWords & Record<string, unknown>>(
    db,
    'select memo, comment, version from cell_words where column_id = $1 and enrolment_id = $2',
    [columnId, enrolmentId],
  );
  return found ?? { memo: '', comment: '', version: 0 };
}

/** What was written for a student with their results, by column. */
export async function listComments(db: Db, enrolmentId: string): Promise<ReadonlyMap<string, string>> {
  const found = await rows<{ column_id: string; comment: string }>(
    db,
    "select column_id, comment from cell_words where enrolment_id = $1 and comment <> ''",
    [enrolmentId],
  );
  return new Map(found.map((row) => [row.column_id, row.comment]));
}

export async function saveCellWords(
  db: Db,
  at: { readonly column: FactColumn; readonly enrolmentId: string },
  words: CellWords,
  actorId: string,
  now: number,
): Promise<{ version: number }> {
  const { column, enrolmentId } = at;
  const changed = await maybe<{ version: number }>(
    db,
    `insert into cell_words (column_id, enrolment_id, memo, comment, changed_by, changed_at) select $1, $2, $3, $4, $5, to_timestamp($6 / 1000.0) where $7 = 0
     on conflict do nothing returning version`,
    [column.id, enrolmentId, words.memo, words.comment, actorId, now, words.version],
  );
  const saved =
    changed ??
    (await maybe<{ version: number }>(
      db,
      `update cell_words set memo = $3, comment = $4, changed_by = $5, changed_at = to_timestamp($6 / 1000.0), version = version + 1
       where column_id = $1 and enrolment_id = $2 and version = $7 returning version`,
      [column.id, enrolmentId, words.memo, words.comment, actorId, now, words.version],
    ));
  if (saved === null) throw conflict(await findCellWords(db, column.id, enrolmentId));
  return { version: saved.version };
}

import type { BookCell, BookRow } from '@rosemary/api';
import type { Column } from './columns.ts';
import type { Highlight, RowState } from './gridChoice.ts';
import { heldCell } from './heldCell.ts';

const isBelow = (percent: number, pass: number | null): boolean => pass !== null && percent * 1000 < pass;
const isIn: { readonly [state in Exclude<RowState, 'failing'>]: (cell: BookCell) => boolean } = {
  missing: (cell) => cell[0] === 'missing',
  waiting: (cell) => cell[5] === 1,
  unreleased: (cell) => cell[0] === 'marked' && cell[2] === 0,
  late: (cell) => cell[3] === 1,
  exempt: (cell) => cell[0] === 'exempt',
};

/** Whether somebody is among those that are looked for: by the columns that are shown, or by the total. */
export function isRowShown(row: BookRow, columns: readonly Column[], state: RowState | null, pass: number | null): boolean {
  if (state === null) return true;
  if (state === 'failing') return row.totals.soFar !== null && isBelow(Number(row.totals.soFar), pass);
  return columns.some((column) => {
    const cell = column.kind === 'graded' ? heldCell(row, column.place) : null;
    return cell !== null && isIn[state](cell);
  });
}

/** What of a cell is highlighted; null where nothing that was chosen is. */
export function highlightOf(
  row: BookRow,
  column: Column,
  chosen: readonly Highlight[],
  pass: number | null,
  changed: ReadonlySet<string>,
): Highlight | null {
  if (column.kind === 'soFar')
    return chosen.includes('failing') && row.totals.soFar !== null && isBelow(Number(row.totals.soFar), pass) ? 'failing' : null;
  const cell = column.kind === 'graded' ? heldCell(row, column.place) : null;
  if (column.columnId !== null && chosen.includes('changed') && changed.has(`${column.columnId} ${row.enrolmentId}`)) return 'changed';
  if (cell === null) return null;
  if (chosen.includes('missing') && cell[0] === 'missing') return 'missing';
  if (chosen.includes('late') && cell[3] === 1) return 'late';
  const isFailing =
    chosen.includes('failing') &&
    cell[0] === 'marked' &&
    column.possible > 0 &&
    isBelow((Number.parseFloat(cell[1]) * 100_000) / column.possible, pass);
  return isFailing ? 'failing' : null;
}

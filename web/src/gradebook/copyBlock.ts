import type { BookRow } from '@rosemary/api';
import { formatPoints } from '@rosemary/core';
import type { Column } from './columns.ts';
import { heldCell, isOutside } from './heldCell.ts';
import type { CellBlock } from './useGridCursor.ts';

/** A cell as a spreadsheet takes it: its number or its word, as it would be typed again. */
function textOf(row: BookRow, column: Column | undefined): string {
  if (column === undefined) return '';
  if (column.kind === 'subtotal') return row.subtotals[column.place] ?? '';
  if (column.kind === 'period') return row.periods[column.place] ?? '';
  if (column.kind === 'soFar') return row.totals.soFar ?? '';
  if (column.kind === 'range') return row.totals.floor === null ? '' : `${row.totals.floor}–${row.totals.reach}`;
  const given = isOutside(row, column.place) ? null : (heldCell(row, column.place)?.[6] ?? null);
  return given === null ? '' : typeof given === 'number' ? formatPoints(given) : given;
}

/** A block of cells as every spreadsheet reads it: tabs between columns, lines between rows. */
export function copyBlock(rows: readonly BookRow[], columns: readonly Column[], { top, bottom, left, right }: CellBlock): string {
  return rows
    .slice(top, bottom + 1)
    .map((row) =>
      columns
        .slice(left, right + 1)
        .map((column) => textOf(row, column))
        .join('\t'),
    )
    .join('\n');
}

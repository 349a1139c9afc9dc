import type { BookCell, BookRow } from '@rosemary/api';

/** What stands in a cell of a student; null where nothing does. `place` is that of the column in the book. */
export function heldCell(row: BookRow, place: number): BookCell | null {
  const cell = row.cells[place];
  return cell === undefined || cell === 0 ? null : cell;
}
/** Whether a column is not for a student. */
export const isOutside = (row: BookRow, place: number): boolean => heldCell(row, place)?.[0] === 'outside';
/** The last event of a cell, which a write names as the one that was seen. */
export const seenEvent = (row: BookRow, place: number): string | null => heldCell(row, place)?.[4] ?? null;

import type { BookRow, Gradebook } from '@rosemary/api';
import type { CellTarget } from '@rosemary/core';
import { heldCell, isOutside } from './heldCell.ts';

/** What can be written to the cell of a student in a column of the book. */
export function cellTarget(book: Pick<Gradebook, 'columns' | 'levels'>, row: BookRow, place: number): CellTarget {
  const column = book.columns[place];
  return {
    possible: column?.possible ?? 0,
    given: heldCell(row, place)?.[6] ?? null,
    closed: isOutside(row, place) ? `“${column?.title ?? ''}” is not for ${row.givenName} ${row.familyName}.` : null,
    levels: column?.takesLetters === true ? book.levels : [],
  };
}

import type { BookColumn, BookRow, Gradebook } from '@rosemary/api';
import type { CellTarget, SchemeLevel } from '@rosemary/core';
import { heldCell, isOutside } from './heldCell.ts';

/** The letters that can be typed into a column: its own or those of the course, where its results are read as letters. */
export const typedLevels = (book: Pick<Gradebook, 'levels'>, column: BookColumn | null | undefined): readonly SchemeLevel[] =>
  column?.takesLetters === true ? (column.ownLevels ?? book.levels) : [];

/** What can be written to the cell of a student in a column of the book. */
export function cellTarget(book: Pick<Gradebook, 'columns' | 'levels'>, row: BookRow, place: number): CellTarget {
  const column = book.columns[place];
  return {
    possible: column?.possible ?? 0,
    given: heldCell(row, place)?.[6] ?? null,
    closed: isOutside(row, place) ? `“${column?.title ?? ''}” is not for ${row.givenName} ${row.familyName}.` : null,
    levels: typedLevels(book, column),
  };
}

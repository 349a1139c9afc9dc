import type { BookRow, Gradebook } from '@rosemary/api';
import { formatPoints, type CellTarget, type PlannedCell } from '@rosemary/core';
import { shallowRef, type Ref } from 'vue';
import { cellTarget } from './cellTarget.ts';
import type { Column } from './columns.ts';
import type { CellBlock } from './useGridCursor.ts';

/** A cell of what is pasted or filled, with whose it is. */
export interface BlockCellPlan extends PlannedCell {
  readonly who: BookRow;
  readonly what: Pick<Column, 'columnId' | 'place' | 'title'>;
}

/** What would be pasted or filled, to be seen before it is done. */
export interface BlockWish {
  readonly how: 'paste' | 'fill' | 'import';
  readonly title: string;
  readonly cells: readonly BlockCellPlan[];
  readonly same: number;
  readonly outside: string;
}

const NOT_WRITTEN = 'This number is worked out from the results, so nothing is written to it.';

/** What is pasted into the grid or filled in it: planned cell by cell, shown in `wish`, and written only from there. */
export function useBlock(
  rows: Ref<readonly BookRow[]>,
  columns: Ref<readonly Column[]>,
  book: Ref<Gradebook | null>,
  writeOne: (cell: { row: BookRow; column: Column }, text: string) => void,
) {
  const wish = shallowRef<BlockWish | null>(null);
  function targetOf(r: number, c: number): CellTarget {
    const [row, column] = [rows.value[r], columns.value[c]];
    return row === undefined || column?.kind !== 'graded' || book.value === null
      ? { possible: 0, given: null, closed: NOT_WRITTEN }
      : cellTarget(book.value, row, column.place);
  }
  const named = (cells: readonly PlannedCell[]): BlockCellPlan[] =>
    cells.flatMap((cell) => {
      const [who, what] = [rows.value[cell.row], columns.value[cell.column]];
      return who === undefined || what === undefined ? [] : [{ ...cell, who, what }];
    });
  async function plan(block: readonly (readonly string[])[], place: CellBlock, how: BlockWish['how'], title: string): Promise<void> {
    const { planBlock } = await import('./blockCore.ts');
    const limits = { rows: rows.value.length, columns: columns.value.length };
    const planned = planBlock(block, { ...limits, ...place }, targetOf);
    wish.value = { how, title, cells: named(planned.cells), same: planned.same, outside: planned.outside };
  }
  /** One value into one cell is written as if it were typed; anything more is seen first. */
  async function paste(text: string, place: CellBlock): Promise<void> {
    const { readBlock } = await import('./blockCore.ts');
    const block = readBlock(text);
    const [row, column] = [rows.value[place.top], columns.value[place.left]];
    const isOne = block.length === 1 && block[0]?.length === 1 && place.top === place.bottom && place.left === place.right;
    if (isOne && row !== undefined && column?.kind === 'graded') writeOne({ row, column }, block[0]?.[0] ?? '');
    else await plan(block, place, 'paste', 'Paste into the gradebook');
  }
  const typed = (r: number, c: number): string => {
    const { given } = targetOf(r, c);
    return given === null ? '' : typeof given === 'number' ? formatPoints(given) : given;
  };
  /** What stands in the first row of what is chosen, down to its last. */
  async function fillDown(place: CellBlock): Promise<void> {
    if (place.top === place.bottom) return;
    const first = Array.from({ length: place.right - place.left + 1 }, (_, n) => typed(place.top, place.left + n));
    await plan([first], { ...place, top: place.top + 1 }, 'fill', 'Fill down');
  }
  /** One value into a column: into the cells without a result, or into all. */
  async function fillColumn(column: Column, text: string, isOnlyEmpty: boolean): Promise<void> {
    const { planBlock } = await import('./blockCore.ts');
    const c = columns.value.findIndex((one) => one.key === column.key);
    const planned = planBlock(
      [[text]],
      { rows: rows.value.length, columns: columns.value.length, top: 0, left: c, bottom: rows.value.length - 1, right: c },
      targetOf,
    );
    // Whoever the column is not for is not among those whom it is filled for.
    const cells = named(planned.cells).filter(({ row }) => {
      const target = targetOf(row, c);
      return target.closed === null && (!isOnlyEmpty || target.given === null);
    });
    wish.value = { how: 'fill', title: `Fill “${column.title}”`, cells, same: planned.same, outside: '' };
  }
  return { wish, paste, fillDown, fillColumn };
}

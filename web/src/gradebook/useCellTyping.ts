import type { BookRow } from '@rosemary/api';
import { formatPoints, readCellText, type CellWish, type SchemeLevel } from '@rosemary/core';
import { ref, type Ref } from 'vue';
import { useNotices } from '../stores/noticeStore.ts';
import type { Column } from './columns.ts';
import { heldCell, isOutside } from './heldCell.ts';

interface Cell {
  readonly row: BookRow;
  readonly column: Column;
}

/** What is being typed into the chosen cell, from the first letter until it is kept or left. */
export function useCellTyping(
  chosen: Ref<Cell | null>,
  levelsOf: (column: Column) => readonly SchemeLevel[],
  canEdit: Ref<boolean>,
  write: (cell: Cell, wish: CellWish) => void,
) {
  const notices = useNotices();
  const text = ref<string | null>(null);
  const fault = ref('');
  /** What the field held when it was opened: leaving it unchanged writes nothing. */
  let opened = '';

  function leave(): void {
    text.value = null;
    fault.value = '';
  }
  /** Begins to type: over what is there, or with it. False where the cell takes nothing. */
  function start(first: string | null): boolean {
    const cell = chosen.value;
    if (!canEdit.value || cell?.column.kind !== 'graded') return false;
    if (isOutside(cell.row, cell.column.place)) {
      notices.say(`“${cell.column.title}” is not for ${cell.row.givenName}. Change in the Plan who it is for.`, null);
      return false;
    }
    const given = heldCell(cell.row, cell.column.place)?.[6] ?? null;
    opened = given === null ? '' : typeof given === 'number' ? formatPoints(given) : given;
    text.value = first ?? opened;
    return true;
  }
  /** Keeps what was typed and lets the hand go on at once; false where it cannot be read, and stays to be mended. */
  function keep(): boolean {
    const cell = chosen.value;
    if (text.value === null || cell?.column.kind !== 'graded') return true;
    if (text.value === opened) {
      leave();
      return true;
    }
    const read = readCellText(text.value, cell.column.possible, levelsOf(cell.column));
    if (!read.ok) {
      fault.value = read.reason;
      return false;
    }
    leave();
    write(cell, read.wish);
    return true;
  }
  const retype = (next: string): void => {
    text.value = next;
  };
  return { text, fault, start, retype, keep, leave };
}

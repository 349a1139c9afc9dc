import { computed, nextTick, ref, watch, type Ref } from 'vue';

export interface CellPlace {
  readonly row: number;
  readonly column: number;
}
/** A block of cells by the numbers of its first and last row and column. */
export interface CellBlock {
  readonly top: number;
  readonly bottom: number;
  readonly left: number;
  readonly right: number;
}

/**
 * Which cell is chosen, and the block that was drawn out from it. `limits` counts rows and columns; `reveal` brings a cell into view,
 * which may be far outside of what is drawn.
 */
export function useGridCursor(limits: () => { readonly rows: number; readonly columns: number }, reveal: (place: CellPlace) => void) {
  const at = ref<CellPlace | null>(null);
  /** Where a block began; null where one cell alone is chosen. */
  const anchor = ref<CellPlace | null>(null);
  const block = computed((): CellBlock | null => {
    const [a, b] = [at.value, anchor.value ?? at.value];
    if (a === null || b === null) return null;
    return {
      top: Math.min(a.row, b.row),
      bottom: Math.max(a.row, b.row),
      left: Math.min(a.column, b.column),
      right: Math.max(a.column, b.column),
    };
  });
  const within = (value: number, many: number): number => Math.min(many - 1, Math.max(0, value));

  /** Chooses a cell; drawing out keeps where the block began. */
  function choose(place: CellPlace, isDrawnOut = false): void {
    const { rows, columns } = limits();
    if (rows === 0 || columns === 0) return;
    anchor.value = isDrawnOut ? (anchor.value ?? at.value) : null;
    at.value = { row: within(place.row, rows), column: within(place.column, columns) };
  }
  function goTo(row: number, column: number, isDrawnOut = false): void {
    choose({ row, column }, isDrawnOut);
    const { value } = at;
    if (value === null) return;
    reveal(value);
    void nextTick(() => {
      reveal(value);
    });
  }
  const move = (rows: number, columns: number, isDrawnOut = false): void => {
    if (at.value !== null) goTo(at.value.row + rows, at.value.column + columns, isDrawnOut);
  };
  const isChosen = (row: number, column: number): boolean => at.value?.row === row && at.value.column === column;
  /**
   * Whoever is chosen stays chosen while rows and columns change under the hand. It is asked when they change, not when they are asked
   * for: one goes on to another cell while an answer is on its way.
   */
  function follow(rows: Ref<readonly { readonly enrolmentId: string }[]>, columns: Ref<readonly { readonly key: string }[]>): void {
    watch([rows, columns], ([nowRows, nowColumns], [oldRows, oldColumns]) => {
      if (at.value === null) return;
      const [who, what] = [oldRows[at.value.row]?.enrolmentId, oldColumns[at.value.column]?.key];
      const next = { row: nowRows.findIndex((r) => r.enrolmentId === who), column: nowColumns.findIndex((c) => c.key === what) };
      if (next.row < 0 || next.column < 0) at.value = null;
      else if (next.row !== at.value.row || next.column !== at.value.column) goTo(next.row, next.column);
    });
  }
  return { at, anchor, block, choose, goTo, move, isChosen, follow };
}

/** The keys that go from cell to cell, as the numbers of rows and columns to go: with Ctrl to the edge of the grid. */
export function stepOf(
  event: KeyboardEvent,
  limits: { readonly rows: number; readonly columns: number },
): readonly [number, number] | null {
  const { rows, columns } = limits;
  const isFar = event.ctrlKey || event.metaKey;
  switch (event.key) {
    case 'ArrowDown':
      return [isFar ? rows : 1, 0];
    case 'ArrowUp':
      return [isFar ? -rows : -1, 0];
    case 'ArrowRight':
      return [0, isFar ? columns : 1];
    case 'ArrowLeft':
      return [0, isFar ? -columns : -1];
    case 'PageDown':
      return [20, 0];
    case 'PageUp':
      return [-20, 0];
    case 'Home':
      return [isFar ? -rows : 0, -columns];
    case 'End':
      return [isFar ? rows : 0, columns];
    default:
      return null;
  }
}

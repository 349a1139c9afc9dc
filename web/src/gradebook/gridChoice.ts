import type { COLUMN_ORDERS, HIGHLIGHTS, ROW_STATES } from './gridWords.ts';

export type ColumnOrder = keyof typeof COLUMN_ORDERS;
export type RowState = keyof typeof ROW_STATES;
export type Highlight = keyof typeof HIGHLIGHTS;

/** How somebody has the grid of a course before them; it is the same when they come again. */
export interface GridChoice {
  readonly order: ColumnOrder;
  /** Columns by identifier, as far as they were put in an order by hand; new ones come after them. */
  readonly own: readonly string[];
  readonly nameBy: 'family' | 'given';
  readonly categoryId: string | null;
  readonly periodId: string | null;
  readonly groupId: string | null;
  readonly state: RowState | null;
  readonly highlights: readonly Highlight[];
  /** The instant from which changes are highlighted. */
  readonly changedSince: string | null;
  readonly isCompact: boolean;
  readonly showsInspector: boolean;
}
export const FIRST_CHOICE: GridChoice = {
  order: 'category',
  own: [],
  nameBy: 'family',
  categoryId: null,
  periodId: null,
  groupId: null,
  state: null,
  highlights: [],
  changedSince: null,
  isCompact: false,
  showsInspector: true,
};

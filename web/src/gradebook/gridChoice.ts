import type { BookCell, BookRow, Gradebook } from '@rosemary/api';
import type { Column } from './columns.ts';

export const COLUMN_ORDERS = {
  category: 'by category',
  plan: 'as in the Plan',
  due: 'by due date',
  made: 'by when they were made',
  own: 'in my own order',
} as const;
export type ColumnOrder = keyof typeof COLUMN_ORDERS;

export const ROW_STATES = {
  missing: 'have something missing',
  waiting: 'have work that waits for a mark',
  unreleased: 'have a result not yet released',
  late: 'handed something in late',
  exempt: 'are exempt somewhere',
  failing: 'stand below the pass mark',
} as const;
export type RowState = keyof typeof ROW_STATES;

export const HIGHLIGHTS = { late: 'late', missing: 'missing', failing: 'below the pass mark', changed: 'changed since' } as const;
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
  /** The day from which changes are highlighted. */
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
    const cell = column.kind === 'graded' ? row.cells[column.place] : undefined;
    return cell !== undefined && cell !== 0 && isIn[state](cell);
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
  const cell = column.kind === 'graded' ? row.cells[column.place] : undefined;
  if (column.columnId !== null && chosen.includes('changed') && changed.has(`${column.columnId} ${row.enrolmentId}`)) return 'changed';
  if (cell === undefined || cell === 0) return null;
  if (chosen.includes('missing') && cell[0] === 'missing') return 'missing';
  if (chosen.includes('late') && cell[3] === 1) return 'late';
  const isFailing =
    chosen.includes('failing') &&
    cell[0] === 'marked' &&
    column.possible > 0 &&
    isBelow((Number.parseFloat(cell[1]) * 100_000) / column.possible, pass);
  return isFailing ? 'failing' : null;
}

/** What a choice leaves out, in words, so that nobody takes a part for the whole; empty where everybody and everything is shown. */
export function choiceWords(choice: GridChoice, book: Pick<Gradebook, 'categories' | 'periods'>, groupTitle: string | null): string {
  const category = book.categories.find((c) => c.id === choice.categoryId)?.title;
  const period = book.periods.find((p) => p.id === choice.periodId)?.title;
  return [
    ...(category === undefined ? [] : [`only ${category}`]),
    ...(period === undefined ? [] : [`only ${period}`]),
    ...(groupTitle === null ? [] : [`only ${groupTitle}`]),
    ...(choice.state === null ? [] : [`only those who ${ROW_STATES[choice.state]}`]),
  ].join(' · ');
}

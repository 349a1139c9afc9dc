import type { Gradebook } from '@rosemary/api';

/** A column of the grid: what holds a result, a category's subtotal, or a total. */
export interface Column {
  readonly key: string;
  readonly kind: 'graded' | 'subtotal' | 'soFar' | 'range';
  readonly place: number;
  readonly title: string;
  readonly group: string;
  readonly isFirst: boolean;
  /** The column of the gradebook that cells are written to; null where the number is computed. */
  readonly columnId: string | null;
  /** The item it is of; null where there is none. */
  readonly itemId: string | null;
  readonly shares: readonly number[];
  readonly isAside: boolean;
  readonly width: number;
}

/** A column that is drawn now, and where. */
export interface ShownColumn {
  readonly column: Column;
  readonly index: number;
  /** Names its place among those drawn: a column that leaves the view lends its cells to the one that comes. */
  readonly slot: string;
  readonly left: number;
  /** Where it stands and how wide it is, in the words of a style sheet. */
  readonly style: string;
}
/** Names a cell among those that wait to be committed. */
export const pendingKey = (columnId: string, enrolmentId: string): string => `cell ${columnId} ${enrolmentId}`;
/** The totals stay at the right edge while the columns move under them. */
export const FROZEN: ReadonlySet<Column['kind']> = new Set(['soFar', 'range']);

const computed = (kind: 'subtotal' | 'soFar' | 'range', key: string, title: string, width: number, more: Partial<Column>): Column => ({
  key,
  kind,
  title,
  width,
  place: 0,
  group: 'Total',
  isFirst: false,
  columnId: null,
  itemId: null,
  shares: [],
  isAside: false,
  ...more,
});
const percent = (thousandths: number): string => `${thousandths / 1000} %`;

/** The columns of the grid in the order of the policy: each category's own with its subtotal, what is in none, and the totals. */
export function columnsOf(book: Gradebook, isShown: (dueAt: string | null) => boolean): readonly Column[] {
  const list: Column[] = [];
  const groups = [
    ...book.categories.map((c, n) => ({ id: c.id as string | null, title: c.title, weight: c.weightPercent, n })),
    { id: null, title: 'No category', weight: 0, n: -1 },
  ];
  for (const group of groups) {
    const own = book.columns
      .map((column, place) => ({ column, place }))
      .filter(({ column }) => column.categoryId === group.id && isShown(column.dueAt))
      .sort((a, b) => (a.column.dueAt ?? '9').localeCompare(b.column.dueAt ?? '9'));
    own.forEach(({ column, place }, n) =>
      list.push({
        key: column.id,
        kind: 'graded',
        place,
        title: column.title,
        group: group.title,
        isFirst: n === 0,
        columnId: column.id,
        itemId: column.itemId,
        shares: book.shares[place] ?? [],
        isAside: !column.counts,
        width: 84,
      }),
    );
    if (group.n >= 0 && book.total === 'weights' && book.columns.some((c) => c.categoryId === group.id))
      list.push(
        computed('subtotal', `category:${group.id}`, percent(group.weight), 66, {
          place: group.n,
          group: group.title,
          isFirst: own.length === 0,
          shares: book.rows.map((row) => Number(row.subtotals[group.n] ?? -1)).filter((value) => value >= 0),
        }),
      );
  }
  return [...list, computed('soFar', 'soFar', 'So far', 74, { isFirst: true }), computed('range', 'range', 'Floor–reach', 88, {})];
}

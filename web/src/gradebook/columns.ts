import type { BookColumn, Gradebook } from '@rosemary/api';
import { formatPoints } from '@rosemary/core';
import type { ColumnOrder, GridChoice } from './gridChoice.ts';

/** A column of the grid: what holds a result, a category's subtotal, the total of a grading period, or a total. */
export interface Column {
  readonly key: string;
  readonly kind: 'graded' | 'subtotal' | 'period' | 'soFar' | 'range';
  readonly place: number;
  readonly title: string;
  readonly group: string;
  readonly isFirst: boolean;
  /** The column of the gradebook that cells are written to; null where the number is computed. */
  readonly columnId: string | null;
  /** The item it is of; null where there is none. */
  readonly itemId: string | null;
  readonly possible: number;
  readonly dueAt: string | null;
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

const computed = (kind: Exclude<Column['kind'], 'graded'>, key: string, title: string, width: number, more: Partial<Column>): Column => ({
  key,
  kind,
  title,
  width,
  place: 0,
  group: 'Total',
  isFirst: false,
  columnId: null,
  itemId: null,
  possible: 0,
  dueAt: null,
  shares: [],
  isAside: false,
  ...more,
});
const percent = (thousandths: number): string => `${formatPoints(thousandths)} %`;

interface Placed {
  readonly column: BookColumn;
  readonly place: number;
}
const LAST = '9';
const byDue = (a: Placed, b: Placed): number => (a.column.dueAt ?? LAST).localeCompare(b.column.dueAt ?? LAST);
const ORDERS: { readonly [order in Exclude<ColumnOrder, 'own'>]: (a: Placed, b: Placed) => number } = {
  category: byDue,
  due: byDue,
  plan: (a, b) => a.column.order - b.column.order,
  made: (a, b) => a.column.madeAt.localeCompare(b.column.madeAt),
};
function compare({ order, own }: GridChoice): (a: Placed, b: Placed) => number {
  if (order !== 'own') return ORDERS[order];
  const at = new Map(own.map((id, n) => [id, n]));
  const rank = ({ column }: Placed): number => at.get(column.id) ?? own.length + column.order;
  return (a, b) => rank(a) - rank(b);
}

/**
 * The columns of the grid. By category each stands with its own columns and its subtotal, within its grading period where there are any; in
 * any other order the subtotals come after the columns. The totals are last.
 */
export function columnsOf(book: Gradebook, choice: GridChoice, isShown: (dueAt: string | null) => boolean): readonly Column[] {
  const titleOf = new Map(book.categories.map((c) => [c.id, c.title]));
  const shown = book.columns
    .map((column, place) => ({ column, place }))
    .filter(
      ({ column }) =>
        isShown(column.dueAt) &&
        (choice.categoryId === null || column.categoryId === choice.categoryId) &&
        (choice.periodId === null || column.periodId === choice.periodId || column.periodId === null),
    )
    .sort(compare(choice));
  const graded = ({ column, place }: Placed, group: string, isFirst: boolean): Column => ({
    key: column.id,
    kind: 'graded',
    place,
    title: column.title,
    group,
    isFirst,
    columnId: column.id,
    itemId: column.itemId,
    possible: column.possible,
    dueAt: column.dueAt,
    shares: book.shares[place] ?? [],
    isAside: !column.counts,
    width: 84,
  });
  const isPartShown = (part: Gradebook['parts'][number]): boolean =>
    (choice.categoryId === null || part.categoryId === choice.categoryId) &&
    (choice.periodId === null || part.periodId === choice.periodId);
  const subtotal = (place: number, group: string, isFirst: boolean, title: string): Column => {
    const part = book.parts[place];
    return computed(
      'subtotal',
      `category:${part?.categoryId ?? ''}${part?.periodId === null ? '' : `:${part?.periodId ?? ''}`}`,
      title,
      66,
      {
        place,
        group,
        isFirst,
        shares: book.rows.map((row) => Number(row.subtotals[place] ?? -1)).filter((value) => value >= 0),
      },
    );
  };
  const periodTotal = (place: number): Column[] => {
    const period = book.periods[place];
    return period === undefined || (choice.periodId !== null && choice.periodId !== period.id)
      ? []
      : [computed('period', `period:${period.id}`, percent(period.weightPercent), 70, { place, group: period.title, isFirst: true })];
  };
  // As wide as its longest word, where the scheme has words for letters.
  const longest = Math.max(1, ...book.levels.map((level) => level.label.length));
  const totals = [
    computed('soFar', 'soFar', 'So far', 66 + longest * 8, { isFirst: true }),
    computed('range', 'range', 'Floor–reach', 88, {}),
  ];

  if (choice.order !== 'category') {
    const own = shown.map((one, n) => {
      const group = titleOf.get(one.column.categoryId ?? '') ?? 'No category';
      return graded(one, group, n === 0 || shown[n - 1]?.column.categoryId !== one.column.categoryId);
    });
    const sums = book.parts.flatMap((part, n) =>
      isPartShown(part) ? [subtotal(n, 'Categories', false, `${part.title} ${percent(part.weightPercent)}`)] : [],
    );
    return [
      ...own,
      ...sums.map((c, n) => ({ ...c, isFirst: n === 0, width: 92 })),
      ...book.periods.flatMap((_, n) => periodTotal(n)),
      ...totals,
    ];
  }
  const list: Column[] = [];
  const taken = new Set<string>();
  const add = (title: string, own: readonly Placed[], sum: (isFirst: boolean) => Column | null): void => {
    own.forEach((one, n) => {
      taken.add(one.column.id);
      list.push(graded(one, title, n === 0));
    });
    const last = sum(own.length === 0);
    if (last !== null) list.push(last);
  };
  const groups =
    book.parts.length > 0
      ? book.parts.map((part, n) => ({ ...part, n }))
      : book.categories.map((c) => ({ categoryId: c.id, periodId: null, title: c.title, weightPercent: 0, n: -1 }));
  groups.forEach((part, n) => {
    const own = shown.filter(
      ({ column }) => column.categoryId === part.categoryId && (part.periodId === null || column.periodId === part.periodId),
    );
    const isUsed = book.columns.some((c) => c.categoryId === part.categoryId && (part.periodId === null || c.periodId === part.periodId));
    add(part.title, own, (isFirst) =>
      part.n >= 0 && isUsed && isPartShown(part) ? subtotal(part.n, part.title, isFirst, percent(part.weightPercent)) : null,
    );
    // The total of a grading period stands after its last category.
    if (part.periodId !== null && groups[n + 1]?.periodId !== part.periodId)
      list.push(...periodTotal(book.periods.findIndex((p) => p.id === part.periodId)));
  });
  const rest = shown.filter(({ column }) => !taken.has(column.id));
  add(
    'In every grading period',
    rest.filter(({ column }) => titleOf.has(column.categoryId ?? '')),
    () => null,
  );
  add(
    'No category',
    rest.filter(({ column }) => !titleOf.has(column.categoryId ?? '')),
    () => null,
  );
  return [...list, ...totals];
}

import * as api from '@rosemary/api/endpoints';
import type { BookCell, BookRow, CellChange, CellSaved, Gradebook } from '@rosemary/api';
import { weekNumber } from '@rosemary/core';
import { computed, ref, shallowRef, watch, type Ref } from 'vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** A column of the grid: what holds a result, a category's subtotal, or a total. */
export interface Column {
  readonly key: string;
  readonly kind: 'graded' | 'subtotal' | 'soFar' | 'range';
  readonly place: number;
  readonly title: string;
  readonly under: string;
  readonly group: string;
  readonly isFirst: boolean;
  /** The column of the gradebook that cells are written to; null where the number is computed. */
  readonly columnId: string | null;
  /** The item it is of; null where there is none. */
  readonly itemId: string | null;
  readonly shares: readonly number[];
  readonly isAside: boolean;
}

export type CellWish = Pick<CellChange, 'state' | 'raw'>;

/** The gradebook of a course: rows and columns as shown, and what is typed into them. */
export function useBook(courseId: Ref<string>) {
  const course = useCourse();
  const notices = useNotices();
  const book = shallowRef<Gradebook | null>(null);
  const fault = ref('');
  const sortBy = ref<{ key: string; down: boolean }>({ key: 'name', down: false });
  const asks = ref<{ text: string; go: () => Promise<void> } | null>(null);
  const base = computed(() => ({ courseId: courseId.value }));

  async function load(): Promise<void> {
    try {
      book.value = await call(api.getGradebook, base.value);
    } catch (error) {
      fault.value = error instanceof Error ? error.message : '';
    }
  }

  /** Reads the rows of some students again; the whole book where one of them is not in it. */
  async function loadRows(ids: readonly string[]): Promise<void> {
    const held = book.value;
    if (held === null || ids.some((id) => !held.rows.some((r) => r.enrolmentId === id))) return load();
    try {
      const fresh = await Promise.all(ids.map((enrolmentId) => call(api.getGradebookRow, { ...base.value, enrolmentId })));
      const byId = new Map(fresh.map((r) => [r.enrolmentId, r]));
      if (book.value !== null) book.value = { ...book.value, rows: book.value.rows.map((r) => byId.get(r.enrolmentId) ?? r) };
    } catch (error) {
      fault.value = error instanceof Error ? error.message : '';
    }
  }

  const isInWeeks = (dueAt: string | null): boolean => {
    if (course.weeks === null) return true;
    const week = dueAt === null ? 0 : weekNumber({ startsOn: course.head?.line.weeks[0]?.startsOn ?? '' }, Date.parse(dueAt), course.zone);
    return week >= course.weeks[0] && week <= course.weeks[1];
  };
  const percent = (thousandths: number): string => `${thousandths / 1000} %`;
  const columns = computed((): Column[] => {
    const b = book.value;
    if (b === null) return [];
    const list: Column[] = [];
    const groups = [
      ...b.categories.map((c, n) => ({ id: c.id as string | null, title: c.title, weight: c.weightPercent, n })),
      { id: null, title: 'No category', weight: 0, n: -1 },
    ];
    for (const g of groups) {
      const own = b.columns
        .map((column, place) => ({ column, place }))
        .filter(({ column }) => column.categoryId === g.id && isInWeeks(column.dueAt))
        .sort((a, c) => (a.column.dueAt ?? '9').localeCompare(c.column.dueAt ?? '9'));
      own.forEach(({ column, place }, k) =>
        list.push({
          key: column.id,
          kind: 'graded',
          place,
          title: column.title,
          under: String(column.possible / 1000),
          group: g.title,
          isFirst: k === 0,
          columnId: column.id,
          itemId: column.itemId,
          shares: b.shares[place] ?? [],
          isAside: !column.counts,
        }),
      );
      if (g.n >= 0 && b.total === 'weights' && b.columns.some((c) => c.categoryId === g.id))
        list.push({
          key: `category:${g.id}`,
          kind: 'subtotal',
          place: g.n,
          title: percent(g.weight),
          under: '',
          group: g.title,
          isFirst: own.length === 0,
          columnId: null,
          itemId: null,
          shares: b.rows.map((r) => Number(r.subtotals[g.n] ?? -1)).filter((v) => v >= 0),
          isAside: false,
        });
    }
    return list;
  });
  const totals: readonly Column[] = [
    {
      key: 'soFar',
      kind: 'soFar',
      place: 0,
      title: 'So far',
      under: '',
      group: 'Total',
      isFirst: true,
      columnId: null,
      itemId: null,
      shares: [],
      isAside: false,
    },
    {
      key: 'range',
      kind: 'range',
      place: 0,
      title: 'Floor–reach',
      under: '',
      group: 'Total',
      isFirst: false,
      columnId: null,
      itemId: null,
      shares: [],
      isAside: false,
    },
  ];

  function sortValue(row: BookRow): string | number {
    const { key } = sortBy.value;
    if (key === 'name') return `${row.familyName} ${row.givenName}`;
    if (key === 'soFar') return Number(row.totals.soFar ?? -1);
    if (key === 'range') return Number(row.totals.floor ?? -1);
    const column = columns.value.find((c) => c.key === key);
    if (column === undefined) return 0;
    if (column.kind === 'subtotal') return Number(row.subtotals[column.place] ?? -1);
    const cell = row.cells[column.place];
    return cell === undefined || cell === 0 || cell[1] === '' ? -1 : Number.parseFloat(cell[1]);
  }
  const sorted = computed((): BookRow[] => {
    const list = (book.value?.rows ?? [])
      .filter((r) => course.sectionId === null || r.sectionId === course.sectionId)
      .map((row) => ({ row, value: sortValue(row) }));
    const { down } = sortBy.value;
    list.sort(
      (a, b) =>
        (typeof a.value === 'string' && typeof b.value === 'string' ? a.value.localeCompare(b.value) : Number(a.value) - Number(b.value)) *
        (down ? -1 : 1),
    );
    return list.map((l) => l.row);
  });
  /** The order in which the students were last sorted: a mark that is written leaves everybody where they stand under the hand. */
  const order = shallowRef<readonly string[]>([]);
  const sortAgain = (): void => {
    order.value = sorted.value.map((r) => r.enrolmentId);
  };
  watch([sortBy, () => course.sectionId, () => book.value === null], sortAgain, { flush: 'sync' });
  const rows = computed((): BookRow[] => {
    const byId = new Map(sorted.value.map((r) => [r.enrolmentId, r]));
    const standing = order.value.flatMap((id) => byId.get(id) ?? []);
    const known = new Set(order.value);
    return [...standing, ...sorted.value.filter((r) => !known.has(r.enrolmentId))];
  });
  /** Whether sorting once more would move somebody. */
  const isOutOfOrder = computed(() => rows.value.some((r, n) => r !== sorted.value[n]));
  function sort(key: string): void {
    sortBy.value = sortBy.value.key === key ? { key, down: !sortBy.value.down } : { key, down: key !== 'name' };
  }

  function accept(saved: CellSaved): void {
    if (book.value !== null)
      book.value = { ...book.value, rows: book.value.rows.map((r) => (r.enrolmentId === saved.row.enrolmentId ? saved.row : r)) };
  }
  async function undo(eventId: string): Promise<void> {
    accept(await call(api.undoCell, base.value, { eventId }));
  }

  /** Writes a cell. Above the points it asks; another's change meanwhile shows both values. */
  async function write(
    row: BookRow,
    column: Column,
    wish: CellWish,
    words: string,
    isAboveConfirmed = false,
    seen?: string | null,
  ): Promise<void> {
    const { columnId } = column;
    if (columnId === null) return;
    const cell: BookCell | 0 | undefined = row.cells[column.place];
    const seenEventId = seen === undefined ? (cell === undefined || cell === 0 ? null : cell[4]) : seen;
    try {
      const saved = await call(api.changeCell, base.value, {
        columnId,
        enrolmentId: row.enrolmentId,
        ...wish,
        seenEventId,
        isAboveConfirmed,
        reason: '',
      });
      accept(saved);
      const { eventId } = saved;
      if (eventId !== seenEventId) notices.say(words, eventId === null ? null : () => undo(eventId));
    } catch (error) {
      if (error instanceof HttpProblem && error.code === 'confirm')
        asks.value = { text: error.message, go: () => write(row, column, wish, words, true, seenEventId) };
      else if (error instanceof HttpProblem && error.code === 'conflict') {
        const theirs = error.problem.current as { raw: number | null; state: string | null; eventId: string | null };
        const value = theirs.raw === null ? (theirs.state ?? 'nothing') : String(theirs.raw / 1000);
        asks.value = {
          text: `Someone else set this cell to ${value} meanwhile; you typed ${wish.raw === null ? (wish.state ?? 'nothing') : wish.raw / 1000}. Write yours over theirs?`,
          go: () => write(row, column, wish, words, isAboveConfirmed, theirs.eventId),
        };
        void load();
      } else notices.sayFault(error);
    }
  }
  return { book, fault, load, loadRows, columns, totals, rows, sort, sortAgain, isOutOfOrder, sortBy, write, undo, accept, asks };
}

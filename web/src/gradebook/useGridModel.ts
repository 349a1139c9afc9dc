import type { BookRow } from '@rosemary/api';
import {
  columnSizingFeature,
  createSortedRowModel,
  rowSortingFeature,
  tableFeatures,
  useTable,
  type ColumnDef,
  type SortingState,
} from '@tanstack/vue-table';
import { computed, ref, shallowRef, watch, type Ref } from 'vue';
import type { Column } from './columns.ts';

const features = tableFeatures({ columnSizingFeature, rowSortingFeature, sortedRowModel: createSortedRowModel() });
const NAME = 'name';

/** What a row is sorted by in a column; whoever has nothing there stands below the lowest. */
function sortValue(row: BookRow, column: Column): number {
  if (column.kind === 'soFar') return Number(row.totals.soFar ?? -1);
  if (column.kind === 'range') return Number(row.totals.floor ?? -1);
  if (column.kind === 'subtotal') return Number(row.subtotals[column.place] ?? -1);
  if (column.kind === 'period') return Number(row.periods[column.place] ?? -1);
  const cell = row.cells[column.place];
  return cell === undefined || cell === 0 || cell[1] === '' ? -1 : Number.parseFloat(cell[1]);
}

/**
 * Rows and columns as the grid shows them: sorted by a column. A mark that is written leaves everybody where
 * they stand under the hand; they are sorted anew when it is asked for, and where others are shown (`scope`).
 */
export function useGridModel(
  people: Ref<readonly BookRow[]>,
  columns: Ref<readonly Column[]>,
  scope: Ref<unknown>,
  nameBy: Ref<'family' | 'given'>,
) {
  const sorting = ref<SortingState>([{ id: NAME, desc: false }]);
  const definitions = computed((): ColumnDef<typeof features, BookRow>[] => [
    {
      id: NAME,
      size: 190,
      accessorFn: (row: BookRow) =>
        nameBy.value === 'family' ? `${row.familyName} ${row.givenName}` : `${row.givenName} ${row.familyName}`,
      sortFn: (a, b) => a.getValue<string>(NAME).localeCompare(b.getValue<string>(NAME)),
    },
    ...columns.value.map((column) => ({
      id: column.key,
      size: column.width,
      accessorFn: (row: BookRow) => sortValue(row, column),
      sortFn: (a: { getValue: (id: string) => unknown }, b: { getValue: (id: string) => unknown }, id: string) =>
        Number(a.getValue(id)) - Number(b.getValue(id)),
    })),
  ]);
  const table = useTable<typeof features, BookRow>({
    features,
    columns: definitions,
    data: people,
    getRowId: (row) => row.enrolmentId,
    state: computed(() => ({ sorting: sorting.value })),
    onSortingChange: (next) => {
      sorting.value = typeof next === 'function' ? next(sorting.value) : next;
    },
  });
  const sorted = computed((): readonly BookRow[] => table.getRowModel().rows.map((row) => row.original));
  const order = shallowRef<readonly string[]>([]);
  const sortAgain = (): void => {
    order.value = sorted.value.map((r) => r.enrolmentId);
  };
  const isEmpty = computed(() => people.value.length === 0);
  // After the table has taken what changed.
  watch([sorting, scope, nameBy, isEmpty], sortAgain, { immediate: true, flush: 'post' });
  /** In the order that stands; whoever has joined since comes at the end. */
  const rows = computed((): readonly BookRow[] => {
    const byId = new Map(people.value.map((r) => [r.enrolmentId, r]));
    const standing = order.value.flatMap((id) => byId.get(id) ?? []);
    const known = new Set(order.value);
    return [...standing, ...sorted.value.filter((r) => !known.has(r.enrolmentId))];
  });
  /** Whether sorting once more would move somebody. */
  const isOutOfOrder = computed(() => rows.value.some((r, n) => r.enrolmentId !== sorted.value[n]?.enrolmentId));
  /** Sorts by a column, or the other way round; as a second key it orders those who are alike by the first. */
  function sort(key: string, isSecond = false): void {
    const [first, second] = sorting.value;
    const turned = (held: SortingState[number] | undefined) =>
      held?.id === key ? { id: key, desc: !held.desc } : { id: key, desc: key !== NAME };
    sorting.value = isSecond && first !== undefined && first.id !== key ? [first, turned(second)] : [turned(first)];
  }
  const sortOf = (key: string): 'ascending' | 'descending' | undefined => {
    const now = sorting.value.find((held) => held.id === key);
    return now === undefined ? undefined : now.desc ? 'descending' : 'ascending';
  };
  return { rows, sort, sortOf, sortAgain, isOutOfOrder };
}

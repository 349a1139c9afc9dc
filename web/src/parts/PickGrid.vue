<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { computed, nextTick, ref } from 'vue';

/**
 * A grid whose places are chosen to be filled together: by a click, by dragging over several, by the head of a row or a column; with Ctrl or
 * ⌘ beside what is chosen. By keyboard the arrows move, Shift and an arrow choose more, Ctrl or ⌘ and A choose all, Esc none.
 */
interface Head {
  readonly id: string;
  readonly name: string;
}
const props = defineProps<{
  rows: readonly Head[];
  columns: readonly Head[];
  label: string;
  isOff?: (row: string, column: string) => boolean;
}>();
const chosen = defineModel<ReadonlySet<string>>({ required: true });
type Place = readonly [row: number, column: number];
const keyAt = ([row, column]: Place): string => `${props.rows[row]?.id ?? ''} ${props.columns[column]?.id ?? ''}`;
const isOffAt = ([row, column]: Place): boolean => props.isOff?.(props.rows[row]?.id ?? '', props.columns[column]?.id ?? '') === true;
/** Where the keyboard stands, and where what is being chosen began. */
const at = ref<Place>([0, 0]);
const anchor = ref<Place>([0, 0]);
const before = ref<ReadonlySet<string>>(new Set());
const isDragging = ref(false);
const root = ref<HTMLElement | null>(null);

function span(to: Place, kept: ReadonlySet<string>): void {
  const next = new Set(kept);
  const [top, bottom] = [Math.min(anchor.value[0], to[0]), Math.max(anchor.value[0], to[0])];
  const [left, right] = [Math.min(anchor.value[1], to[1]), Math.max(anchor.value[1], to[1])];
  for (let row = top; row <= bottom; row += 1)
    for (let column = left; column <= right; column += 1) if (!isOffAt([row, column])) next.add(keyAt([row, column]));
  chosen.value = next;
}
function begin(place: Place, event: PointerEvent): void {
  if (event.button !== 0 || isOffAt(place)) return;
  at.value = place;
  const isMore = event.ctrlKey || event.metaKey;
  if (event.shiftKey) {
    span(place, new Set());
    return;
  }
  const kept = new Set(isMore ? chosen.value : []);
  // One that is chosen already is taken out of several.
  if (isMore && kept.delete(keyAt(place))) {
    chosen.value = kept;
    return;
  }
  anchor.value = place;
  before.value = kept;
  isDragging.value = true;
  span(place, kept);
}
useEventListener(window, 'pointerup', () => {
  isDragging.value = false;
});
function over(place: Place): void {
  if (isDragging.value) span(place, before.value);
}
function chooseLine(from: Place, to: Place): void {
  anchor.value = from;
  at.value = from;
  span(to, new Set());
}
const STEPS: Readonly<Record<string, Place>> = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] };
const last = computed((): Place => [props.rows.length - 1, props.columns.length - 1]);
async function onKey(event: KeyboardEvent): Promise<void> {
  const step = STEPS[event.key];
  if (step !== undefined) {
    event.preventDefault();
    const [row, column] = [at.value[0] + step[0], at.value[1] + step[1]];
    if (row < 0 || column < 0 || row > last.value[0] || column > last.value[1]) return;
    at.value = [row, column];
    if (!event.shiftKey) anchor.value = [row, column];
    span([row, column], new Set());
    await nextTick();
    root.value?.querySelector<HTMLElement>('[role="gridcell"][tabindex="0"]')?.focus();
  } else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) {
    event.preventDefault();
    anchor.value = [0, 0];
    span(last.value, new Set());
  } else if (event.key === 'Escape') chosen.value = new Set();
  else if (event.key === ' ' || event.key === 'Enter') {
    event.preventDefault();
    anchor.value = at.value;
    span(at.value, new Set());
  }
}
</script>

<template>
  <table ref="root" role="grid" aria-multiselectable="true" :aria-label="label" class="pick-grid">
    <thead>
      <tr>
        <th scope="col"><slot name="corner" /></th>
        <th v-for="(column, c) in columns" :key="column.id" scope="col" @click="chooseLine([0, c], [rows.length - 1, c])">
          <slot name="column" :column="column">{{ column.name }}</slot>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(row, r) in rows" :key="row.id">
        <th scope="row" @click="chooseLine([r, 0], [r, columns.length - 1])">
          <slot name="row" :row="row">{{ row.name }}</slot>
        </th>
        <td
          v-for="(column, c) in columns"
          :key="column.id"
          role="gridcell"
          :aria-selected="chosen.has(`${row.id} ${column.id}`)"
          :aria-disabled="isOffAt([r, c]) || undefined"
          :aria-label="`${row.name}, ${column.name}`"
          :aria-describedby="`${row.id}-${column.id}`"
          :tabindex="at[0] === r && at[1] === c ? 0 : -1"
          @pointerdown="begin([r, c], $event)"
          @pointerenter="over([r, c])"
          @keydown="onKey"
        >
          <div :id="`${row.id}-${column.id}`"><slot name="cell" :row="row" :column="column" /></div>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style>
.pick-grid {
  border-collapse: collapse;
  user-select: none;
}
.pick-grid th {
  text-align: left;
  font-weight: 400;
  padding: 6px 12px 6px 0;
  vertical-align: bottom;
  cursor: pointer;
}
.pick-grid tbody th {
  vertical-align: top;
  position: sticky;
  left: 0;
  background: var(--mist);
  min-width: 170px;
  z-index: 1;
}
.pick-grid td {
  border: 1px solid var(--frost);
  padding: 6px 8px;
  min-width: 150px;
  height: 56px;
  vertical-align: top;
  cursor: cell;
  touch-action: none;
}
.pick-grid td[aria-selected='true'] {
  background: color-mix(in srgb, var(--bloom) 12%, var(--paper));
  box-shadow: inset 0 0 0 1px var(--bloom);
}
.pick-grid td[aria-disabled] {
  cursor: default;
  color: var(--soft);
}
.pick-grid td:focus-visible {
  outline: 2px solid var(--bloom);
  outline-offset: -2px;
}
</style>

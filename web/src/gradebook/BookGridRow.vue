<script setup lang="ts">
import type { BookRow } from '@rosemary/api';
import CellField from '../parts/CellField.vue';
import BookCellView from './BookCellView.vue';
import { pendingKey, type Column, type ShownColumn } from './columns.ts';
import type { Highlight } from './gridChoice.ts';
import type { CellBlock, CellPlace } from './useGridCursor.ts';

/** A student in the grid: the name, the cells in view, the totals. It is drawn anew in every frame of scrolling, so it does little. */
const props = defineProps<{
  row: BookRow;
  index: number;
  top: number;
  columns: readonly ShownColumn[];
  lanes: number;
  lanesWidth: number;
  totals: readonly Column[];
  /** The number of the chosen column, or -1. */
  chosen: number;
  block: CellBlock | null;
  typed: string | null;
  isWrong: boolean;
  /** What was typed and is not committed yet. */
  pending: ReadonlyMap<string, string>;
  nameBy: 'family' | 'given';
  lit: ((row: BookRow, column: Column) => Highlight | null) | null;
}>();
const emit = defineEmits<{
  down: [event: MouseEvent, place: CellPlace];
  over: [place: CellPlace];
  open: [];
  typed: [text: string];
  left: [];
}>();
const isIn = (column: number): boolean => props.block !== null && column >= props.block.left && column <= props.block.right;
const waits = (column: Column): string | undefined =>
  props.pending.size === 0 || column.columnId === null ? undefined : props.pending.get(pendingKey(column.columnId, props.row.enrolmentId));
const litIn = (column: Column): string => {
  const lit = props.lit === null ? null : props.lit(props.row, column);
  return lit === null ? '' : ` lit ${lit}`;
};
const looks = (column: Column, index: number): string =>
  `cell ${column.kind}${litIn(column)}${props.chosen === index ? ' chosen' : ''}${isIn(index) ? ' block' : ''}`;
/** The words of a cell that has nothing but words: nearly all of them. Null where it has a mark of its own. */
function plain(column: Column): string | null {
  if (column.kind !== 'graded') return null;
  const cell = props.row.cells[column.place];
  if (cell === 0 || cell === undefined) return '';
  return cell.length === 7 && cell[0] === 'marked' && cell[2] === 1 && cell[3] === 0 && cell[5] === 0 ? cell[1] : null;
}
/** Each cell names its column, so that one listener of the row serves them all. */
function placeOf(event: Event): CellPlace | null {
  const column = (event.target as HTMLElement).closest('[role=gridcell]')?.getAttribute('aria-colindex') ?? null;
  return column === null ? null : { row: props.index, column: Number(column) - 2 };
}
function onDown(event: MouseEvent): void {
  const place = placeOf(event);
  if (place !== null && (event.target as HTMLElement).id !== 'cell-field') emit('down', event, place);
}
function onOver(event: MouseEvent): void {
  const place = placeOf(event);
  if (place !== null) emit('over', place);
}
</script>

<template>
  <div
    class="row"
    role="row"
    :aria-rowindex="index + 2"
    :style="{ transform: `translateY(${top}px)` }"
    @mousedown="onDown"
    @mouseover="onOver"
    @dblclick="emit('open')"
  >
    <div class="name" role="rowheader" aria-colindex="1">
      {{ nameBy === 'family' ? `${row.familyName}, ${row.givenName}` : `${row.givenName} ${row.familyName}` }}
    </div>
    <div class="lane" :style="{ width: `${lanesWidth}px` }">
      <div
        v-for="s in columns"
        :id="chosen === s.index ? `cell-${index}-${s.index}` : undefined"
        :key="s.slot"
        role="gridcell"
        :aria-colindex="s.index + 2"
        :aria-selected="chosen === s.index || isIn(s.index) || undefined"
        :class="looks(s.column, s.index)"
        :style="s.style"
      >
        <CellField
          v-if="typed !== null && chosen === s.index"
          id="cell-field"
          :model-value="typed"
          :aria-label="`${row.familyName}, ${s.column.title}`"
          :aria-invalid="isWrong"
          @update:model-value="emit('typed', $event)"
          @blur="emit('left')"
        /><span v-else-if="waits(s.column) !== undefined" class="going" title="Not saved yet">{{ waits(s.column) }}</span
        ><template v-else-if="plain(s.column) !== null">{{ plain(s.column) }}</template
        ><BookCellView v-else :row="row" :column="s.column" />
      </div>
    </div>
    <div class="totals">
      <div
        v-for="(c, n) in totals"
        :id="chosen === lanes + n ? `cell-${index}-${lanes + n}` : undefined"
        :key="c.key"
        role="gridcell"
        :aria-colindex="lanes + n + 2"
        :aria-selected="chosen === lanes + n || isIn(lanes + n) || undefined"
        :class="looks(c, lanes + n)"
        :style="{ width: `${c.width}px` }"
      >
        <BookCellView :row="row" :column="c" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.row {
  position: absolute;
  top: 0;
  left: 0;
  width: 100%;
  display: flex;
  height: 27px;
  contain: layout style;
  /* Drawing out a block selects cells, not their letters. */
  user-select: none;
}
.lane {
  position: relative;
  flex: 1 0 auto;
}
.lane .cell {
  position: absolute;
  top: 0;
}
.cell,
.name {
  box-sizing: border-box;
  height: 27px;
  line-height: 26px;
  white-space: nowrap;
  overflow: hidden;
  padding: 0 8px;
  border-bottom: 1px solid var(--frost2);
  background: var(--paper);
  text-align: right;
}
.name {
  position: sticky;
  left: 0;
  z-index: 3;
  flex: none;
  width: 190px;
  padding-left: 20px;
  text-align: left;
  text-overflow: ellipsis;
}
.totals {
  position: sticky;
  right: 0;
  z-index: 2;
  display: flex;
  border-left: 1px solid var(--frost);
}
.compact .row,
.compact .cell,
.compact .name {
  height: 22px;
  line-height: 21px;
}
.subtotal,
.period,
.soFar {
  background: var(--sub);
  font-weight: 600;
}
.range {
  background: var(--sub);
}
/* A bar at the left beside the word or mark that the cell shows anyway. */
.lit {
  background: var(--lit);
  box-shadow: inset 3px 0 0 var(--straw);
}
.lit.failing {
  box-shadow: inset 3px 0 0 var(--clay);
}
.lit.changed {
  box-shadow: inset 3px 0 0 var(--bloom);
}
.block {
  background: var(--bloom-wash);
}
.chosen {
  box-shadow: inset 0 0 0 2px var(--bloom);
  background: var(--bloom-wash);
}
.going {
  color: var(--soft);
  font-style: italic;
}
</style>

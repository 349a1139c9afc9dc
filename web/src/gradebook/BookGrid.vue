<script setup lang="ts">
import type { BookRow } from '@rosemary/api';
import { defaultRangeExtractor, useVirtualizer, type Range } from '@tanstack/vue-virtual';
import { useEventListener } from '@vueuse/core';
import { computed, defineAsyncComponent, nextTick, ref, watch } from 'vue';
import { formatPoints, LOCALE } from '@rosemary/core';
import ActButton from '../parts/ActButton.vue';
import { useCourse } from '../stores/courseStore.ts';
import BookGridRow from './BookGridRow.vue';
import { FROZEN, type Column, type ShownColumn } from './columns.ts';
import type { Highlight } from './gridChoice.ts';
import type { useCellTyping } from './useCellTyping.ts';
import { stepOf, type CellPlace, type useGridCursor } from './useGridCursor.ts';

// The strips of dots are drawn once the numbers are there.
const DotStrip = defineAsyncComponent(() => import('./DotStrip.vue'));

/** The grid: only the cells in view stand in the page, in both directions; names and totals stay at its edges. */
const props = defineProps<{
  rows: readonly BookRow[];
  columns: readonly Column[];
  cursor: ReturnType<typeof useGridCursor>;
  typing: ReturnType<typeof useCellTyping>;
  canEdit: boolean;
  sortOf: (key: string) => 'ascending' | 'descending' | undefined;
  pending: ReadonlyMap<string, string>;
  isCompact: boolean;
  nameBy: 'family' | 'given';
  /** What of a cell is highlighted; null where nothing is looked for. */
  lit: ((row: BookRow, column: Column) => Highlight | null) | null;
}>();
const emit = defineEmits<{
  sort: [key: string, isSecond: boolean];
  copy: [event: ClipboardEvent];
  paste: [event: ClipboardEvent];
  fillDown: [];
  menu: [column: Column, button: HTMLElement];
}>();
const rowHeight = computed(() => (props.isCompact ? 22 : 27));
const HEADS = 110;
/** More than are ever drawn at once. */
const SLOTS = 128;
const course = useCourse();
const scroller = ref<HTMLElement | null>(null);
const after = ref<HTMLElement | null>(null);
const lanes = computed(() => props.columns.filter((c) => !FROZEN.has(c.kind)));
const totals = computed(() => props.columns.filter((c) => FROZEN.has(c.kind)));
const totalsWidth = computed(() => totals.value.reduce((sum, c) => sum + c.width, 0));
const NAMES = 190;

/** The chosen cell is always drawn, so that what is typed into it stays and readers of screens can name it. */
const withChosen =
  (chosen: () => number | undefined) =>
  (range: Range): number[] => {
    const drawn = defaultRangeExtractor(range);
    const index = chosen();
    return index === undefined || index >= range.count || drawn.includes(index) ? drawn : [...drawn, index].sort((a, b) => a - b);
  };
const down = useVirtualizer(
  computed(() => ({
    count: props.rows.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => rowHeight.value,
    overscan: 4,
    scrollMargin: HEADS,
    scrollPaddingStart: HEADS,
    rangeExtractor: withChosen(() => props.cursor.at.value?.row),
  })),
);
const across = useVirtualizer(
  computed(() => ({
    horizontal: true,
    count: lanes.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: (n: number) => lanes.value[n]?.width ?? 96,
    getItemKey: (n: number) => lanes.value[n]?.key ?? n,
    overscan: 1,
    scrollPaddingEnd: NAMES + totalsWidth.value,
    rangeExtractor: withChosen(() => {
      const n = props.cursor.at.value?.column;
      return n === undefined || n >= lanes.value.length ? undefined : n;
    }),
  })),
);
watch(rowHeight, () => {
  down.value.measure();
});
const lanesWidth = computed(() => across.value.getTotalSize());
/** Names places for what is drawn: what leaves the view lends its elements to what comes, which is quicker than making new ones. */
function makeSlots(): (index: number) => string {
  const taken = new Set<number>();
  return (index) => {
    const slot = index % SLOTS;
    if (taken.has(slot)) return 'far';
    taken.add(slot);
    return String(slot);
  };
}
const drawnRows = computed(() => {
  const slotFor = makeSlots();
  return down.value.getVirtualItems().flatMap(({ index, start }) => {
    const row = props.rows[index];
    return row === undefined ? [] : [{ row, index, slot: slotFor(index), top: start - HEADS }];
  });
});
/** The same array as long as the same columns are drawn, so that scrolling down draws no row anew. */
let before: readonly ShownColumn[] = [];
const shown = computed((): readonly ShownColumn[] => {
  const slotFor = makeSlots();
  const next = across.value.getVirtualItems().flatMap((v): ShownColumn[] => {
    const column = lanes.value[v.index];
    return column === undefined
      ? []
      : [{ column, index: v.index, slot: slotFor(v.index), left: v.start, style: `left:${v.start}px;width:${v.size}px` }];
  });
  const isSame = next.length === before.length && next.every((s, n) => s.column === before[n]?.column && s.left === before[n].left);
  if (!isSame) before = next;
  return before;
});
/** The names of the categories over their columns. */
const spans = computed(() => {
  const list: { title: string; left: number; width: number }[] = [];
  let left = 0;
  for (const c of lanes.value) {
    const last = list.at(-1);
    if (last?.title === c.group && !c.isFirst) last.width += c.width;
    else list.push({ title: c.group, left, width: c.width });
    left += c.width;
  }
  return list;
});

function reveal({ row, column }: CellPlace): void {
  down.value.scrollToIndex(row, { align: 'auto' });
  if (column < lanes.value.length) across.value.scrollToIndex(column, { align: 'auto' });
}
function focus(): void {
  scroller.value?.focus({ preventScroll: true });
}
defineExpose({ reveal, focus });

const limits = computed(() => ({ rows: props.rows.length, columns: props.columns.length }));
const field = (): HTMLInputElement | null => document.getElementById('cell-field') as HTMLInputElement | null;
function type(first: string | null): void {
  if (!props.typing.start(first)) return;
  void nextTick(() => {
    field()?.focus({ preventScroll: true });
    if (first === null) field()?.select();
  });
}
function goOn(rows: number, columns: number): void {
  if (!props.typing.keep()) return;
  props.cursor.move(rows, columns);
  focus();
}
/** Esc with nothing being typed lets the next Tab leave the grid. */
let isLeaving = false;
function onKey(event: KeyboardEvent): void {
  const { text } = props.typing;
  const wasLeaving = isLeaving;
  isLeaving = false;
  if (props.cursor.at.value === null) return;
  if (event.altKey) {
    if (event.key === 'ArrowDown') openMenu(event);
    return;
  }
  if (text.value === null) {
    if (event.key === 'Tab' && wasLeaving) {
      // Past the heads too: from there the browser goes on by itself.
      if (!event.shiftKey) after.value?.focus();
      return;
    }
    isLeaving = event.key === 'Escape';
    if (onKeyOverCells(event)) event.preventDefault();
  } else if (onKeyInField(event)) event.preventDefault();
}
/** Alt with the arrow down opens the column of the chosen cell, as it opens any list. */
function openMenu(event: KeyboardEvent): void {
  const column = props.columns[props.cursor.at.value?.column ?? -1];
  const button = column === undefined ? null : document.getElementById(`head-${column.key}`);
  if (column?.kind !== 'graded' || button === null) return;
  event.preventDefault();
  emit('menu', column, button);
}
function onKeyOverCells(event: KeyboardEvent): boolean {
  const step = stepOf(event, limits.value);
  const isCommand = event.ctrlKey || event.metaKey;
  if (step !== null) props.cursor.move(...step, event.shiftKey);
  else if (isCommand && event.key.toLowerCase() === 'd' && props.canEdit) emit('fillDown');
  else if (isCommand) return false;
  else if (event.key === 'Tab') goOn(0, event.shiftKey ? -1 : 1);
  else if (event.key === 'F2' || (event.key === 'Enter' && props.canEdit)) type(null);
  else if (event.key === 'Enter') goOn(event.shiftKey ? -1 : 1, 0);
  else if (event.key === 'Delete' || event.key === 'Backspace') {
    if (props.typing.start('')) props.typing.keep();
  } else if (event.key.length === 1 && event.key !== ' ') type(event.key);
  else return false;
  return true;
}
function onKeyInField(event: KeyboardEvent): boolean {
  const { text } = props.typing;
  if (event.key === 'Enter') goOn(event.shiftKey ? -1 : 1, 0);
  else if (event.key === 'Tab') goOn(0, event.shiftKey ? -1 : 1);
  else if (event.key === 'Escape') {
    props.typing.leave();
    focus();
  } else if (event.key.length === 1 && event.target !== field() && !event.ctrlKey && !event.metaKey)
    props.typing.retype(`${text.value}${event.key}`);
  else return false;
  return true;
}

const onTyped = (text: string): void => props.typing.retype(text);
let isDrawing = false;
function onDown(event: MouseEvent, place: CellPlace): void {
  if (event.button !== 0) return;
  if (!props.typing.keep()) {
    event.preventDefault();
    return;
  }
  props.cursor.choose(place, event.shiftKey);
  isDrawing = true;
}
function onOver(place: CellPlace): void {
  if (isDrawing) props.cursor.choose(place, true);
}
useEventListener(window, 'mouseup', () => {
  isDrawing = false;
});
const isRowIn = (row: number): boolean => {
  const { block, anchor } = props.cursor;
  return anchor.value !== null && block.value !== null && row >= block.value.top && row <= block.value.bottom;
};
const blockIn = (row: number) => (isRowIn(row) ? props.cursor.block.value : null);
const chosenIn = (row: number): number => (props.cursor.at.value?.row === row ? props.cursor.at.value.column : -1);
const textIn = (row: number): string | null => (props.cursor.at.value?.row === row ? props.typing.text.value : null);
const active = computed(() => {
  const { value } = props.cursor.at;
  return value === null ? undefined : `cell-${value.row}-${value.column}`;
});
const byDay = computed(() => new Intl.DateTimeFormat(LOCALE, { day: 'numeric', month: 'short', timeZone: course.zone }));
/** What stands under the title of a column: its points and the day on which it is due. */
const under = (c: Column): string =>
  c.kind !== 'graded' ? '' : [formatPoints(c.possible), ...(c.dueAt === null ? [] : [byDay.value.format(Date.parse(c.dueAt))])].join(' · ');
const onMenu = (column: Column, event: MouseEvent): void => {
  emit('menu', column, (event.currentTarget ?? event.target) as HTMLElement);
};
const mark = (key: string): string => ({ ascending: ' ▴', descending: ' ▾', none: '' })[props.sortOf(key) ?? 'none'];
const soFarShares = computed(() => props.rows.flatMap((r) => (r.totals.soFar === null ? [] : [Number(r.totals.soFar)])));
</script>

<template>
  <div
    ref="scroller"
    class="scroll"
    tabindex="0"
    role="grid"
    aria-label="The grid"
    aria-multiselectable="true"
    :aria-rowcount="rows.length + 1"
    :aria-colcount="columns.length + 1"
    :aria-activedescendant="active"
    @keydown="onKey"
    @copy="emit('copy', $event)"
    @paste="emit('paste', $event)"
    @focus="cursor.at.value === null && cursor.choose({ row: 0, column: 0 })"
  >
    <div :class="{ compact: isCompact }" :style="{ width: `${NAMES + lanesWidth + totalsWidth}px`, minWidth: '100%' }">
      <div class="heads" role="rowgroup" :style="{ height: `${HEADS}px` }">
        <div class="line groups" aria-hidden="true">
          <span class="names" />
          <div class="lane">
            <span v-for="s in spans" :key="`${s.left}`" class="group" :style="{ left: `${s.left}px`, width: `${s.width}px` }"
              ><span :style="{ left: `${NAMES + 8}px` }">{{ s.title }}</span></span
            >
          </div>
          <span class="totals group-of" :style="{ width: `${totalsWidth}px` }">Total</span>
        </div>
        <div class="line columns" role="row" aria-rowindex="1">
          <div class="names head" role="columnheader" aria-colindex="1" :aria-sort="sortOf('name')">
            <ActButton class="sort" @click="emit('sort', 'name', $event.shiftKey)">by name{{ mark('name') }}</ActButton>
          </div>
          <div class="lane">
            <div
              v-for="s in shown"
              :key="s.slot"
              :class="['head', { computed: s.column.kind !== 'graded' }]"
              role="columnheader"
              :aria-colindex="s.index + 2"
              :aria-sort="sortOf(s.column.key)"
              :style="s.style"
            >
              <ActButton class="sort" :title="`Sort by ${s.column.title}`" @click="emit('sort', s.column.key, $event.shiftKey)">
                <span class="title">{{ s.column.title }}</span>{{ mark(s.column.key) }}<span v-if="s.column.isAside"> ·</span></ActButton
              ><span v-if="s.column.kind === 'graded'" class="under">{{ under(s.column) }}</span>
              <div class="foot">
                <ActButton
                  v-if="s.column.kind === 'graded'"
                  :id="`head-${s.column.key}`"
                  class="opens"
                  :aria-label="`Open ${s.column.title}`"
                  aria-haspopup="dialog"
                  @click="onMenu(s.column, $event)"
                  >▾</ActButton
                ><DotStrip :shares="s.column.shares" />
              </div>
            </div>
          </div>
          <div class="totals">
            <div
              v-for="(c, n) in totals"
              :key="c.key"
              class="head computed"
              role="columnheader"
              :aria-colindex="lanes.length + n + 2"
              :aria-sort="sortOf(c.key)"
              :style="{ width: `${c.width}px` }"
            >
              <ActButton class="sort" :title="`Sort by ${c.title}`" @click="emit('sort', c.key, $event.shiftKey)"
                ><span class="title">{{ c.title }}</span
                >{{ mark(c.key) }}</ActButton
              ><DotStrip v-if="c.kind === 'soFar'" :shares="soFarShares" />
            </div>
          </div>
        </div>
      </div>
      <div role="rowgroup" class="body" :style="{ height: `${down.getTotalSize()}px` }">
        <BookGridRow
          v-for="d in drawnRows"
          :key="d.slot"
          :row="d.row"
          :index="d.index"
          :top="d.top"
          :columns="shown"
          :lanes="lanes.length"
          :lanes-width="lanesWidth"
          :totals="totals"
          :chosen="chosenIn(d.index)"
          :block="blockIn(d.index)"
          :typed="textIn(d.index)"
          :is-wrong="typing.fault.value !== ''"
          :pending="pending"
          :name-by="nameBy"
          :lit="lit"
          @down="onDown"
          @over="onOver"
          @open="type(null)"
          @typed="onTyped"
          @left="typing.keep()"
        />
      </div>
    </div>
  </div>
  <span ref="after" tabindex="-1" />
</template>

<style scoped>
.scroll {
  flex: 1;
  overflow: auto;
  outline-offset: -2px;
  font-size: 13.5px;
}
.heads {
  position: sticky;
  top: 0;
  z-index: 4;
  background: var(--paper);
  border-bottom: 1.5px solid var(--leaf);
}
.line {
  display: flex;
}
.groups {
  height: 26px;
  color: var(--needle);
  font: 500 13px/24px var(--serif);
}
.columns {
  height: 82px;
}
.compact {
  font-size: 12.5px;
}
.under {
  font-size: 11.5px;
  white-space: nowrap;
}
.foot {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  height: 24px;
}
.opens {
  min-width: 24px;
  min-height: 24px;
  color: var(--soft);
}
.opens:hover {
  color: var(--bloom);
}
.lane {
  position: relative;
  flex: 1;
}
.lane > * {
  position: absolute;
  top: 0;
  bottom: 0;
}
.group,
.group-of {
  border-bottom: 1px solid var(--frost);
}
.group > span {
  position: sticky;
  padding-left: 8px;
  white-space: nowrap;
}
.names,
.totals {
  position: sticky;
  z-index: 3;
  flex: none;
  background: var(--paper);
}
.names {
  left: 0;
  width: 190px;
}
.totals {
  right: 0;
  display: flex;
  border-left: 1px solid var(--frost);
}
.group-of {
  padding-left: 8px;
}
.head {
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  align-items: flex-end;
  padding: 2px 8px 4px;
  color: var(--soft);
  font-size: 12.5px;
  line-height: 15px;
}
.names.head {
  align-items: flex-start;
  padding-left: 20px;
}
.computed {
  background: var(--sub);
  color: var(--ink);
  font-weight: 600;
}
.sort {
  border: 0;
  background: none;
  font: inherit;
  color: inherit;
  text-align: right;
  cursor: pointer;
  padding: 0;
}
.title {
  display: -webkit-inline-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  overflow: hidden;
  overflow-wrap: anywhere;
}
.body {
  position: relative;
}
</style>

<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { BookRow } from '@rosemary/api';
import { countOf, readCellText, type SchemeLevel } from '@rosemary/core';
import { computed, defineAsyncComponent, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import { typedLevels } from './cellTarget.ts';
import { call } from '../platform/call.ts';
import { useChosen } from '../platform/kept.ts';
import { useFreshRows } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import BookGrid from './BookGrid.vue';
import type { Column } from './columns.ts';
import { FIRST_CHOICE, type GridChoice } from './gridChoice.ts';
import { highlightOf } from './narrow.ts';
import type { Opened } from './opened.ts';
import { useBlock } from './useBlock.ts';
import { useBook } from './useBook.ts';
import { useCellTyping } from './useCellTyping.ts';
import { useCellWrites } from './useCellWrites.ts';
import { useGridCursor } from './useGridCursor.ts';
import { useGridModel } from './useGridModel.ts';
import { useWorking } from './useWorking.ts';
import { copyBlock } from './copyBlock.ts';

const AskedCell = defineAsyncComponent(() => import('./AskedCell.vue'));
const GridKeys = defineAsyncComponent(() => import('./GridKeys.vue'));
const AfterRelease = defineAsyncComponent(() => import('./AfterRelease.vue'));
const WorkingSide = defineAsyncComponent(() => import('./WorkingSide.vue'));
// Over the grid and over the page, once the numbers are there or it is asked for.
const BookBar = defineAsyncComponent(() => import('./BookBar.vue'));
const ClassListSheet = defineAsyncComponent(() => import('./ClassListSheet.vue'));
const PastBanner = defineAsyncComponent(() => import('./PastBanner.vue'));
const BookOver = defineAsyncComponent(() => import('./BookOver.vue'));

const route = useRoute();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const choice = useChosen<GridChoice>(() => `grid ${courseId.value}`, FIRST_CHOICE);
/** What was remembered before there was more to choose lacks what is new. */
const shown = computed({
  get: (): GridChoice => ({ ...FIRST_CHOICE, ...choice.value }),
  set: (next) => {
    choice.value = next;
  },
});
const letters = ref('');
/** The instant of the past that is looked at; null is now. */
const asOf = computed({
  get: () => course.asOf,
  set: (at) => {
    course.asOf = at;
  },
});
onBeforeUnmount(() => {
  asOf.value = null;
  course.picksDay = false;
});
const members = ref<ReadonlySet<string> | null>(null);
const { book, fault, load, loadRows, columns, ofSection, accept } = useBook(
  courseId,
  shown,
  computed(() => ({ members: members.value, letters: letters.value })),
  asOf,
);
const { rows, sort, sortOf, sortAgain, isOutOfOrder } = useGridModel(
  ofSection,
  columns,
  computed(() => [course.sectionId, shown.value.groupId, shown.value.state, letters.value].join(' ')),
  computed(() => shown.value.nameBy),
);
const grid = ref<InstanceType<typeof BookGrid> | null>(null);
const cursor = useGridCursor(
  () => ({ rows: rows.value.length, columns: columns.value.length }),
  (place) => grid.value?.reveal(place),
);
const { at } = cursor;
const row = computed(() => (at.value === null ? null : (rows.value[at.value.row] ?? null)));
const column = computed(() => (at.value === null ? null : (columns.value[at.value.column] ?? null)));
const cell = computed(() => (row.value === null || column.value === null ? null : { row: row.value, column: column.value }));
const levelsIn = (c: Column): readonly SchemeLevel[] => (book.value === null ? [] : typedLevels(book.value, book.value.columns[c.place]));
const canEdit = computed(() => course.head?.role === 'instructor' && asOf.value === null);
const { working, which, turn, readWorking, showClass } = useWorking(courseId, row, column, asOf);
const { asked, changedAfter, write, pending } = useCellWrites(
  courseId,
  (id) => book.value?.rows.find((r) => r.enrolmentId === id) ?? null,
  (id) => columns.value.find((c) => c.columnId === id) ?? null,
  accept,
  load,
);
const typing = useCellTyping(
  cell,
  (c) => levelsIn(c),
  canEdit,
  (where, wish) => void write(where, wish),
);
onMounted(load);
watch(asOf, async () => {
  await load();
  await readWorking();
});
const group = computed(() => course.head?.groups.find((g) => g.id === shown.value.groupId) ?? null);
watch(
  group,
  async (now) => {
    if (now === null) {
      members.value = null;
      return;
    }
    try {
      const { sets } = await call(api.getGroups, { courseId: courseId.value });
      const found = sets.flatMap((s) => s.groups).find((g) => g.id === now.id);
      members.value = new Set(found?.enrolmentIds ?? []);
    } catch (error) {
      notices.sayFault(error);
    }
  },
  { immediate: true },
);
const lit = computed(() => {
  const { highlights } = shown.value;
  const pass = book.value?.passPercent ?? null;
  return highlights.length === 0 ? null : (who: BookRow, what: Column) => highlightOf(who, what, highlights, pass, changedCells.value);
});
const changedCells = ref<ReadonlySet<string>>(new Set());
/** The cells that differ from a day, to be highlighted. */
watch(
  () => (shown.value.highlights.includes('changed') ? shown.value.changedSince : null),
  async (since) => {
    if (since === null) {
      changedCells.value = new Set();
      return;
    }
    try {
      const { cells } = await call(api.getDifferences, { courseId: courseId.value, from: since });
      changedCells.value = new Set(cells.map((c) => `${c.columnId} ${c.enrolmentId}`));
    } catch (error) {
      notices.sayFault(error);
    }
  },
  { immediate: true },
);
const {
  wish,
  paste: pasteText,
  fillDown,
  fillColumn,
} = useBlock(rows, columns, book, (where, text) => {
  const read = readCellText(text, where.column.possible, levelsIn(where.column));
  if (read.ok) void write(where, read.wish);
  else typing.fault.value = read.reason;
});
function paste(event: ClipboardEvent): void {
  const { value: block } = cursor.block;
  if (block === null || typing.text.value !== null || !canEdit.value) return;
  event.preventDefault();
  const text = event.clipboardData?.getData('text/plain') ?? '';
  if (text === '') notices.say('There is no text on the clipboard to paste.', null);
  else void pasteText(text, block);
}
const opened = ref<Opened | null>(null);
/** Whom a list on paper holds, where it is not the whole class. */
const narrowWords = computed(() =>
  [course.head?.sections.find((s) => s.id === course.sectionId)?.title ?? '', group.value?.title ?? ''].filter((w) => w !== '').join(', '),
);
const isFull = ref(false);
/** Closes what is open, and gives the hand back to where it came from. */
function close(): void {
  const button = opened.value !== null && 'button' in opened.value ? opened.value.button : null;
  opened.value = null;
  wish.value = null;
  void nextTick(() => {
    if (button?.isConnected === true) button.focus();
    else grid.value?.focus();
  });
}

cursor.follow(rows, columns);
/** Another's change comes in under the hand; a cell that is being typed into is left alone until it is kept. */
async function refresh(changed: readonly string[] | null): Promise<void> {
  // What was is as it was.
  if (asOf.value !== null) return;
  await untilKept();
  await (changed === null ? load() : loadRows(changed));
}
const untilKept = (): Promise<void> =>
  new Promise((done) => {
    const stop = watch(
      typing.text,
      (text) => {
        if (text !== null) return;
        done();
        void nextTick(() => {
          stop();
        });
      },
      { immediate: true },
    );
  });
useFreshRows(courseId, ['grades', 'marks', 'plan', 'people', 'work'], refresh);

async function classSoFar(): Promise<void> {
  at.value = null;
  await nextTick();
  await showClass(course.sectionId);
}
onMounted(() => {
  if (route.query.of === 'class') void classSoFar();
});
/** An address may name a student, and a column: their cell is chosen, with its working; without a column it is the total so far. */
const stopNamed = watch(
  [rows, columns],
  () => {
    const { student, column: named } = route.query;
    if (typeof student !== 'string' || rows.value.length === 0 || columns.value.length === 0) return;
    stopNamed();
    const [r, c] = [
      rows.value.findIndex((one) => one.enrolmentId === student),
      columns.value.findIndex((one) => (typeof named === 'string' ? one.columnId === named : one.kind === 'soFar')),
    ];
    if (r >= 0 && c >= 0)
      void nextTick(() => {
        cursor.goTo(r, c);
      });
  },
  { flush: 'post' },
);
/** Said or left unsaid: the history of the cell is read anew, and the hand is back in the grid. */
async function leaveReason(): Promise<void> {
  changedAfter.value = null;
  grid.value?.focus();
  await readWorking();
}
async function answer(go: (() => Promise<void>) | null): Promise<void> {
  asked.value = null;
  grid.value?.focus();
  await go?.();
}
function copy(event: ClipboardEvent): void {
  if (cursor.block.value === null || typing.text.value !== null) return;
  event.clipboardData?.setData('text/plain', copyBlock(rows.value, columns.value, cursor.block.value));
  event.preventDefault();
}
/** A step of a cell was taken back or put back: its row is read again, and its working. */
async function rowWritten(): Promise<void> {
  if (row.value !== null) await loadRows([row.value.enrolmentId]);
  await readWorking();
}
</script>

<template>
  <ClassListSheet v-if="opened?.what === 'list'" :rows="rows" :columns="columns" :at="asOf" :words="narrowWords" @leave="close" />
  <div v-else :class="['two', 'book', { full: isFull }]">
    <section class="grid-side" aria-label="Gradebook">
      <div class="top">
        <span class="soft">{{ countOf(rows.length, 'student') }}</span>
        <ActButton v-if="isOutOfOrder" look="act" @click="sortAgain">Sort again</ActButton>
        <ActButton v-if="book && book.rows.length > 0" look="act" @click="classSoFar">class so far</ActButton>
        <span v-if="book && book.total === 'weights' && book.weightsSum !== 100000" class="clay"
          >The weights add to {{ book.weightsSum / 1000 }} %, not 100 %. Totals are taken in proportion.</span
        ><span v-if="course.weeks" class="soft"
          >items of week {{ course.weeks[0] === course.weeks[1] ? course.weeks[0] : `${course.weeks[0]} to ${course.weeks[1]}` }} only ·
          <ActButton look="act" @click="course.weeks = null">all weeks</ActButton></span
        ><span class="end" />
        <BookBar
          v-if="book"
          v-model:choice="shown"
          v-model:letters="letters"
          v-model:is-full="isFull"
          v-model:as-of="asOf"
          :book="book"
          :can-edit="canEdit"
          :group-title="group?.title ?? null"
          :rows="rows"
          :columns="columns"
          :course-id="courseId"
          @add="opened = { what: 'add' }"
          @arrange="opened = { what: 'arrange' }"
          @import="opened = { what: 'import' }"
          @differences="opened = { what: 'differences' }"
          @list="opened = { what: 'list' }"
        /><template v-if="canEdit"
          ><router-link :to="{ name: 'policy', params: { courseId } }">Policy</router-link
          ><router-link :to="{ name: 'finals', params: { courseId } }">Final grades</router-link></template
        ><GridKeys />
      </div>
      <PastBanner v-if="book?.asOf" :as-of="book.asOf" @back="asOf = null" />
      <p v-if="fault" class="fault pad">{{ fault }}</p>
      <p v-if="book && (book.rows.length === 0 || book.columns.length === 0)" class="soft pad">
        {{
          book.columns.length === 0
            ? 'Assignments and class activities that are open will stand here as columns.'
            : 'Students will stand here as rows, once the roster has some.'
        }}
      </p>
      <div v-if="!book && !fault" class="pad">
        <div v-for="n in 12" :key="n" class="skeleton" style="height: 20px; margin-bottom: 7px" />
      </div>
      <BookGrid
        v-else-if="book && book.rows.length > 0"
        ref="grid"
        :rows="rows"
        :columns="columns"
        :cursor="cursor"
        :typing="typing"
        :can-edit="canEdit"
        :sort-of="sortOf"
        :pending="pending"
        :is-compact="shown.isCompact"
        :name-by="shown.nameBy"
        :lit="lit"
        @sort="sort"
        @copy="copy"
        @paste="paste"
        @fill-down="cursor.block.value && fillDown(cursor.block.value)"
        @menu="(column, button) => (opened = { what: 'menu', column, button })"
      />
    </section>
    <aside v-if="shown.showsInspector || asked || changedAfter || typing.fault.value" class="inspector" aria-label="Working">
      <ActButton
        class="closes"
        aria-label="Close the working"
        title="Close (View brings it back)"
        @click="shown = { ...shown, showsInspector: false }"
        >×</ActButton
      >
      <p v-if="typing.fault.value" class="fault" role="alert">{{ typing.fault.value }}</p>
      <AfterRelease v-if="changedAfter" :course-id="courseId" :changed="changedAfter" @done="leaveReason" />
      <AskedCell v-if="asked" :asked="asked" @answer="answer" />
      <WorkingSide
        v-if="working && book && (at === null || (row && column))"
        v-model:which="which"
        :course-id="courseId"
        :book="book"
        :working="working"
        :row="row"
        :column="column"
        :turn="turn"
        :can-edit="canEdit"
        :is-past="asOf !== null"
        @written="rowWritten"
        @past="asOf = $event"
      />
      <p v-else class="soft">Choose any number to open its working, down to each item.</p>
    </aside>
    <BookOver
      v-if="book && (opened || wish)"
      v-model:opened="opened"
      :course-id="courseId"
      :book="book"
      :rows="rows"
      :columns="columns"
      :wish="wish"
      :can-edit="canEdit"
      @close="close"
      @changed="load"
      @sort="sort"
      :reload="load"
      @planned="wish = $event"
      @past="asOf = $event"
      @fill="fillColumn"
      @order="shown = { ...shown, own: $event }"
    />
  </div>
</template>

<style scoped>
.book {
  flex: none;
  height: calc(100vh - 216px);
  min-height: 380px;
}
.book .inspector {
  position: static;
  max-height: none;
  min-height: 0;
  align-self: stretch;
}
.grid-side {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
  background: var(--paper);
}
.top {
  display: flex;
  gap: 18px;
  padding: 6px 14px 6px 20px;
  align-items: baseline;
  border-bottom: 1px solid var(--frost2);
}
.inspector {
  width: 330px;
}
/* Over bar, term line and views. */
.full.book {
  position: fixed;
  inset: 0;
  z-index: 30;
  height: 100vh;
  background: var(--paper);
}
.closes {
  float: right;
  min-width: 26px;
  min-height: 26px;
  color: var(--soft);
}
</style>

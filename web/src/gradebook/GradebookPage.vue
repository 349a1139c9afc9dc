<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { BookRow } from '@rosemary/api';
import { countOf, kindOfItem, readCellText, type KindOfItem, type SchemeLevel } from '@rosemary/core';
import { computed, defineAsyncComponent, nextTick, onMounted, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import FloatMenu from '../parts/FloatMenu.vue';
import KeysHelp from '../parts/KeysHelp.vue';
import WorkingLines from '../parts/WorkingLines.vue';
import LineField from '../parts/fields/LineField.vue';
import { call } from '../platform/call.ts';
import { useChosen } from '../platform/kept.ts';
import { useFreshRows } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import BookGrid from './BookGrid.vue';
import type { Column } from './columns.ts';
import { choiceWords, FIRST_CHOICE, highlightOf, type GridChoice } from './gridChoice.ts';
import { useBlock } from './useBlock.ts';
import { useBook } from './useBook.ts';
import { useCellTyping } from './useCellTyping.ts';
import { useCellWrites } from './useCellWrites.ts';
import { useGridCursor } from './useGridCursor.ts';
import { useGridModel } from './useGridModel.ts';
import { useWorking } from './useWorking.ts';
import { copyBlock } from './copyBlock.ts';

const CellHistory = defineAsyncComponent(() => import('./CellHistory.vue'));
const CellWordsPart = defineAsyncComponent(() => import('./CellWordsPart.vue'));
// Each over the page, once it is asked for.
const ViewChoice = defineAsyncComponent(() => import('./ViewChoice.vue'));
const ColumnMenu = defineAsyncComponent(() => import('./ColumnMenu.vue'));
const BlockDialog = defineAsyncComponent(() => import('./BlockDialog.vue'));
const FillDialog = defineAsyncComponent(() => import('./FillDialog.vue'));
const CurveDialog = defineAsyncComponent(() => import('./CurveDialog.vue'));
const PlaceDialog = defineAsyncComponent(() => import('./PlaceDialog.vue'));
const ColumnForm = defineAsyncComponent(() => import('./ColumnForm.vue'));
const ArrangeDialog = defineAsyncComponent(() => import('./ArrangeDialog.vue'));
const Menu = defineAsyncComponent(() => import('vuetify/components/VMenu').then((m) => m.VMenu));

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
const members = ref<ReadonlySet<string> | null>(null);
const { book, fault, load, loadRows, columns, ofSection, accept } = useBook(
  courseId,
  shown,
  computed(() => ({ members: members.value, letters: letters.value })),
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
/** The letters that can be typed into a column: those of the scheme, where its results are read as letters. */
const levelsIn = (c: Column): readonly SchemeLevel[] => (book.value?.columns[c.place]?.takesLetters === true ? book.value.levels : []);
const canEdit = computed(() => course.head?.role === 'instructor');
const { working, which, turn, readWorking, showClass } = useWorking(courseId, row, column);
const { asked, write, undo, pending } = useCellWrites(
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
  else pasteText(text, block);
}
/** What is open over the page: a column at its head, or a dialog about one. */
const opened = ref<{ readonly what: 'menu' | 'fill' | 'curve' | 'place'; readonly column: Column; readonly button: HTMLElement } | null>(
  null,
);
const isAdding = ref(false);
const isArranging = ref(false);
const isFull = ref(false);
const openedColumn = computed(() => book.value?.columns.find((c) => c.id === opened.value?.column.columnId) ?? null);
const open = (what: 'fill' | 'curve' | 'place'): void => {
  if (opened.value !== null) opened.value = { ...opened.value, what };
};
function close(): void {
  const button = opened.value?.button;
  opened.value = null;
  void nextTick(() => {
    if (button?.isConnected === true) button.focus();
    else grid.value?.focus();
  });
}
const emptyIn = (c: Column): number => rows.value.filter((r) => isEmpty(r, c)).length;
function isEmpty(r: BookRow, c: Column): boolean {
  const held = r.cells[c.place];
  return held === undefined || held === 0 || (held[6] === null && held[0] !== 'outside');
}

/** Whoever is chosen stays chosen while rows and columns change under the hand. */
async function keepChosen(change: () => unknown): Promise<void> {
  const [who, what] = [row.value?.enrolmentId, column.value?.key];
  await change();
  await nextTick();
  if (at.value === null) return;
  const next = { row: rows.value.findIndex((r) => r.enrolmentId === who), column: columns.value.findIndex((c) => c.key === what) };
  if (next.row < 0 || next.column < 0) at.value = null;
  else if (next.row !== at.value.row || next.column !== at.value.column) cursor.goTo(next.row, next.column);
}
/** Another's change comes in under the hand; a cell that is being typed into is left alone until it is kept. */
async function refresh(changed: readonly string[] | null): Promise<void> {
  await untilKept();
  await keepChosen(() => (changed === null ? load() : loadRows(changed)));
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
const KEYS = [
  ['0 … 9', 'type a score; 80 % of the points; e exempt, m missing, u unfinished'],
  ['Enter, F2', 'change the cell; Enter again keeps it and goes down'],
  ['Tab', 'keeps it and goes right'],
  ['← ↑ ↓ →', 'from cell to cell; with Ctrl to the edge; with Shift to choose several'],
  ['Home, End', 'in the row; with Ctrl in the grid'],
  ['Ctrl C, Ctrl V', 'copies what is chosen for a spreadsheet, pastes what comes from one; seen first'],
  ['Ctrl D', 'fills what is chosen with its first row; seen first'],
  ['Alt ↓', 'opens the column'],
  ['Delete', 'empties the cell'],
  ['Esc', 'leaves what was typed; then Tab leaves the grid'],
] as const;
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
function closeBlock(): void {
  wish.value = null;
  grid.value?.focus();
}
async function sortFromMenu(isSecond: boolean): Promise<void> {
  const key = opened.value?.column.key;
  close();
  if (key !== undefined) await keepChosen(() => sort(key, isSecond));
}
const isOutside = (r: BookRow, c: Column): boolean => {
  const held = r.cells[c.place];
  return held !== undefined && held !== 0 && held[0] === 'outside';
};
const leftOut = computed(() => (book.value === null ? '' : choiceWords(shown.value, book.value, group.value?.title ?? null)));
/** The columns as they stand now, for an order of one's own. */
const inOrder = computed(() => {
  const at = new Map(columns.value.map((c, n) => [c.key, n]));
  return [...(book.value?.columns ?? [])].sort((a, b) => (at.get(a.id) ?? Infinity) - (at.get(b.id) ?? Infinity));
});
/** What a marker works with at a column: works, attempts, or nothing, as where no work belongs to it. */
function markingAt(place: number): KindOfItem['marking'] {
  const of = book.value?.columns[place];
  const kind = of?.role === 'work' ? of.kind : null;
  return kind === null ? 'none' : kindOfItem(kind).marking;
}
</script>

<template>
  <div :class="['two', 'book', { full: isFull }]">
    <section class="grid-side" aria-label="Gradebook">
      <div class="top">
        <span class="soft">{{ countOf(rows.length, 'student') }}</span>
        <ActButton v-if="isOutOfOrder" look="act" @click="keepChosen(sortAgain)">Sort again</ActButton>
        <ActButton v-if="book && book.rows.length > 0" look="act" @click="classSoFar">class so far</ActButton>
        <span v-if="book && book.total === 'weights' && book.weightsSum !== 100000" class="clay"
          >The weights add to {{ book.weightsSum / 1000 }} %, not 100 %. Totals are taken in proportion.</span
        ><span v-if="course.weeks" class="soft"
          >items of week {{ course.weeks[0] === course.weeks[1] ? course.weeks[0] : `${course.weeks[0]} to ${course.weeks[1]}` }} only ·
          <ActButton look="act" @click="course.weeks = null">all weeks</ActButton></span
        ><span v-if="book && leftOut !== ''" class="soft"
          >{{ leftOut }} ·
          <ActButton look="act" @click="shown = { ...shown, categoryId: null, periodId: null, groupId: null, state: null }"
            >show everything</ActButton
          ></span
        ><span class="end" />
        <LineField v-model="letters" class="letters" placeholder="Find a student" aria-label="Find a student in the gradebook" clearable />
        <ActButton v-if="canEdit && book" look="act" @click="isAdding = true">Add column</ActButton>
        <FloatMenu v-if="book" stays location="bottom end"
          ><template #activator="{ props: opener }"><ActButton v-bind="opener" look="act">View ▾</ActButton></template
          ><ViewChoice v-model="shown" :book="book" @arrange="isArranging = true" /></FloatMenu
        ><ActButton look="act" :aria-pressed="isFull" @click="isFull = !isFull">{{
          isFull ? 'Leave full screen' : 'Full screen'
        }}</ActButton
        ><router-link v-if="canEdit" :to="{ name: 'policy', params: { courseId } }">How the grade is made</router-link
        ><KeysHelp :keys="KEYS" />
      </div>
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
        @sort="(key, isSecond) => keepChosen(() => sort(key, isSecond))"
        @copy="copy"
        @paste="paste"
        @fill-down="cursor.block.value && fillDown(cursor.block.value)"
        @menu="(column, button) => (opened = { what: 'menu', column, button })"
      />
    </section>
    <aside v-if="shown.showsInspector || asked || typing.fault.value" class="inspector" aria-label="Working">
      <ActButton
        class="closes"
        aria-label="Close the working"
        title="Close (View brings it back)"
        @click="shown = { ...shown, showsInspector: false }"
        >×</ActButton
      >
      <p v-if="typing.fault.value" class="fault" role="alert">{{ typing.fault.value }}</p>
      <div v-if="asked" class="ask" role="alert">
        <b>{{ asked.who }} · {{ asked.title }}</b>
        <p>{{ asked.text }}</p>
        <template v-if="asked.theirs !== null">
          <dl>
            <dt>theirs</dt>
            <dd>{{ asked.theirs }}</dd>
            <dt>yours</dt>
            <dd>{{ asked.mine }}</dd>
          </dl>
          <ActButton look="go" @click="answer(asked.go)">Write {{ asked.mine }}</ActButton>
          <ActButton look="quiet" @click="answer(null)">Keep {{ asked.theirs }}</ActButton>
        </template>
        <template v-else>
          <ActButton look="go" @click="answer(asked.go)">Yes, write {{ asked.mine }}</ActButton>
          <ActButton look="quiet" @click="answer(null)">No, leave it</ActButton>
        </template>
      </div>
      <template v-if="working && (at === null || (row && column))"
        ><p class="label">{{ working.who }}</p>
        <h3>{{ working.title }}</h3>
        <p class="soft" style="margin: 2px 0 10px">{{ working.rule }}</p>
        <p v-if="column?.kind === 'range'" style="padding-bottom: 8px">
          <ActButton look="act" :aria-pressed="which === 'floor'" @click="which = 'floor'">floor</ActButton> ·
          <ActButton look="act" :aria-pressed="which === 'reach'" @click="which = 'reach'">reach</ActButton>
        </p>
        <WorkingLines :lines="working.lines" />
        <p v-if="working.inTotal" class="soft" style="padding-top: 12px">{{ working.inTotal }}</p>
        <p v-if="row && column?.kind === 'graded'" style="padding-top: 12px">
          <router-link v-if="markingAt(column.place) === 'work'" :to="`/courses/${courseId}/marking/${column.itemId}/${row.enrolmentId}`"
            >To the work</router-link
          >
          <router-link
            v-else-if="markingAt(column.place) === 'attempts'"
            :to="{ name: 'quiz-results', params: { courseId, itemId: column.itemId } }"
            >To the paper</router-link
          >
        </p>
        <CellHistory
          v-if="row && column?.kind === 'graded' && column.columnId !== null"
          :key="`${row.enrolmentId} ${column.key} ${turn}`"
          :at="{ courseId, columnId: column.columnId, enrolmentId: row.enrolmentId }"
          :can-undo="canEdit"
          @undo="undo($event).then(readWorking, notices.sayFault)"
        />
        <CellWordsPart
          v-if="row && column?.kind === 'graded' && column.columnId !== null && !isOutside(row, column)"
          :key="`words ${row.enrolmentId} ${column.key}`"
          :at="{ courseId, columnId: column.columnId, enrolmentId: row.enrolmentId }"
          :who="row.givenName"
          :can-edit="canEdit"
        />
      </template>
      <p v-else class="soft">Choose any number to open its working, down to each item.</p>
    </aside>
    <component
      :is="Menu"
      v-if="opened?.what === 'menu' && openedColumn"
      :model-value="true"
      :target="opened.button"
      :close-on-content-click="false"
      location="bottom end"
      @update:model-value="close"
      ><ColumnMenu
        :course-id="courseId"
        :column="openedColumn"
        :can-edit="canEdit"
        @close="close"
        @fill="open('fill')"
        @curve="open('curve')"
        @place="open('place')"
        @changed="load"
        @sort="sortFromMenu"
    /></component>
    <FillDialog
      v-if="opened?.what === 'fill'"
      :column="opened.column"
      :empty="emptyIn(opened.column)"
      :students="rows.length"
      :levels="openedColumn?.takesLetters ? (book?.levels ?? []) : []"
      @close="close"
      @fill="(text, isOnlyEmpty) => opened && fillColumn(opened.column, text, isOnlyEmpty)"
    />
    <CurveDialog
      v-if="opened?.what === 'curve' && openedColumn"
      :course-id="courseId"
      :column-id="openedColumn.id"
      @close="close"
      @changed="load"
    />
    <PlaceDialog
      v-if="opened?.what === 'place' && openedColumn"
      :course-id="courseId"
      :column="openedColumn"
      @close="close"
      @changed="load"
    />
    <BlockDialog v-if="wish && book" :course-id="courseId" :wish="wish" :levels="book.levels" @close="closeBlock" @written="load" />
    <ColumnForm v-if="isAdding && book" :course-id="courseId" :categories="book.categories" @close="isAdding = false" @added="load" />
    <ArrangeDialog v-if="isArranging && book" :columns="inOrder" @close="isArranging = false" @order="shown = { ...shown, own: $event }" />
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
.letters {
  width: 150px;
}
.closes {
  float: right;
  min-width: 26px;
  min-height: 26px;
  color: var(--soft);
}
.ask {
  border-left: 3px solid var(--straw);
  padding: 4px 0 8px 12px;
  margin-bottom: 14px;
}
.ask .button {
  margin-top: 8px;
}
.ask dl {
  display: grid;
  grid-template-columns: 60px 1fr;
}
</style>

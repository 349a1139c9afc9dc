<script setup lang="ts">
import { countOf, kindOfItem, type KindOfItem } from '@rosemary/core';
import { computed, defineAsyncComponent, nextTick, onMounted, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import KeysHelp from '../parts/KeysHelp.vue';
import WorkingLines from '../parts/WorkingLines.vue';
import { useFreshRows } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import BookGrid from './BookGrid.vue';
import { useBook } from './useBook.ts';
import { useCellTyping } from './useCellTyping.ts';
import { useCellWrites } from './useCellWrites.ts';
import { useGridCursor } from './useGridCursor.ts';
import { useGridModel } from './useGridModel.ts';
import { useWorking } from './useWorking.ts';
import { copyBlock } from './copyBlock.ts';

const CellHistory = defineAsyncComponent(() => import('./CellHistory.vue'));

const route = useRoute();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const { book, fault, load, loadRows, columns, ofSection, accept } = useBook(courseId);
const { rows, sort, sortOf, sortAgain, isOutOfOrder } = useGridModel(
  ofSection,
  columns,
  computed(() => course.sectionId),
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
  (c) => book.value?.columns[c.place]?.possible ?? 0,
  canEdit,
  (where, wish) => void write(where, wish),
);
onMounted(load);

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
  ['Ctrl C', 'copies what is chosen, for a spreadsheet'],
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
/** What a marker works with at a column: works, attempts, or nothing, as where no work belongs to it. */
function markingAt(place: number): KindOfItem['marking'] {
  const of = book.value?.columns[place];
  const kind = of?.role === 'work' ? of.kind : null;
  return kind === null ? 'none' : kindOfItem(kind).marking;
}
</script>

<template>
  <div class="two book">
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
        ><span class="end" /><router-link v-if="canEdit" :to="{ name: 'policy', params: { courseId } }">How the grade is made</router-link
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
        @sort="keepChosen(() => sort($event))"
        @copy="copy"
      />
    </section>
    <aside class="inspector" aria-label="Working">
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
      </template>
      <p v-else class="soft">Choose any number to open its working, down to each item.</p>
    </aside>
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

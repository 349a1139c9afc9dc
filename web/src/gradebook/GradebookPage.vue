<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { call } from '../platform/call.ts';
import type { BookRow, WorkingView } from '@rosemary/api';
import { countOf, formatPoints, kindOfItem, parsePoints, type KindOfItem } from '@rosemary/core';
import { useVirtualizer } from '@tanstack/vue-virtual';
import { computed, defineAsyncComponent, nextTick, onMounted, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import KeysHelp from '../parts/KeysHelp.vue';
import { useFreshRows } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import BookCellView from './BookCellView.vue';
import { useBook, type CellWish, type Column } from './useBook.ts';
import WorkingLines from '../parts/WorkingLines.vue';
import ActButton from '../parts/ActButton.vue';
import CellField from '../parts/CellField.vue';

const CellHistory = defineAsyncComponent(() => import('./CellHistory.vue'));
// The strips of dots are drawn once the numbers are there.
const DotStrip = defineAsyncComponent(() => import('./DotStrip.vue'));

const route = useRoute();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const b = useBook(courseId);
const { book, rows, columns, fault, asks } = b;
const all = computed<readonly Column[]>(() => [...columns.value, ...b.totals]);
const at = ref<{ row: number; column: number } | null>(null);
const typing = ref<string | null>(null);
const typingFault = ref('');
/** What the field held when it was opened: leaving it unchanged writes nothing. */
let opened: string | null = null;
const working = ref<WorkingView | null>(null);
const historyTurn = ref(0);
const scroller = ref<HTMLElement | null>(null);
const canEdit = computed(() => course.head?.role === 'instructor');
onMounted(b.load);
const virtual = useVirtualizer(
  computed(() => ({ count: rows.value.length, getScrollElement: () => scroller.value, estimateSize: () => 27, overscan: 14 })),
);
const row = computed((): BookRow | null => (at.value === null ? null : (rows.value[at.value.row] ?? null)));
const column = computed((): Column | null => (at.value === null ? null : (all.value[at.value.column] ?? null)));

const workingKey = computed(() =>
  column.value === null
    ? ''
    : column.value.kind === 'graded'
      ? `column:${column.value.columnId}`
      : column.value.kind === 'range'
        ? 'floor'
        : column.value.key,
);
const which = ref<'floor' | 'reach'>('floor');
async function readWorking(): Promise<void> {
  const who = row.value;
  if (who === null || column.value === null) {
    working.value = null;
    return;
  }
  const of = column.value.kind === 'range' ? which.value : workingKey.value;
  try {
    working.value = await call(api.getWorking, { courseId: courseId.value, enrolmentId: who.enrolmentId, of });
  } catch (error) {
    notices.sayFault(error);
  }
}
/** Another's change comes in under the hand: the same student and column stay chosen, and a cell being typed into is left alone. */
async function refresh(changed: readonly string[] | null): Promise<void> {
  await untilKept();
  const [who, what] = [row.value?.enrolmentId, column.value?.key];
  await (changed === null ? b.load() : b.loadRows(changed));
  if (at.value === null) return;
  const [r, c] = [rows.value.findIndex((x) => x.enrolmentId === who), all.value.findIndex((x) => x.key === what)];
  at.value = r < 0 || c < 0 ? null : { row: r, column: c };
  await readWorking();
  historyTurn.value += 1;
}
const untilKept = (): Promise<void> =>
  new Promise((done) => {
    const stop = watch(
      typing,
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
watch([() => row.value, workingKey, which], () => {
  void readWorking();
  historyTurn.value += 1;
});

/** How the class stands, with every total it is the mean of; the Desk's number leads here. */
async function showClass(): Promise<void> {
  at.value = null;
  await nextTick();
  try {
    const section = course.sectionId === null ? {} : { section: course.sectionId };
    working.value = await call(api.getClassWorking, { courseId: courseId.value, ...section });
  } catch (error) {
    notices.sayFault(error);
  }
}
onMounted(() => {
  if (route.query.of === 'class') void showClass();
});
function select(r: number, c: number): void {
  if (typing.value !== null) keep();
  at.value = { row: r, column: c };
  typing.value = null;
  typingFault.value = '';
}
function move(dr: number, dc: number): void {
  if (at.value !== null) goTo(at.value.row + dr, at.value.column + dc);
}
function goTo(toRow: number, toColumn: number): void {
  const next = {
    row: Math.min(rows.value.length - 1, Math.max(0, toRow)),
    column: Math.min(all.value.length - 1, Math.max(0, toColumn)),
  };
  at.value = next;
  virtual.value.scrollToIndex(next.row, { align: 'auto' });
  void nextTick(() => {
    document.getElementById(`cell-${next.row}-${next.column}`)?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    scroller.value?.focus();
  });
}
const STATES: Record<string, CellWish['state']> = {
  e: 'exempt',
  exempt: 'exempt',
  '(-)': 'exempt',
  m: 'missing',
  missing: 'missing',
  u: 'unfinished',
  unfinished: 'unfinished',
  '[': 'unfinished',
};
/** A number, a percentage of the points, a state's word or first letter, or nothing at all. */
function read(text: string, possible: number): CellWish | string {
  const word = text.trim().toLowerCase();
  if (word === '') return { state: null, raw: null };
  if (STATES[word]) return { state: STATES[word] ?? null, raw: null };
  const share = /^(\d{1,3}(?:[.,]\d{1,3})?)\s*%$/.exec(word);
  const parsed = parsePoints(share?.[1] ?? word);
  if (!parsed.ok) return `${parsed.reason} Or: a percentage such as 80 %, exempt, missing, unfinished.`;
  return { state: 'scored', raw: share === null ? parsed.value : Math.round((parsed.value * possible) / 100_000) };
}
/** Keeps what was typed and lets the hand go on at once; the write follows, and the working after it. */
function keep(): boolean {
  const who = row.value;
  const what = column.value;
  const text = typing.value;
  if (text === null || who === null || what === null || what.kind !== 'graded') return true;
  if (text === opened) {
    typing.value = null;
    typingFault.value = '';
    return true;
  }
  const wish = read(text, book.value?.columns[what.place]?.possible ?? 0);
  if (typeof wish === 'string') {
    typingFault.value = wish;
    return false;
  }
  typing.value = null;
  typingFault.value = '';
  const value = wish.raw === null ? (wish.state ?? 'empty') : formatPoints(wish.raw);
  void b.write(who, what, wish, `${who.familyName}, ${who.givenName} · ${what.title}: ${value}.`).then(() => {
    historyTurn.value += 1;
    return readWorking();
  });
  return true;
}
/** Esc with nothing being typed lets the next Tab leave the grid. */
let isLeaving = false;
function onKey(event: KeyboardEvent): void {
  if (at.value === null || event.altKey) return;
  const isTyping = typing.value !== null;
  const wasLeaving = isLeaving;
  isLeaving = false;
  if ((event.ctrlKey || event.metaKey) && !isTyping && (event.key === 'Home' || event.key === 'End')) {
    event.preventDefault();
    if (event.key === 'Home') goTo(0, 0);
    else goTo(rows.value.length - 1, all.value.length - 1);
    return;
  }
  if (event.ctrlKey || event.metaKey) return;
  if (event.key === 'Tab' && wasLeaving && !isTyping) return;
  const go = (dr: number, dc: number): void => {
    event.preventDefault();
    if (keep()) move(dr, dc);
  };
  if (event.key === 'Enter') {
    if (isTyping || !canEdit.value) go(event.shiftKey ? -1 : 1, 0);
    else startTyping(null);
    event.preventDefault();
  } else if (event.key === 'Tab') go(0, event.shiftKey ? -1 : 1);
  else if (event.key === 'Escape') {
    isLeaving = !isTyping;
    typing.value = null;
    typingFault.value = '';
    scroller.value?.focus();
  } else if (!isTyping && event.key === 'ArrowDown') go(1, 0);
  else if (!isTyping && event.key === 'ArrowUp') go(-1, 0);
  else if (!isTyping && event.key === 'ArrowRight') go(0, 1);
  else if (!isTyping && event.key === 'ArrowLeft') go(0, -1);
  else if (!isTyping && event.key === 'F2') {
    event.preventDefault();
    startTyping(null);
  } else if (!isTyping && (event.key === 'Home' || event.key === 'End')) {
    event.preventDefault();
    goTo(at.value.row, event.key === 'Home' ? 0 : all.value.length - 1);
  } else if (!isTyping && (event.key === 'Delete' || event.key === 'Backspace')) {
    event.preventDefault();
    startTyping('');
    keep();
  } else if (!isTyping && event.key.length === 1 && event.key !== ' ') {
    event.preventDefault();
    startTyping(event.key);
  } else if (isTyping && event.key.length === 1 && (event.target as HTMLElement).id !== 'cell-field') {
    event.preventDefault();
    typing.value += event.key;
  }
}
function startTyping(first: string | null): void {
  if (!canEdit.value || column.value?.kind !== 'graded') return;
  const cell = row.value?.cells[column.value.place];
  if (cell !== undefined && cell !== 0 && cell[0] === 'outside') {
    notices.say(`“${column.value.title}” is not for ${row.value?.givenName ?? 'this student'}. Change in the Plan who it is for.`, null);
    return;
  }
  const given = cell === undefined || cell === 0 ? null : cell[6];
  opened = given === null ? '' : typeof given === 'number' ? formatPoints(given) : given;
  typing.value = first ?? opened;
  void nextTick(() => {
    const field = document.getElementById('cell-field') as HTMLInputElement | null;
    field?.focus();
    if (first === null) field?.select();
  });
}
const spans = computed(() => {
  const list: { title: string; many: number }[] = [];
  for (const c of all.value) {
    const last = list.at(-1);
    if (last && last.title === c.group && !c.isFirst) last.many += 1;
    else list.push({ title: c.group, many: 1 });
  }
  return list;
});
const KEYS = [
  ['0 … 9', 'type a score; 80 % of the points; e exempt, m missing, u unfinished'],
  ['Enter, F2', 'change the cell; Enter again keeps it and goes down'],
  ['Tab', 'keeps it and goes right'],
  ['← ↑ ↓ →', 'from cell to cell; Home and End in the row, with Ctrl in the grid'],
  ['Delete', 'empties the cell'],
  ['Esc', 'leaves what was typed; then Tab leaves the grid'],
] as const;
const confirm = async (): Promise<void> => {
  const ask = asks.value;
  asks.value = null;
  await ask?.go();
  await readWorking();
  historyTurn.value += 1;
};
const sortOf = (key: string): 'ascending' | 'descending' | undefined =>
  b.sortBy.value.key !== key ? undefined : b.sortBy.value.down ? 'descending' : 'ascending';
/** Whoever is chosen stays chosen where everybody is sorted anew. */
function sortRows(sort: () => void): void {
  const who = row.value?.enrolmentId;
  sort();
  if (at.value !== null)
    goTo(
      rows.value.findIndex((r) => r.enrolmentId === who),
      at.value.column,
    );
}
const soFarShares = computed(() => rows.value.flatMap((r) => (r.totals.soFar === null ? [] : [Number(r.totals.soFar)])));
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
        <ActButton v-if="b.isOutOfOrder.value" look="act" @click="sortRows(b.sortAgain)">Sort again</ActButton>
        <ActButton v-if="book && book.rows.length > 0" look="act" @click="showClass">class so far</ActButton>
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
      <div
        v-else-if="book && book.rows.length > 0"
        ref="scroller"
        class="scroll"
        tabindex="0"
        role="grid"
        aria-label="The grid"
        :aria-rowcount="rows.length + 1"
        :aria-colcount="all.length + 1"
        :aria-activedescendant="at === null ? undefined : `cell-${at.row}-${at.column}`"
        @keydown="onKey"
        @focus="at ??= { row: 0, column: 0 }"
      >
        <table role="presentation" :style="{ width: 'max-content', minWidth: '100%' }">
          <thead role="rowgroup">
            <tr role="row">
              <td class="name-col corner" role="gridcell" />
              <th v-for="(g, n) in spans" :key="n" class="g" role="columnheader" :colspan="g.many">{{ g.title }}</th>
            </tr>
            <tr role="row" aria-rowindex="1">
              <th class="name-col" role="columnheader" :aria-sort="sortOf('name')">
                <ActButton class="sort" @click="sortRows(() => b.sort('name'))">
                  by name {{ b.sortBy.value.key === 'name' ? (b.sortBy.value.down ? '▴' : '▾') : '' }}
                </ActButton>
              </th>
              <th
                v-for="c in all"
                :key="c.key"
                role="columnheader"
                :aria-sort="sortOf(c.key)"
                :class="{ sub: c.kind !== 'graded', frozen: c.kind === 'soFar' || c.kind === 'range', [c.kind]: true }"
              >
                <ActButton class="sort" :title="`Sort by ${c.title}`" @click="sortRows(() => b.sort(c.key))">
                  <span class="ct">{{ c.title }}</span>{{ b.sortBy.value.key === c.key ? (b.sortBy.value.down ? ' ▾' : ' ▴') : ''
                  }}<span v-if="c.isAside"> ·</span></ActButton
                ><DotStrip :shares="c.kind === 'soFar' ? soFarShares : c.shares" />
              </th>
            </tr>
          </thead>
          <tbody role="rowgroup">
            <tr v-if="virtual.getVirtualItems()[0]" :style="{ height: `${virtual.getVirtualItems()[0]!.start}px` }" aria-hidden="true" />
            <tr v-for="v in virtual.getVirtualItems()" :key="rows[v.index]?.enrolmentId ?? v.index" role="row" :aria-rowindex="v.index + 2">
              <template v-if="rows[v.index]"
                ><th class="name-col name" scope="row" role="rowheader">{{ rows[v.index]!.familyName }}, {{ rows[v.index]!.givenName }}</th>
                <td
                  v-for="(c, n) in all"
                  :id="`cell-${v.index}-${n}`"
                  :key="c.key"
                  role="gridcell"
                  :aria-selected="at?.row === v.index && at.column === n"
                  :class="{
                    sub: c.kind !== 'graded',
                    sel: at?.row === v.index && at.column === n,
                    frozen: c.kind === 'soFar' || c.kind === 'range',
                    [c.kind]: true,
                  }"
                  @mousedown="select(v.index, n)"
                  @dblclick="startTyping(null)"
                >
                  <CellField
                    v-if="typing !== null && at?.row === v.index && at.column === n"
                    id="cell-field"
                    v-model="typing"
                    :aria-label="`${rows[v.index]!.familyName}, ${c.title}`"
                    :aria-invalid="typingFault !== ''"
                    @mousedown.stop
                    @blur="keep()"
                  /><BookCellView v-else :row="rows[v.index]!" :column="c" /></td
              ></template>
            </tr>
            <tr :style="{ height: `${virtual.getTotalSize() - (virtual.getVirtualItems().at(-1)?.end ?? 0)}px` }" aria-hidden="true" />
          </tbody>
        </table>
      </div>
    </section>
    <aside class="inspector" aria-label="Working">
      <p v-if="typingFault" class="fault" role="alert">{{ typingFault }}</p>
      <div v-if="asks" class="ask" role="alert">
        {{ asks.text }}<br /><ActButton look="go" @click="confirm">Yes</ActButton>
        <ActButton look="quiet" @click="asks = null">No, leave it</ActButton>
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
          :key="`${row.enrolmentId} ${column.key} ${historyTurn}`"
          :at="{ courseId, columnId: column.columnId, enrolmentId: row.enrolmentId }"
          :can-undo="canEdit"
          @undo="
            b.undo($event).then(() => {
              historyTurn += 1;
              return readWorking();
            }, notices.sayFault)
          "
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
.end {
  margin-left: auto;
}
.scroll {
  flex: 1;
  overflow: auto;
  outline-offset: -2px;
  /* What is brought into view must not lie under the names, the heads or the totals. */
  scroll-padding: 70px 152px 10px 180px;
}
.inspector {
  width: 330px;
}
table {
  border-collapse: separate;
  border-spacing: 0;
  font-size: 13.5px;
}
td,
.name {
  white-space: nowrap;
  border-bottom: 1px solid var(--frost2);
  padding: 0 6px;
  height: 27px;
  text-align: right;
  min-width: 52px;
  background: var(--paper);
  box-sizing: border-box;
}
thead {
  position: sticky;
  top: 0;
  z-index: 4;
}
th {
  font-weight: 400;
  vertical-align: bottom;
  padding: 6px 9px 4px;
  text-align: right;
  color: var(--soft);
  font-size: 12.5px;
  background: var(--paper);
  line-height: 15px;
}
thead tr:last-child th {
  border-bottom: 1.5px solid var(--leaf);
}
td.corner {
  border: 0;
  height: auto;
}
th.g {
  border-bottom: 1px solid var(--frost);
  text-align: left;
  color: var(--needle);
  font:
    500 13px/18px 'Literata Variable',
    serif;
}
.name-col {
  position: sticky;
  left: 0;
  z-index: 3;
  text-align: left !important;
  min-width: 172px;
  padding-left: 20px !important;
  background: var(--paper);
}
.name {
  color: var(--ink);
  font-size: 13.5px;
  vertical-align: middle;
  padding-top: 0;
  padding-bottom: 0;
}
td.sub,
th.sub {
  background: var(--sub);
  font-weight: 600;
  color: var(--ink);
}
td.range,
th.range {
  font-weight: 400;
}
.frozen {
  position: sticky;
  z-index: 2;
}
.soFar {
  right: 78px;
  min-width: 66px;
  width: 66px;
  border-left: 1px solid var(--frost);
}
.range {
  right: 0;
  min-width: 78px;
  width: 78px;
}
td.sel {
  box-shadow: inset 0 0 0 2px var(--bloom);
  background: var(--bloom-wash);
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
.name-col .sort {
  text-align: left;
}
.ct {
  display: inline-block;
  max-width: 78px;
  white-space: normal;
}
.ask {
  border-left: 3px solid var(--straw);
  padding: 4px 0 8px 12px;
  margin-bottom: 14px;
}
.ask .go {
  margin-top: 8px;
}
</style>

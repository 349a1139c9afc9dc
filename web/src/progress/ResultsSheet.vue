<script setup lang="ts">
import type { ProgressReport } from '@rosemary/api';
import {
  countOf,
  dayAndTime,
  type ItemKind,
  kindOfItem,
  placedShares,
  plotInWords,
  percentWords,
  sharePercent,
  spreadOf,
  spreadWords,
  type WorkSpread,
} from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import BoxPlots, { type DrawnPlot } from '../parts/charts/BoxPlots.vue';
import ChartFrame from '../parts/charts/ChartFrame.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import { useCourse } from '../stores/courseStore.ts';
import ComparePart from './ComparePart.vue';
import { type Looked, nameOf } from './useReport.ts';

/** How the results of each piece of work lie, in the order in which they were due, and two of them compared. */
const props = defineProps<{ report: ProgressReport; looked: Looked }>();
const course = useCourse();
const categoryId = ref('');
const typeId = ref('');
const told = ref('');
const markingOf = (kind: ItemKind | null): string => (kind === null ? 'none' : kindOfItem(kind).marking);
const chosen = ref<string | null>(null);
const compares = ref(false);

interface Drawn extends DrawnPlot {
  readonly work: ProgressReport['works'][number];
  readonly spread: WorkSpread;
  readonly left: string;
}
const people = computed(() => props.looked.people.flatMap((place) => props.report.people[place] ?? []));
const names = computed(() => people.value.map((p) => nameOf(p, true)));
/** Who has no result in a piece of work, in words. */
function leftOf(results: readonly unknown[]): string {
  const many = (state: unknown): number => results.filter((r) => r === state).length;
  return [
    [many(null), 'not marked'],
    [many('missing'), 'missing'],
    [many('exempt'), 'exempt'],
    [many('outside'), 'not for them'],
  ]
    .filter(([n]) => n !== 0)
    .map(([n, word]) => `${String(n)} ${String(word)}`)
    .join(', ');
}
const all = computed((): Drawn[] =>
  props.looked.works.flatMap((at): Drawn[] => {
    const work = props.report.works[at];
    if (work === undefined) return [];
    const results = people.value.map((p) => p.results[at] ?? null);
    const spread = spreadOf(placedShares(results, work.possible));
    const values = spread.results.map((r) => r.share);
    const who = spread.results.map((r) => names.value[r.place] ?? '');
    const words = `${work.title}: ${plotInWords(spread.plot, values, who)}; ${countOf(values.length, 'result')}`;
    return [{ id: work.id, title: work.title, plot: spread.plot, values, words, work, spread, left: leftOf(results) }];
  }),
);
const filtered = computed(() =>
  all.value.filter(
    ({ work }) =>
      (categoryId.value === '' || work.categoryId === categoryId.value) && (typeId.value === '' || work.taskTypeId === typeId.value),
  ),
);
const plots = computed(() => filtered.value.filter((p) => p.values.length > 0));
const without = computed(() => filtered.value.length - plots.value.length);
const boxes = computed(() => plots.value.flatMap((p) => (p.plot.kind === 'box' ? [{ ...p, median: p.plot.median }] : [])));
const sentence = computed(() => {
  const ordered = boxes.value.slice().sort((a, b) => a.median - b.median);
  const [low, high] = [ordered[0], ordered.at(-1)];
  const more = without.value === 0 ? '' : ` ${countOf(without.value, 'piece of work has', 'pieces of work have')} no results yet.`;
  if (low === undefined || high === undefined || low === high) return `Each box is the middle half of the students.${more}`;
  return `The median is lowest in “${low.title}”, ${percentWords(low.median)}, and highest in “${high.title}”, ${percentWords(high.median)}.${more}`;
});
const remarks = computed(() =>
  plots.value.flatMap((p) =>
    spreadWords(
      p.plot,
      plots.value.filter((other) => other !== p).map((other) => other.plot),
    ).map((words) => ({ id: `${p.id} ${words}`, title: p.title, words })),
  ),
);
const empty = computed(() => {
  if (props.report.works.length === 0)
    return 'There is no graded work yet. Once there are results, each piece of work stands here as a box plot.';
  if (filtered.value.length === 0) return 'No piece of work is of this category and type in these weeks. Choose another.';
  return plots.value.length === 0 ? 'None of this work has a finished result yet.' : '';
});
const titleOf = (list: readonly { readonly id: string; readonly title: string }[], id: string | null): string | null =>
  list.find((one) => one.id === id)?.title ?? null;
const lines = computed(() => [
  [
    ...['Work', 'Due', 'Category', 'Type of task', 'Results', 'Lowest (%)', 'Lower whisker (%)', 'Lower quartile (%)', 'Median (%)'],
    ...['Upper quartile (%)', 'Upper whisker (%)', 'Highest (%)', 'Outside', 'Not counted'],
  ],
  ...filtered.value.map(({ work, plot, values, spread, left }) => {
    const box = plot.kind === 'box' ? plot : null;
    const number = (share: number | undefined): number | null => (share === undefined ? null : sharePercent(share));
    const sorted = values.slice().sort((a, b) => a - b);
    return [
      work.title,
      work.dueAt === null ? null : dayAndTime(Date.parse(work.dueAt), course.zone, course.now),
      titleOf(props.report.categories, work.categoryId),
      titleOf(props.report.taskTypes, work.taskTypeId),
      values.length,
      number(sorted[0]),
      number(box?.lowWhisker),
      number(box?.lowQuartile),
      number(box?.median),
      number(box?.highQuartile),
      number(box?.highWhisker),
      number(sorted.at(-1)),
      box === null
        ? null
        : box.outliers.map((at) => `${names.value[spread.results[at]?.place ?? -1] ?? ''} ${sharePercent(values[at] ?? 0)}`).join('; '),
      left,
    ];
  }),
]);
const open = computed(() => plots.value.find((p) => p.id === chosen.value) ?? null);
/** Everybody with a result in the work that is open, the lowest first. */
const openResults = computed(() =>
  (open.value?.spread.results ?? [])
    .slice()
    .sort((a, b) => a.share - b.share)
    .flatMap(({ place, share }) => {
      const person = people.value[place];
      return person === undefined ? [] : [{ id: person.enrolmentId, name: nameOf(person, true), share }];
    }),
);
</script>

<template>
  <section aria-label="Results">
    <ChartFrame
      title="Results, in the order they were due"
      name="Results"
      :sentence="sentence"
      :empty="empty"
      :lines="lines"
      :told="told"
      hint="Each box is the middle half of the students, its line the median; rings are people far from the rest. Point at one, or walk through them with the arrows; press it to see everybody."
    >
      <template #acts
        ><ActButton v-if="plots.length > 1" look="act" :aria-expanded="compares" @click="compares = !compares">{{
          compares ? 'Close the comparison' : 'Compare two'
        }}</ActButton></template
      >
      <template #choices>
        <div v-if="report.categories.length > 0 || report.taskTypes.length > 0" class="choices no-print">
          <label v-if="report.categories.length > 0"
            >category
            <ChoiceField v-model="categoryId" is-word>
              <option value="">all</option>
              <option v-for="c in report.categories" :key="c.id" :value="c.id">{{ c.title }}</option>
            </ChoiceField></label
          >
          <label v-if="report.taskTypes.length > 0"
            >type of task
            <ChoiceField v-model="typeId" is-word>
              <option value="">all</option>
              <option v-for="t in report.taskTypes" :key="t.id" :value="t.id">{{ t.title }}</option>
            </ChoiceField></label
          >
        </div>
      </template>
      <template #default="{ width }">
        <BoxPlots
          :plots="plots"
          :width="width"
          :chosen="chosen === null ? [] : [chosen]"
          :label="`Box plots of ${countOf(plots.length, 'piece', 'pieces')} of work. ${sentence}`"
          @told="told = $event"
          @choose="chosen = chosen === $event ? null : $event"
        />
      </template>
      <template #after>
        <div v-if="open" class="made">
          <p>
            <b>{{ open.title }}</b> {{ countOf(openResults.length, 'result') }}{{ open.left === '' ? '' : `; no result: ${open.left}` }}.
            <router-link
              v-if="open.work.itemId && markingOf(open.work.kind) === 'work'"
              :to="{ name: 'stack', params: { courseId: course.head?.id, itemId: open.work.itemId } }"
              >The works</router-link
            ><router-link
              v-else-if="open.work.itemId && markingOf(open.work.kind) === 'attempts'"
              :to="{ name: 'quiz-results', params: { courseId: course.head?.id, itemId: open.work.itemId } }"
              >The attempts</router-link
            >
            <ActButton look="act" class="no-print" @click="chosen = null">Close</ActButton>
          </p>
          <p>
            <router-link
              v-for="r in openResults"
              :key="r.id"
              :to="{ name: 'gradebook', params: { courseId: course.head?.id }, query: { student: r.id, column: open.id } }"
              >{{ r.name }} {{ percentWords(r.share) }}</router-link
            >
          </p>
        </div>
        <ul v-if="remarks.length > 0" class="remarks">
          <li v-for="r in remarks" :key="r.id">“{{ r.title }}”: {{ r.words }}.</li>
        </ul>
      </template>
    </ChartFrame>
    <ComparePart v-if="compares" :plots="plots" :people="people" />
  </section>
</template>

<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { AlignedQuestion, ProgressObjectives, ProgressReport } from '@rosemary/api';
import {
  alignedShares,
  type AlignedPart,
  type Attainment,
  attainmentOf,
  countOf,
  formatPoints,
  howCounted,
  type ItemKind,
  kindOfItem,
  plotInWords,
  percentWords,
  sharePercent,
  spreadOf,
} from '@rosemary/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import ActButton from '../parts/ActButton.vue';
import BoxPlots, { type DrawnPlot } from '../parts/charts/BoxPlots.vue';
import ChartFrame from '../parts/charts/ChartFrame.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { type Looked, nameOf } from './useReport.ts';

/** What the class is strong and weak in: by objective and by criterion, in all and by unit, down to the work and the question. */
const props = defineProps<{ report: ProgressReport; looked: Looked; courseId: string }>();
const course = useCourse();
const data = shallowRef<ProgressObjectives | null>(null);
const fault = ref('');
const by = ref<'objective' | 'criterion'>('objective');
const unitId = ref('');
const chosen = ref<string | null>(null);
const told = ref('');
/** A test is what is taken in attempts. */
const isTest = (kind: ItemKind | null | undefined): boolean =>
  kind !== null && kind !== undefined && kindOfItem(kind).marking === 'attempts';
const questions = shallowRef<{ readonly itemId: string; readonly list: readonly AlignedQuestion[] } | null>(null);
onMounted(async () => {
  try {
    data.value = await call(api.getProgressObjectives, { courseId: props.courseId });
    if (data.value.objectives.every((o) => o.parts.length === 0)) by.value = 'criterion';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const workOf = computed(() => new Map(props.report.works.flatMap((w) => (w.itemId === null ? [] : [[w.itemId, w] as const]))));
const lookedWorks = computed(() => new Set(props.looked.works.flatMap((at) => props.report.works[at]?.itemId ?? [])));
/** The places of the students who are looked at, in the order of the data. */
const own = computed(() => {
  const looked = new Set(props.looked.people.map((place) => props.report.people[place]?.enrolmentId));
  return (data.value?.enrolmentIds ?? []).flatMap((id, place) => (looked.has(id) ? [place] : []));
});
const personOf = computed(() => new Map(props.report.people.map((p) => [p.enrolmentId, p])));
const nameAt = (place: number): string => {
  const person = personOf.value.get(data.value?.enrolmentIds[place] ?? '');
  return person === undefined ? '' : nameOf(person, true);
};
const isLooked = (part: AlignedPart): boolean =>
  lookedWorks.value.has(part.itemId) && (unitId.value === '' || workOf.value.get(part.itemId)?.unitId === unitId.value);

interface Subject {
  readonly id: string;
  readonly title: string;
  readonly full: string;
  readonly parts: readonly AlignedPart[];
}
/** What is aligned to an objective is aligned to those over it too. */
const subjects = computed((): Subject[] => {
  const found = data.value;
  if (found === null) return [];
  if (by.value === 'criterion')
    return found.criteria.map((c) => ({
      id: c.id,
      title: c.title,
      full: `${c.title}, in “${workOf.value.get(c.itemId)?.title ?? ''}”`,
      parts: c.parts.filter(isLooked),
    }));
  const tree = (parentId: string | null): readonly (typeof found.objectives)[number][] =>
    found.objectives.filter((o) => o.parentId === parentId).flatMap((o) => [o, ...tree(o.id)]);
  return tree(null).map((o) => ({
    id: o.id,
    title: o.code === '' ? o.statement : `${o.code} ${o.statement}`,
    full: o.code === '' ? o.statement : `${o.code} ${o.statement}`,
    parts: o.parts.filter(isLooked),
  }));
});
interface Drawn extends DrawnPlot {
  readonly subject: Subject;
  readonly places: readonly number[];
}
const drawnAll = computed((): Drawn[] =>
  subjects.value.map((subject) => {
    const shares = alignedShares(subject.parts, data.value?.enrolmentIds.length ?? 0);
    const placed = own.value.flatMap((place) => {
      const share = shares[place] ?? null;
      return share === null ? [] : [{ place, share }];
    });
    const { plot } = spreadOf(placed);
    const values = placed.map((p) => p.share);
    const places = placed.map((p) => p.place);
    const words = `${subject.full}: ${plotInWords(plot, values, places.map(nameAt))}; ${countOf(values.length, 'student')}; ${howCounted(subject.parts)}`;
    return { id: subject.id, title: subject.title, plot, values, words, subject, places };
  }),
);
const plots = computed(() => drawnAll.value.filter((p) => p.values.length > 0));
const ranked = computed(() =>
  plots.value
    .flatMap((p) => (p.plot.kind === 'box' ? [{ title: p.subject.full, median: p.plot.median }] : []))
    .sort((a, b) => a.median - b.median),
);
const sentence = computed(() => {
  const [weak, strong] = [ranked.value[0], ranked.value.at(-1)];
  if (weak === undefined || strong === undefined || weak === strong) return '';
  return `Weakest: “${weak.title}”, median ${percentWords(weak.median)}. Strongest: “${strong.title}”, median ${percentWords(strong.median)}.`;
});
const empty = computed(() => {
  if (data.value === null) return '';
  if (by.value === 'criterion' && data.value.criteria.length === 0) return 'No work is judged by a rubric yet.';
  if (by.value === 'objective' && data.value.objectives.length === 0)
    return 'This course has no objectives. They are added under More, Objectives, and work, criteria and questions are aligned to them.';
  return plots.value.length === 0 ? 'Nothing here has a finished result yet in these weeks and this unit.' : '';
});
const levels = computed(() => ({ reached: (data.value?.reachedPercent ?? 0) / 100_000, merit: (data.value?.meritPercent ?? 0) / 100_000 }));
/** How many reached an objective, by what they earned in tests. */
function attained(subject: Subject): Readonly<Record<Attainment, number[]>> | null {
  const tests = subject.parts.filter((p) => isTest(workOf.value.get(p.itemId)?.kind));
  const shares = alignedShares(tests, data.value?.enrolmentIds.length ?? 0);
  const by: Record<Attainment, number[]> = { 'with merit': [], reached: [], 'not yet': [] };
  for (const place of own.value) {
    const share = shares[place] ?? null;
    if (share !== null) by[attainmentOf(share, levels.value.reached, levels.value.merit)].push(place);
  }
  return Object.values(by).every((list) => list.length === 0) ? null : by;
}
const lines = computed(() => [
  ['', 'Students', 'Lower quartile (%)', 'Median (%)', 'Upper quartile (%)', 'Outside', 'Reached', 'With merit', 'Not yet', 'How counted'],
  ...drawnAll.value.map((p) => {
    const box = p.plot.kind === 'box' ? p.plot : null;
    const levelsOf = by.value === 'objective' ? attained(p.subject) : null;
    return [
      p.subject.full,
      p.values.length,
      box === null ? null : sharePercent(box.lowQuartile),
      box === null ? null : sharePercent(box.median),
      box === null ? null : sharePercent(box.highQuartile),
      box === null ? null : box.outliers.map((at) => nameAt(p.places[at] ?? -1)).join('; '),
      levelsOf === null ? null : levelsOf.reached.length + levelsOf['with merit'].length,
      levelsOf === null ? null : levelsOf['with merit'].length,
      levelsOf === null ? null : levelsOf['not yet'].length,
      howCounted(p.subject.parts),
    ];
  }),
]);
const open = computed(() => plots.value.find((p) => p.id === chosen.value) ?? null);
const openLevels = computed(() => (open.value === null || by.value !== 'objective' ? null : attained(open.value.subject)));
const meanOf = (shares: readonly number[]): string =>
  shares.length === 0 ? 'no results' : `mean ${percentWords(shares.reduce((sum, s) => sum + s, 0) / shares.length)}`;
/** The works that the open one is made of, with the mean of the students who are looked at. */
const openParts = computed(() =>
  (open.value?.subject.parts ?? []).map((part) => {
    const shares = alignedShares([part], data.value?.enrolmentIds.length ?? 0);
    const work = workOf.value.get(part.itemId);
    return {
      part,
      work,
      mean: meanOf(own.value.flatMap((place) => shares[place] ?? [])),
      counted:
        part.how === 'whole' ? 'the whole work' : countOf(part.pieces, part.how === 'questions' ? 'question' : 'criterion', part.how),
    };
  }),
);
/** Those in the lowest quarter of the open one. */
const weakest = computed(() => {
  const p = open.value;
  if (p === null || p.plot.kind !== 'box') return [];
  const { lowQuartile } = p.plot;
  return p.places
    .map((place, n) => ({ place, share: p.values[n] ?? 0 }))
    .filter((one) => one.share <= lowQuartile)
    .sort((a, b) => a.share - b.share);
});
async function showQuestions(itemId: string): Promise<void> {
  if (open.value === null) return;
  try {
    const found = await call(api.getAlignedQuestions, { courseId: props.courseId, objective: open.value.id, item: itemId });
    questions.value = { itemId, list: found.questions };
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
const questionMean = (question: AlignedQuestion): string => {
  const looked = new Set(own.value.map((place) => data.value?.enrolmentIds[place]));
  return meanOf(question.shares.flatMap(([id, share]) => (looked.has(id) ? [share] : [])));
};
function choose(id: string): void {
  chosen.value = chosen.value === id ? null : id;
  questions.value = null;
}
</script>

<template>
  <section aria-label="Objectives and criteria">
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div v-else-if="data === null" class="skeleton" style="height: 240px" />
    <ChartFrame
      v-else
      title="Objectives and criteria"
      :name="by === 'objective' ? 'Objectives' : 'Criteria'"
      :sentence="sentence"
      :empty="empty"
      :lines="lines"
      :told="told"
      hint="Each box is the middle half of the students. Press one to see the works and questions behind it."
    >
      <template #choices>
        <div class="choices no-print">
          <label
            >looked at by
            <ChoiceField v-model="by" is-word>
              <option value="objective">objective</option>
              <option value="criterion">criterion of a rubric</option>
            </ChoiceField></label
          >
          <label v-if="report.units.length > 1"
            >unit
            <ChoiceField v-model="unitId" is-word>
              <option value="">all</option>
              <option v-for="u in report.units" :key="u.id" :value="u.id">{{ u.title }}</option>
            </ChoiceField></label
          >
        </div>
      </template>
      <template #default="{ width }">
        <BoxPlots
          :plots="plots"
          :width="width"
          :chosen="chosen === null ? [] : [chosen]"
          :label="`Box plots by ${by}. ${sentence}`"
          @told="told = $event"
          @choose="choose"
        />
      </template>
      <template #after>
        <div v-if="open" class="made">
          <p>
            <b>{{ open.subject.full }}</b> {{ howCounted(open.subject.parts) }}.
            <ActButton look="act" class="no-print" @click="chosen = null">Close</ActButton>
          </p>
          <p v-if="openLevels">
            By tests: {{ openLevels.reached.length + openLevels['with merit'].length }} reached it ({{
              formatPoints(data.reachedPercent)
            }}
            % of the points or more), {{ openLevels['with merit'].length }} of them with merit ({{ formatPoints(data.meritPercent) }} % or
            more); {{ openLevels['not yet'].length }} not yet{{
              openLevels['not yet'].length === 0 ? '' : `: ${openLevels['not yet'].slice(0, 40).map(nameAt).join('; ')}`
            }}.
          </p>
          <ul class="remarks">
            <li v-for="{ part, work, mean, counted } in openParts" :key="`${part.itemId} ${part.how}`">
              <router-link v-if="isTest(work?.kind)" :to="{ name: 'quiz-results', params: { courseId, itemId: part.itemId } }">{{
                work?.title
              }}</router-link><router-link v-else :to="{ name: 'stack', params: { courseId, itemId: part.itemId } }">{{
                work?.title
              }}</router-link>
              {{ counted }}, {{ mean }}.
              <ActButton v-if="part.how === 'questions'" look="act" @click="showQuestions(part.itemId)">Its questions</ActButton>
              <ul v-if="questions?.itemId === part.itemId" class="remarks">
                <li v-for="q in questions.list" :key="q.questionId">{{ q.title }}: {{ questionMean(q) }}</li>
                <li v-if="questions.list.length === 0">No question of it has a finished result.</li>
              </ul>
            </li>
          </ul>
          <p v-if="weakest.length > 0">
            Lowest quarter:
            <router-link
              v-for="w in weakest.slice(0, 30)"
              :key="w.place"
              :to="{ name: 'progress', params: { courseId }, query: { person: data.enrolmentIds[w.place] } }"
              >{{ nameAt(w.place) }} {{ percentWords(w.share) }}</router-link
            >
          </p>
        </div>
      </template>
    </ChartFrame>
    <p v-if="course.head?.role === 'instructor' && data" class="label no-print">
      From which share an objective counts as reached is set in
      <router-link :to="{ name: 'settings', params: { courseId } }">Settings</router-link>.
    </p>
  </section>
</template>

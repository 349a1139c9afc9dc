<script setup lang="ts">
import type { ReportPerson, ReportWork } from '@rosemary/api';
import { type Change, changesOf, countOf, percentWords, sharePercent, type WorkSpread } from '@rosemary/core';
import { computed, ref, watch } from 'vue';
import ChartFrame from '../parts/charts/ChartFrame.vue';
import SlopeChart from '../parts/charts/SlopeChart.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import { nameOf } from './useReport.ts';

/** Two pieces of work compared, for those students who have a result in both. */
interface Compared {
  readonly id: string;
  readonly title: string;
  readonly work: ReportWork;
  readonly spread: WorkSpread;
}
const props = defineProps<{ plots: readonly Compared[]; people: readonly ReportPerson[] }>();
const before = ref('');
const after = ref('');
/** The latest that many have who have the first one: what few have taken yet says little. */
function lastTogether(plots: readonly Compared[]): Compared | undefined {
  const of = plots.find((p) => p.id === before.value);
  const others = plots.filter((p) => p !== of);
  return others.filter((p) => p.spread.results.length * 2 >= (of?.spread.results.length ?? 0)).at(-1) ?? others.at(-1);
}
watch(
  () => props.plots,
  (plots) => {
    if (!plots.some((p) => p.id === before.value)) before.value = plots[0]?.id ?? '';
    if (!plots.some((p) => p.id === after.value) || after.value === before.value) after.value = lastTogether(plots)?.id ?? '';
  },
  { immediate: true },
);
const told = ref('');
const one = computed(() => props.plots.find((p) => p.id === before.value));
const other = computed(() => props.plots.find((p) => p.id === after.value));
const compared = computed(() => changesOf(one.value?.spread.results ?? [], other.value?.spread.results ?? []));
const nameAt = (change: Change): string => {
  const person = props.people[change.place];
  return person === undefined ? '' : nameOf(person, true);
};
/** Percentage points with their sign. */
const points = (difference: number): string => `${difference < 0 ? '−' : '+'}${Math.abs(difference * 100).toFixed(1)}`;
const slopes = computed(() =>
  compared.value.changes.map((change) => ({
    id: props.people[change.place]?.enrolmentId ?? '',
    name: `${(nameAt(change).split(',')[0] ?? '').slice(0, 16)} ${points(change.after - change.before)}`,
    before: change.before,
    after: change.after,
    words: `${nameAt(change)}: from ${percentWords(change.before)} to ${percentWords(change.after)}, ${points(change.after - change.before)} percentage points`,
  })),
);
const sentence = computed(() => {
  const { paired } = compared.value;
  if (paired.mean === null || one.value === undefined || other.value === undefined) return '';
  const stays = paired.number - paired.rose - paired.fell;
  const moved = `${paired.rose} rose, ${paired.fell} fell${stays === 0 ? '' : `, ${stays} stayed`}`;
  const interval =
    paired.interval === null
      ? 'too few for an interval, which takes five'
      : `95 % interval ${points(paired.interval[0])} to ${points(paired.interval[1])}`;
  const effect =
    paired.effect === null
      ? ''
      : `; effect size d = ${paired.effect.toFixed(2).replace('-', '−')}, which is the mean change divided by the standard deviation (of a sample) of the changes`;
  return `Of ${countOf(paired.number, 'student')} with both, ${moved}. Mean change ${points(paired.mean)} percentage points (${interval})${effect}.`;
});
const empty = computed(() => {
  if (before.value === after.value) return 'Choose two different pieces of work.';
  return compared.value.changes.length === 0 ? 'No student here has a result in both.' : '';
});
const lines = computed(() => [
  ['Student', `${one.value?.title ?? ''} (%)`, `${other.value?.title ?? ''} (%)`, 'Change (percentage points)'],
  ...compared.value.changes
    .slice()
    .sort((a, b) => b.after - b.before - (a.after - a.before))
    .map((change) => [nameAt(change), sharePercent(change.before), sharePercent(change.after), sharePercent(change.after - change.before)]),
]);
const listOf = (test: (difference: number) => boolean): string =>
  compared.value.changes
    .filter((c) => test(c.after - c.before))
    .sort((a, b) => Math.abs(b.after - b.before) - Math.abs(a.after - a.before))
    .map((c) => `${nameAt(c)} ${points(c.after - c.before)}`)
    .join('; ');
const fell = computed(() => listOf((d) => d < 0));
const rose = computed(() => listOf((d) => d > 0));
</script>

<template>
  <ChartFrame
    class="compared"
    title="Before and after"
    :name="`${one?.title ?? ''} and ${other?.title ?? ''} compared`"
    :sentence="sentence"
    :empty="empty"
    :lines="lines"
    :told="told"
    hint="A line for each student with both results; broken lines fall. Only these students are counted."
  >
    <template #choices>
      <div class="choices">
        <label
          >before
          <ChoiceField v-model="before" is-word
            ><option v-for="p in plots" :key="p.id" :value="p.id">{{ p.title }}</option></ChoiceField
          ></label
        >
        <label
          >after
          <ChoiceField v-model="after" is-word
            ><option v-for="p in plots" :key="p.id" :value="p.id">{{ p.title }}</option></ChoiceField
          ></label
        >
      </div>
    </template>
    <template #default="{ width }">
      <SlopeChart
        :slopes="slopes"
        :heads="[one?.title ?? '', other?.title ?? '']"
        :width="width"
        :label="`Before and after of ${countOf(slopes.length, 'student')}. ${sentence}`"
        @told="told = $event"
      />
    </template>
    <template #after>
      <p v-if="rose" class="label">Rose: {{ rose }}.</p>
      <p v-if="fell" class="label">Fell: {{ fell }}.</p>
    </template>
  </ChartFrame>
</template>

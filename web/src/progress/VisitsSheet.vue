<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ProgressReport, ProgressVisits } from '@rosemary/api';
import { countOf, linearCorrelation, minutesInWords, numberOfRounded, rankCorrelation } from '@rosemary/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import ChartFrame from '../parts/charts/ChartFrame.vue';
import ScatterPlot from '../parts/charts/ScatterPlot.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import { call } from '../platform/call.ts';
import { type Looked, nameOf } from './useReport.ts';

/** How much somebody was here against their total so far. The two going together is no cause. */
const props = defineProps<{ report: ProgressReport; looked: Looked; courseId: string }>();
const router = useRouter();
const measure = ref<'days' | 'minutes'>('days');
const told = ref('');
const visits = shallowRef<ProgressVisits | null>(null);
const fault = ref('');
onMounted(async () => {
  try {
    visits.value = await call(api.getProgressVisits, { courseId: props.courseId });
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const dots = computed(() => {
  const byId = new Map((visits.value?.people ?? []).map((p) => [p.enrolmentId, p]));
  return props.looked.people.flatMap((place) => {
    const person = props.report.people[place];
    const sum = byId.get(person?.enrolmentId ?? '');
    if (person === undefined || sum === undefined || sum.soFar === null) return [];
    const x = measure.value === 'days' ? sum.days : Math.round(sum.minutes / 6) / 10;
    const visited = measure.value === 'days' ? countOf(sum.days, 'day') : minutesInWords(sum.minutes);
    return [
      {
        id: person.enrolmentId,
        name: nameOf(person, true),
        x,
        y: numberOfRounded(sum.soFar),
        words: `${nameOf(person, true)}: ${visited}, ${sum.soFar} % so far`,
      },
    ];
  });
});
const pairs = computed(() => dots.value.map((d) => [d.x, d.y] as const));
const related = computed(() => rankCorrelation(pairs.value));
const linear = computed(() => linearCorrelation(pairs.value));
const two = (n: number): string => n.toFixed(2).replace('-', '−');
const sentence = computed(() => {
  const { rho, interval, number } = related.value;
  if (rho === null || interval === null)
    return number < 10
      ? `With ${countOf(number, 'student')} nothing is said of how the two go together: that takes ten.`
      : 'All were here alike, or all totals are alike: nothing is said of how the two go together.';
  const { r, interval: about } = linear.value;
  const along = r === null || about === null ? '' : `; along a straight line (Pearson) r = ${two(r)}, ${two(about[0])} to ${two(about[1])}`;
  return `Rank correlation (Spearman) ρ = ${two(rho)}, 95 % interval ${two(interval[0])} to ${two(interval[1])}, of ${countOf(number, 'student')}${along}. That two things go together does not say that one causes the other.`;
});
const empty = computed(() => (dots.value.length === 0 ? 'Nobody here has a total so far yet.' : ''));
const lines = computed(() => [
  ['Student', measure.value === 'days' ? 'Days at work' : 'Hours at most', 'So far (%)'],
  ...dots.value.map((d) => [d.name, d.x, d.y]),
]);
function open(id: string): void {
  void router.push({ name: 'progress', params: { courseId: props.courseId }, query: { person: id } });
}
</script>

<template>
  <section aria-label="Visits and results">
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div v-else-if="visits === null" class="skeleton" style="height: 240px" />
    <ChartFrame
      v-else
      title="Visits and results"
      name="Visits and results"
      :sentence="sentence"
      :empty="empty"
      :lines="lines"
      :told="told"
      hint="A dot for each student. Point at one, or walk through them with the arrows."
    >
      <template #choices>
        <div class="choices no-print">
          <label
            >visits as
            <ChoiceField v-model="measure" is-word>
              <option value="days">days at work</option>
              <option value="minutes">hours at most</option>
            </ChoiceField></label
          >
        </div>
      </template>
      <template #default="{ width }">
        <ScatterPlot
          :dots="dots"
          :heads="[measure === 'days' ? 'days at work' : 'hours at most', 'total so far, %']"
          :width="width"
          :label="`Visits against results. ${sentence}`"
          @told="told = $event"
          @choose="open"
        />
      </template>
    </ChartFrame>
  </section>
</template>

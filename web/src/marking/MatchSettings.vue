<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { MatchSetting, MatchState, Stack } from '@rosemary/api';
import { dayAndTime, countOf } from '@rosemary/core';
import { computed, onBeforeUnmount, onMounted, ref } from 'vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useCourse } from '../stores/courseStore.ts';
import { nameOf } from './useStack.ts';
import TickBox from '../parts/fields/TickBox.vue';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';

/** Text matching of one item: what works are held against, who sees it, and those with most elsewhere. */
const props = defineProps<{ courseId: string; itemId: string; stack: Stack; canEdit: boolean }>();
const emit = defineEmits<{ done: [] }>();
const course = useCourse();
const state = ref<MatchState | null>(null);
const fault = ref('');
let timer: number | undefined;
const isGoing = computed(() => state.value?.run?.endedAt === null);
/** While it goes on it is looked after every second; the page can be left meanwhile. */
async function look(): Promise<void> {
  const wasGoing = isGoing.value;
  state.value = await call(api.getMatching, { courseId: props.courseId, itemId: props.itemId });
  if (isGoing.value) timer = window.setTimeout(() => void look(), 1000);
  else if (wasGoing) emit('done');
}
onMounted(() => {
  look().catch((error: unknown) => {
    fault.value = error instanceof Error ? error.message : '';
  });
});
onBeforeUnmount(() => {
  clearTimeout(timer);
});
async function set(change: Partial<MatchSetting>): Promise<void> {
  if (state.value === null) return;
  fault.value = '';
  try {
    state.value = await call(api.changeMatching, { courseId: props.courseId, itemId: props.itemId }, { ...state.value.setting, ...change });
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
    state.value = await call(api.getMatching, { courseId: props.courseId, itemId: props.itemId });
  }
}
async function run(): Promise<void> {
  fault.value = '';
  try {
    state.value = await call(api.runMatching, { courseId: props.courseId, itemId: props.itemId });
    await look();
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not begun. Try again.';
  }
}
type Choice = Exclude<keyof MatchSetting, 'version'>;
const CHOICES: readonly (readonly [choice: Choice, words: string])[] = [
  ['looksAtClass', 'the other works of this class'],
  ['looksAtEarlier', 'works of earlier terms'],
  ['looksAtCollection', 'the school’s collection'],
];
const MORE: readonly (readonly [choice: Choice, words: string])[] = [
  ['leavesQuotations', 'leave out what is quoted'],
  ['showsStudents', 'students see it for their own work'],
  ['joinsCollection', 'works join the collection'],
];
const most = computed(() =>
  [...props.stack.entries]
    .filter((e) => (e.matchPercent ?? 0) > 0)
    .sort((a, b) => (b.matchPercent ?? 0) - (a.matchPercent ?? 0))
    .slice(0, 8),
);
</script>

<template>
  <section class="part" aria-label="Text matching">
    <h3>Text matching</h3>
    <div v-if="!state && !fault" class="skeleton" style="height: 60px" />
    <template v-if="state">
      <fieldset :disabled="!canEdit">
        <legend class="label">held against</legend>
        <label v-for="[choice, words] in CHOICES" :key="choice"
          ><TickBox
            :model-value="state.setting[choice]"
            :disabled="choice === 'looksAtCollection' && !state.hasCollection"
            @change="set({ [choice]: ($event.target as HTMLInputElement).checked })"
          />
          {{ words }}</label
        >
        <label v-for="[choice, words] in MORE" :key="choice"
          ><TickBox
            :model-value="state.setting[choice]"
            :disabled="choice === 'joinsCollection' && !state.hasCollection"
            @change="set({ [choice]: ($event.target as HTMLInputElement).checked })"
          />
          {{ words }}</label
        >
      </fieldset>
      <p>
        <ActButton look="quiet" :disabled="isGoing" @click="run">{{ state.run ? 'Look again' : 'Look now' }}</ActButton>
        <span v-if="isGoing" class="soft" role="status">Looking; this page can be left meanwhile.</span>
        <span v-else-if="state.run" class="soft"
          >{{ countOf(state.run.works, 'work') }} looked at
          {{ dayAndTime(Date.parse(state.run.endedAt ?? state.run.askedAt), course.zone, course.now) }}. {{ state.run.said }}</span
        >
        <span v-else class="soft"
          >Passages of eleven words or more that stand elsewhere too are shown side by side: evidence, not a verdict.</span
        >
      </p>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <PlainTable v-if="most.length > 0" class="narrow">
        <tbody>
          <tr v-for="e in most" :key="e.enrolmentId">
            <td class="num">{{ e.matchPercent }} %</td>
            <td>
              <router-link :to="`/courses/${courseId}/marking/${itemId}/${e.enrolmentId}`">{{ nameOf(e) }}</router-link>
            </td>
            <td class="soft">{{ countOf(e.words, 'word') }}</td>
          </tr>
        </tbody>
      </PlainTable>
    </template>
  </section>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 4px 0 8px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
}
.narrow {
  width: fit-content;
}
</style>

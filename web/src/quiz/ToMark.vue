<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { QuizResults } from '@rosemary/api';
import { KIND_WORDS } from '@rosemary/core';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useQuiz } from '../stores/quizStore.ts';
import ActButton from '../parts/ActButton.vue';
import TickBox from '../parts/fields/TickBox.vue';

/** The questions that a person marks: how many answers wait, and whose they are. Reached by `reload` once somebody else is to mark. */
const props = defineProps<{ results: QuizResults; canShare: boolean; reload: () => Promise<void> }>();
const route = useRoute();
const quiz = useQuiz();
const notices = useNotices();
const open = ref('');
type Marked = QuizResults['marked'][number];
const theirs = computed(() => props.results.marked.filter((m) => m.isTheirs));
const nameOf = (id: string): string => props.results.markers.find((m) => m.id === id)?.name ?? 'somebody who has left';
const whose = (m: Marked): string =>
  m.markerIds.length === 0 ? 'marked by everyone, of the students they reach' : `marked by ${m.markerIds.map(nameOf).join(' and ')}`;
const manyWait = (n: number): string => (n === 0 ? 'nothing waits' : n === 1 ? 'one answer waits' : `${n} answers wait`);
async function give(m: Marked, markerIds: readonly string[], isUndo = false): Promise<void> {
  try {
    await call(api.shareOutQuestion, { ...quiz.base, questionId: m.questionId }, { markerIds });
    await props.reload();
    if (!isUndo)
      notices.say(
        markerIds.length === 0 ? 'Everyone marks it again.' : `Its answers are for ${markerIds.map(nameOf).join(' and ')} to mark.`,
        () => give(m, m.markerIds, true),
      );
  } catch (error) {
    notices.sayFault(error);
  }
}
const toggle = (m: Marked, id: string): Promise<void> =>
  give(m, m.markerIds.includes(id) ? m.markerIds.filter((x) => x !== id) : [...m.markerIds, id]);
</script>

<template>
  <div v-if="theirs.length > 0" class="to-mark">
    <h2>To mark</h2>
    <ul>
      <li v-for="m in theirs" :key="m.questionId">
        <router-link :to="{ name: 'quiz-marking', params: { ...route.params, questionId: m.questionId } }">{{ m.title }}</router-link>
        <span class="soft"> {{ KIND_WORDS[m.kind] }}, {{ manyWait(m.waiting) }}; {{ whose(m) }} </span>
        <ActButton
          v-if="canShare && results.markers.length > 1"
          look="act"
          :aria-expanded="open === m.questionId"
          @click="open = open === m.questionId ? '' : m.questionId"
        >
          {{ open === m.questionId ? 'close' : 'share out' }}
        </ActButton>
        <fieldset v-if="open === m.questionId" class="among">
          <legend class="label">Marked by</legend>
          <label v-for="marker in results.markers" :key="marker.id">
            <TickBox :model-value="m.markerIds.includes(marker.id)" @change="toggle(m, marker.id)" /> {{ marker.name }}
          </label>
          <span class="soft">Nobody chosen: everyone, of the students they reach.</span>
        </fieldset>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.to-mark {
  margin-bottom: 16px;
}
ul {
  padding-left: 18px;
  margin: 4px 0;
}
.act {
  margin-left: 8px;
}
.among {
  border: 0;
  padding: 2px 0 6px;
  display: flex;
  gap: 16px;
  flex-wrap: wrap;
  align-items: baseline;
}
.among .label {
  float: left;
  padding: 0 8px 0 0;
}
</style>

<script setup lang="ts">
import type { QuestionAnswers } from '@rosemary/api';
import { formatPoints, parsePoints } from '@rosemary/core';
import { computed, nextTick, onMounted, ref, shallowRef } from 'vue';
import { useRoute } from 'vue-router';
import DocumentView from '../parts/DocumentView.vue';
import { get, HttpProblem, send } from '../platform/http.ts';
import QuestionOnPaper from './QuestionOnPaper.vue';
import { useQuiz } from './quizStore.ts';

/** All answers to one question, marked one after another; those that say the same are marked together. */
const route = useRoute();
const quiz = useQuiz();
const answers = shallowRef<QuestionAnswers | null>(null);
const fault = ref('');
const only = ref<'waits' | 'all'>('waits');
const showsNames = ref(false);
const typed = ref<Record<string, string>>({});
const comments = ref<Record<string, string>>({});
const faults = ref<Record<string, string>>({});
async function load(): Promise<void> {
  try {
    answers.value = await get<QuestionAnswers>(`${quiz.base}/questions/${String(route.params.questionId)}/answers`);
    for (const a of answers.value.answers) comments.value[a.attemptId] ??= a.reason;
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
const plain = (text: string): string =>
  text
    .normalize('NFC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
type Answer = QuestionAnswers['answers'][number];
/** Answers with the same words, however written, stand together. */
const groups = computed(() => {
  const found = new Map<string, Answer[]>();
  for (const a of answers.value?.answers ?? []) {
    if (only.value === 'waits' && a.share !== null) continue;
    const key = a.text === '' ? a.attemptId : plain(a.text);
    found.set(key, [...(found.get(key) ?? []), a]);
  }
  return [...found.entries()].map(([key, list]) => ({ key, list }));
});
const left = computed(() => answers.value?.answers.filter((a) => a.share === null).length ?? 0);
async function give(group: { key: string; list: readonly Answer[] }): Promise<void> {
  const read = parsePoints(typed.value[group.key] ?? '');
  faults.value[group.key] = read.ok ? '' : read.reason;
  if (!read.ok) return;
  try {
    for (const a of group.list)
      await send('PUT', `${quiz.base}/attempts/${a.attemptId}/scores/${String(route.params.questionId)}`, {
        points: read.value,
        reason: comments.value[group.list[0]?.attemptId ?? ''] ?? '',
        version: a.version,
      });
    await load();
    await nextTick();
    document.querySelector<HTMLInputElement>('.points')?.focus();
  } catch (error) {
    faults.value[group.key] = error instanceof HttpProblem ? error.message : 'Not saved.';
    await load();
  }
}
</script>

<template>
  <section class="bed">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <div v-if="answers" class="sheet-paper paper">
      <p class="label">
        <router-link :to="{ name: 'quiz-results', params: { courseId: route.params.courseId, itemId: route.params.itemId } }"
          >Results</router-link
        >
        · {{ formatPoints(answers.points) }} points
      </p>
      <QuestionOnPaper :question="answers.question" />
      <p class="bar">
        <b>{{ left === 0 ? 'Nothing waits.' : left === 1 ? 'One answer waits.' : `${left} answers wait.` }}</b>
        <button class="act" @click="only = only === 'waits' ? 'all' : 'waits'">
          {{ only === 'waits' ? 'show all' : 'only those that wait' }}
        </button>
        <button class="act" @click="showsNames = !showsNames">{{ showsNames ? 'hide names' : 'show names' }}</button>
      </p>
      <article v-for="g in groups" :key="g.key" class="answer">
        <p v-if="showsNames || g.list.length > 1" class="label">
          {{ g.list.length > 1 ? `${g.list.length} alike` : '' }} {{ showsNames ? g.list.map((a) => a.name).join('; ') : '' }}
        </p>
        <DocumentView v-if="g.list[0]?.answer?.kind === 'work' && g.list[0].answer.document" :document="g.list[0].answer.document" />
        <p v-else-if="g.list[0]?.text">{{ g.list[0].text }}</p>
        <p v-else-if="!g.list[0]?.file" class="soft">Not answered.</p>
        <p v-if="g.list[0]?.file">
          <a :href="g.list[0].file.url" target="_blank" rel="noopener">{{ g.list[0].file.name }}</a>
        </p>
        <form class="give" @submit.prevent="give(g)">
          <input
            class="line-input points"
            inputmode="decimal"
            :aria-label="`Points for ${showsNames ? g.list[0]?.name : 'this answer'}`"
            :value="typed[g.key] ?? (g.list[0]?.given === null || g.list[0]?.given === undefined ? '' : formatPoints(g.list[0].given))"
            @input="typed[g.key] = ($event.target as HTMLInputElement).value"
          />
          of {{ formatPoints(answers.points) }}
          <input
            v-model="comments[g.list[0]!.attemptId]"
            class="line-input words"
            maxlength="4000"
            aria-label="Comment"
            placeholder="Comment for the student"
          />
          <button class="quiet">{{ g.list.length > 1 ? `Save all ${g.list.length}` : 'Save' }}</button>
        </form>
        <p v-if="faults[g.key]" class="fault" role="alert">{{ faults[g.key] }}</p>
      </article>
    </div>
    <div v-else-if="!fault" class="sheet-paper paper">
      <div v-for="n in 8" :key="n" class="skeleton" style="height: 20px; margin-top: 12px" />
    </div>
  </section>
</template>

<style scoped>
.bed {
  flex: 1;
  background: var(--bed);
  padding: 16px 22px 60px;
}
.paper {
  max-width: 720px;
  margin: 0 auto;
  box-sizing: border-box;
}
.bar {
  display: flex;
  gap: 20px;
  align-items: baseline;
  border-top: 1px solid var(--frost);
  margin-top: 16px;
  padding-top: 10px;
}
.answer {
  border-top: 1px solid var(--frost2);
  padding: 14px 0;
}
.give {
  display: flex;
  gap: 10px;
  align-items: baseline;
  margin-top: 6px;
}
.points {
  width: 60px;
  text-align: right;
}
.words {
  flex: 1;
}
</style>

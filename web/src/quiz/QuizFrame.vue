<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { dayAndTime, pointsInWords, minutesInWords } from '@rosemary/core';
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import { call, takeBack } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useQuiz } from '../stores/quizStore.ts';
import ActButton from '../parts/ActButton.vue';
import { usePageTitle } from '../platform/usePageTitle.ts';

/** The head of a quiz over its paper, its results and its figures. */
const route = useRoute();
const course = useCourse();
const quiz = useQuiz();
const notices = useNotices();
const fault = ref('');
const courseId = computed(() => String(route.params.courseId));
const itemId = computed(() => String(route.params.itemId));
watch(
  [courseId, itemId],
  async ([c, i]) => {
    fault.value = '';
    try {
      await course.load(c);
      await quiz.load(c, i);
    } catch (error) {
      fault.value = error instanceof Error ? error.message : '';
    }
  },
  { immediate: true },
);
const detail = computed(() => (quiz.detail?.itemId === itemId.value ? quiz.detail : null));
usePageTitle(() => detail.value?.title);
const canEdit = computed(() => course.head?.role === 'instructor');
const facts = computed(() => {
  const d = detail.value;
  if (d === null) return '';
  return [
    `quiz · ${d.state}`,
    `${d.questions} ${d.questions === 1 ? 'question' : 'questions'}, ${pointsInWords(d.possible)}`,
    d.setting.limitMinutes === null ? null : minutesInWords(d.setting.limitMinutes),
    d.dueAt === null ? null : `due ${dayAndTime(Date.parse(d.dueAt), course.zone, course.now)}`,
  ]
    .filter((w) => w !== null)
    .join(' · ');
});
const VIEWS = [
  ['quiz', 'Paper'],
  ['quiz-on-paper', 'On paper'],
  ['quiz-results', 'Results'],
  ['quiz-figures', 'Figures'],
] as const;
const current = computed(() => {
  const name = String(route.name);
  return name === 'quiz-attempt' || name === 'quiz-marking' ? 'quiz-results' : name;
});
async function setDraft(isDraft: boolean): Promise<void> {
  const d = detail.value;
  if (d === null) return;
  try {
    const at = { courseId: courseId.value, itemId: d.itemId };
    if ((await call(api.changeItem, at, { version: d.itemVersion, isDraft }, `“${d.title}”`)) === null) return;
    await quiz.reload();
    notices.say(isDraft ? 'The quiz is a draft again. No student sees it.' : 'The quiz is open to students by its dates.', async () => {
      await takeBack(api.changeItem, at, { version: quiz.detail?.itemVersion ?? 0, isDraft: !isDraft });
      await quiz.reload();
    });
  } catch (error) {
    notices.sayFault(error);
  }
}
</script>

<template>
  <div class="quiz-frame">
    <div v-if="fault" class="pad">
      <h1>This quiz cannot be opened</h1>
      <p class="soft">{{ fault }}</p>
    </div>
    <template v-else>
      <header class="head no-print">
        <h1>{{ detail?.title ?? ' ' }}</h1>
        <span class="soft">{{ facts }}</span>
        <nav aria-label="Quiz">
          <router-link
            v-for="[name, word] in VIEWS"
            :key="name"
            :to="{ name, params: { courseId, itemId } }"
            :class="{ on: current === name }"
            :aria-current="current === name ? 'page' : undefined"
            >{{ word }}</router-link
          >
          <router-link :to="{ name: 'quiz-preview', params: { courseId, itemId } }" :class="{ on: current === 'quiz-preview' }"
            >See as a student</router-link
          >
        </nav>
        <ActButton v-if="canEdit && detail?.isDraft" look="go" @click="setDraft(false)">Open to students</ActButton>
      </header>
      <router-view v-if="detail" :key="itemId" />
      <div v-else class="pad"><div v-for="n in 6" :key="n" class="skeleton" style="height: 24px; margin-top: 14px" /></div>
    </template>
  </div>
</template>

<style scoped>
.quiz-frame {
  display: flex;
  flex-direction: column;
  min-height: calc(100vh - 48px);
}
.head {
  display: flex;
  align-items: baseline;
  gap: 6px 16px;
  flex-wrap: wrap;
  padding: 12px 20px;
  background: var(--paper);
  border-bottom: 1px solid var(--frost);
}
.head h1 {
  font-size: 19px;
}
.head nav {
  margin-left: auto;
  display: flex;
  gap: 20px;
}
.head nav a {
  color: var(--soft);
  padding: 4px 0;
}
.head nav a.on {
  color: var(--ink);
  font-weight: 600;
  box-shadow: inset 0 -2px var(--needle);
}
</style>

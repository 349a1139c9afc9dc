<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { AttemptPaper } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { onMounted, ref, shallowRef } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import PaperReviewView from './PaperReviewView.vue';
import PointsField from './PointsField.vue';
import { useQuiz } from '../stores/quizStore.ts';

/** One student's paper, with everything; points can be given by hand, question by question. */
const route = useRoute();
const course = useCourse();
const quiz = useQuiz();
const paper = shallowRef<AttemptPaper | null>(null);
const fault = ref('');
async function load(): Promise<void> {
  try {
    paper.value = await call(api.getAttemptPaper, { ...quiz.base, attemptId: String(route.params.attemptId) });
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
const when = (at: string): string => dayAndTime(Date.parse(at), course.zone, course.now);
</script>

<template>
  <section class="paper-bed">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <div v-if="paper" class="sheet-paper paper">
      <p class="label">
        <router-link :to="{ name: 'quiz-results', params: { courseId: route.params.courseId, itemId: route.params.itemId } }"
          >Results</router-link
        >
        · attempt {{ paper.line.number }}{{ paper.line.handedInAt ? ` · handed in ${when(paper.line.handedInAt)}` : '' }}
      </p>
      <h1>{{ paper.name }}</h1>
      <ul v-if="paper.events.length > 0" class="events">
        <li v-for="e in paper.events" :key="`${e.at} ${e.words}`">
          {{ e.words }} <span class="soft">{{ e.by }}, {{ when(e.at) }}</span>
        </li>
      </ul>
      <PaperReviewView :review="paper.review">
        <template #beside="{ question }">
          <PointsField
            v-if="paper.line.state === 'handed in'"
            :at="{ ...quiz.base, attemptId: paper.line.id, questionId: question.id }"
            :points="question.points"
            :score-text="question.scoreText"
            :comment="question.comment"
            :version="paper.scoreVersions[question.id] ?? 0"
            :waits="question.isWaiting"
            @saved="load"
          />
        </template>
      </PaperReviewView>
    </div>
    <div v-else-if="!fault" class="sheet-paper paper">
      <div v-for="n in 8" :key="n" class="skeleton" style="height: 20px; margin-top: 12px" />
    </div>
  </section>
</template>

<style scoped>
.paper {
  max-width: 720px;
  margin: 0 auto;
  box-sizing: border-box;
}
.events {
  padding-left: 18px;
}
</style>

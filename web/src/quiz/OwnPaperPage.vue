<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PaperReview } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { onMounted, ref, shallowRef } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import PaperReviewView from './PaperReviewView.vue';

/** A student's own paper after it was handed in. */
const route = useRoute();
const course = useCourse();
const review = shallowRef<PaperReview | null>(null);
const fault = ref('');
onMounted(async () => {
  const { courseId, itemId, attemptId } = route.params;
  try {
    review.value = await call(api.getOwnPaper, { courseId: String(courseId), itemId: String(itemId), attemptId: String(attemptId) });
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
</script>

<template>
  <div class="pad reading-column">
    <template v-if="fault">
      <h1>This cannot be opened</h1>
      <p class="soft">{{ fault }}</p>
    </template>
    <template v-else-if="review">
      <p class="label">
        <router-link :to="{ name: 'study-item', params: { courseId: route.params.courseId, itemId: route.params.itemId } }">{{
          review.title
        }}</router-link>
        · attempt {{ review.attempt.number }} ·
        {{ review.attempt.handedInAt ? `handed in ${dayAndTime(Date.parse(review.attempt.handedInAt), course.zone, course.now)}` : '' }}
      </p>
      <h1>Your paper</h1>
      <div class="paper sheet-paper"><PaperReviewView :review="review" /></div>
    </template>
    <template v-else><div v-for="n in 6" :key="n" class="skeleton" style="height: 22px; margin-top: 14px" /></template>
  </div>
</template>

<style scoped>
@media (max-width: 600px) {
  .paper {
    padding: 16px;
    margin-left: -16px;
    margin-right: -16px;
  }
}
</style>

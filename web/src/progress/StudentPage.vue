<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { StudentStory as Story } from '@rosemary/api';
import { computed, shallowRef, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import { call } from '../platform/call.ts';
import { usePageTitle } from '../platform/usePageTitle.ts';
import StudentStory from './StudentStory.vue';

/** One student for those who teach them; without a student in its address, one’s own story. */
const route = useRoute();
const courseId = computed(() => String(route.params.courseId));
const enrolmentId = computed(() => (typeof route.params.enrolmentId === 'string' ? route.params.enrolmentId : null));
const story = shallowRef<Story | null>(null);
const fault = ref('');
usePageTitle(() => (story.value === null || enrolmentId.value === null ? null : `${story.value.givenName} ${story.value.familyName}`));
async function load(): Promise<void> {
  try {
    story.value =
      enrolmentId.value === null
        ? await call(api.getOwnStory, { courseId: courseId.value })
        : await call(api.getStudentStory, { courseId: courseId.value, enrolmentId: enrolmentId.value });
    fault.value = '';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
watch([courseId, enrolmentId], load, { immediate: true });
</script>

<template>
  <div v-if="fault" class="pad">
    <p class="fault" role="alert">{{ fault }} <ActButton look="act" @click="load">Try again</ActButton></p>
  </div>
  <div v-else-if="!story" class="pad"><div v-for="n in 8" :key="n" class="skeleton" style="height: 28px; margin-top: 12px" /></div>
  <StudentStory v-else :story="story" :course-id="courseId" @changed="load" />
</template>

<script setup lang="ts">
import type { ResponseHere } from '@rosemary/api';
import { type Component, computed } from 'vue';
import { useCourse } from '../../stores/courseStore.ts';

/** Where an answer is handed in: for its students the assignment itself, for all others what they will find here. */
const props = defineProps<{ response: ResponseHere; answer: Component | null }>();
const course = useCourse();
const base = computed(() => {
  const [, courseId, itemId] = /^\/courses\/([0-9a-f-]{36})\/items\/([0-9a-f-]{36})$/.exec(props.response.href) ?? [];
  return courseId === undefined || itemId === undefined ? null : { courseId, itemId };
});
const isStudent = computed(() => course.head?.role === 'student');
</script>

<template>
  <section class="response" :aria-label="response.title">
    <div v-if="answer && base && isStudent" class="own"><component :is="answer" :base="base" :title="response.title" /></div>
    <p v-else>
      Students hand in here: <a :href="response.href">{{ response.title }}</a>
    </p>
  </section>
</template>

<style scoped>
.response {
  border-left: 3px solid var(--leaf);
  padding: 4px 0 4px 14px;
  margin: 0 0 14px;
}
/* The page around it is read; this is worked in. */
.own {
  font: 15px/22px var(--sans);
}
p {
  margin: 4px 0;
}
</style>

<script setup lang="ts">
import QuizStart from '../../quiz/QuizStart.vue';
import type { StudyEmits, StudyProps } from '../shownKind.ts';

defineProps<StudyProps>();
defineEmits<StudyEmits>();
</script>

<template>
  <QuizStart v-if="item.quiz" :quiz="item.quiz" :is-looking="isLooking" />
  <slot name="returned" />
  <slot name="reviews" />
</template>

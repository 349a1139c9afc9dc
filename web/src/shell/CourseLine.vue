<script setup lang="ts">
import type { CourseHead } from '@rosemary/api';
import { useCourse } from '../stores/courseStore.ts';
import TermLine from './TermLine.vue';

/** The term line of the course that is open: it narrows the views to some weeks, or chooses the day of the past that the gradebook shows. */
defineProps<{ head: CourseHead; isChoosable: boolean }>();
const emit = defineEmits<{ open: [id: string] }>();
const course = useCourse();
/** Null is that none was chosen. */
function pickDay(at: string | null): void {
  course.picksDay = false;
  if (at !== null) course.asOf = at;
}
</script>

<template>
  <TermLine
    :data="head.line"
    :weeks="course.weeks"
    :is-choosable="isChoosable"
    :zone="course.zone"
    :now="course.now"
    :past="course.asOf"
    :picks-day="course.picksDay"
    @choose="course.weeks = $event"
    @day="pickDay"
    @open="emit('open', $event)"
  />
</template>

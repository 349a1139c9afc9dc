<script setup lang="ts">
import { type DayOfActivity, doingsOfBits, minutesInWords } from '@rosemary/core';
import { computed } from 'vue';
import HeatGrid, { type HeatCell } from '../parts/charts/HeatGrid.vue';
import { useCourse } from '../stores/courseStore.ts';
import { termDays, WEEKDAYS } from './termDays.ts';

/** The days of one student: what was done on each, and how long at most. */
const props = defineProps<{
  term: { readonly startsOn: string; readonly days: number };
  active: readonly DayOfActivity[];
  /** Other days than the whole term up to today. */
  span?: readonly [from: number, until: number];
  width: number;
  label: string;
}>();
const emit = defineEmits<{ told: [words: string] }>();
const course = useCourse();
const days = computed(() => termDays(props.term, course.now, course.zone));
const span = computed(() => props.span ?? ([0, days.value.last] as const));
const firstWeek = computed(() => days.value.weekOf(span.value[0]));
const weeks = computed(() => Math.max(0, days.value.weekOf(span.value[1]) - firstWeek.value + 1));
const cells = computed((): HeatCell[] => {
  const held = new Map(props.active.map((day) => [day[0], day]));
  const [from, until] = span.value;
  return Array.from({ length: Math.max(0, until - from + 1) }, (_, n) => {
    const day = from + n;
    const of = held.get(day);
    const words =
      of === undefined
        ? 'nothing recorded'
        : `${doingsOfBits(of[4]).join(', ')}; at most ${minutesInWords(of[2])}, ${minutesInWords(of[3])} in one go`;
    return {
      id: String(day),
      row: days.value.weekdayOf(day),
      column: days.value.weekOf(day) - firstWeek.value,
      value: of === undefined ? 0 : Math.max(1, of[2]),
      words: `${days.value.dateOf(day)}: ${words}`,
    };
  });
});
</script>

<template>
  <HeatGrid
    :rows="WEEKDAYS"
    :columns="Array.from({ length: weeks }, (_, n) => String(firstWeek + n + 1))"
    :cells="cells"
    :width="width"
    :most-width="56"
    :label="`${label}; columns are the weeks of the term`"
    @told="emit('told', $event)"
  />
</template>

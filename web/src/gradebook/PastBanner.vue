<script setup lang="ts">
import type { Gradebook } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { computed } from 'vue';
import ActButton from '../parts/ActButton.vue';
import { useCourse } from '../stores/courseStore.ts';

/** Says that the gradebook is that of another day, and since when all of its past is known. */
const props = defineProps<{ asOf: NonNullable<Gradebook['asOf']> }>();
const emit = defineEmits<{ back: [] }>();
const course = useCourse();
const at = (iso: string): string => dayAndTime(Date.parse(iso), course.zone, course.now);
const isPartly = computed(() => props.asOf.knownSince !== null && props.asOf.at < props.asOf.knownSince);
</script>

<template>
  <p class="past" role="status">
    <b>As it stood on {{ at(asOf.at) }}.</b> Nothing can be changed here.
    <template v-if="isPartly">
      Marks are those of then; dates, points, policy and membership are known only from {{ at(asOf.knownSince ?? '') }} on, so the earliest
      known are shown.
    </template>
    <ActButton look="act" @click="emit('back')">Back to now</ActButton>
  </p>
</template>

<style scoped>
.past {
  background: var(--lit);
  padding: 5px 20px;
  border-bottom: 1px solid var(--frost);
}
</style>

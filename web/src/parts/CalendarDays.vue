<script setup lang="ts">
import { DateTime } from 'luxon';
import { computed } from 'vue';
import { VDatePicker } from 'vuetify/components/VDatePicker';

/** Days as text in and out: the picker's own dates are of this browser's zone, which says nothing about the course's. */
const props = defineProps<{ day: string | null; now: number; zone: string }>();
const emit = defineEmits<{ choose: [day: string] }>();
const today = computed(() => DateTime.fromMillis(props.now, { zone: props.zone }));
const local = (day: string): Date => new Date(`${day}T12:00:00`);
function choose(value: unknown): void {
  if (value instanceof Date) emit('choose', DateTime.fromJSDate(value).toFormat('yyyy-LL-dd'));
}
</script>

<template>
  <VDatePicker
    :model-value="local(day ?? today.toFormat('yyyy-LL-dd'))"
    :first-day-of-week="1"
    show-adjacent-months
    hide-header
    color="primary"
    class="calendar"
    @update:model-value="choose"
  />
</template>

<style scoped>
.calendar,
.calendar :deep(*) {
  font-family: inherit;
}
.calendar :deep(.v-date-picker-month__day-btn) {
  font-size: 13px;
}
</style>

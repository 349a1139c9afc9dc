<script setup lang="ts">
import { ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import DateField from '../parts/DateField.vue';
import { useCourse } from '../stores/courseStore.ts';

/** The gradebook as it stood on another day, and what has changed since. */
const asOf = defineModel<string | null>({ required: true });
const emit = defineEmits<{ differences: []; close: [] }>();
const course = useCourse();
const fault = ref('');
/** The menu closes, so that the line is free for the press. */
function pick(): void {
  course.picksDay = true;
  emit('close');
}
function choose(at: string | null): void {
  fault.value = at !== null && Date.parse(at) > course.now ? 'That day is still to come. Choose one that has been.' : '';
  if (fault.value === '') asOf.value = at;
}
</script>

<template>
  <div class="sheet pad past-choice" role="dialog" aria-label="The gradebook of another day">
    <DateField
      :model-value="asOf"
      label="As it stood on"
      hint="At the end of the day, unless you type a time."
      :zone="course.zone"
      :now="course.now"
      :fault="fault"
      @change="choose"
    />
    <p><ActButton look="act" @click="pick">Choose the day on the term line</ActButton></p>
    <p v-if="asOf"><ActButton look="act" @click="asOf = null">Back to now</ActButton></p>
    <p><ActButton look="act" @click="emit('differences')">What changed between two days…</ActButton></p>
  </div>
</template>

<style scoped>
.past-choice {
  width: 270px;
}
</style>

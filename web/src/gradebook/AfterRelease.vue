<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { ref, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';
import { call } from '../platform/call.ts';
import type { ChangedAfter } from './useCellWrites.ts';

/** A result that its student had seen was changed: why, in a few words, without holding up what is typed next. */
const props = defineProps<{ courseId: string; changed: ChangedAfter }>();
const emit = defineEmits<{ done: [] }>();
const reason = ref('');
const fault = ref('');
watch(
  () => props.changed.eventId,
  () => {
    [reason.value, fault.value] = ['', ''];
  },
);
async function save(): Promise<void> {
  if (reason.value.trim() === '') {
    fault.value = 'Type the reason, or leave it unsaid.';
    return;
  }
  try {
    await call(api.saveEventReason, { courseId: props.courseId }, { eventId: props.changed.eventId, reason: reason.value.trim() });
    emit('done');
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
</script>

<template>
  <form class="side-note" aria-label="Why it was changed after release" @submit.prevent="save">
    <b>{{ changed.who }} · {{ changed.title }}</b>
    <p>It was changed after its student had seen it. Why?</p>
    <LineField v-model="reason" maxlength="600" placeholder="In a few words" aria-label="Reason of the change" />
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p>
      <ActButton look="act" type="submit">Keep the reason</ActButton> ·
      <ActButton look="act" @click="emit('done')">leave it unsaid</ActButton>
    </p>
  </form>
</template>

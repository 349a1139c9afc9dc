<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { FinalsView } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';

/** The grades are closed since they were handed over; whoever sends opens them again with a reason. */
const props = defineProps<{ closedAt: string; canSend: boolean; at: { readonly courseId: string } }>();
const emit = defineEmits<{ done: [view: FinalsView] }>();
const course = useCourse();
const isAsking = ref(false);
const reason = ref('');
const fault = ref('');
async function reopen(): Promise<void> {
  try {
    emit('done', await call(api.reopenGrades, props.at, { reason: reason.value.trim() }));
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
</script>

<template>
  <div class="closed">
    <p>
      The grades are closed since {{ dayAndTime(Date.parse(closedAt), course.zone, course.now) }}, when all of them were handed over: no
      mark changes.
      <ActButton v-if="canSend && !isAsking" look="act" @click="isAsking = true">Open them again</ActButton>
      <span v-else-if="!canSend" class="soft">The instructor of record can open them again.</span>
    </p>
    <form v-if="isAsking" @submit.prevent="reopen">
      <label class="field">Why they are opened again <LineField v-model="reason" maxlength="600" takes-focus /></label>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <ActButton v-if="reason.trim() !== ''" look="go" type="submit">Open the grades</ActButton>
      <span v-else class="soft">Type the reason to open them.</span>
      <ActButton look="quiet" @click="isAsking = false">Leave them closed</ActButton>
    </form>
  </div>
</template>

<style scoped>
.closed {
  background: var(--lit);
  padding: 2px 14px;
  margin: 6px 0;
}
</style>

<script setup lang="ts">
import { formatPoints, parsePoints } from '@rosemary/core';
import { ref, watch } from 'vue';
import * as api from '@rosemary/api/endpoints';
import type { PathOf } from '@rosemary/api/endpoints';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';

/** Points given by a person, with a comment; they count before the key, and can be given back to it. */
const props = defineProps<{
  at: PathOf<typeof api.giveScore>;
  points: number;
  scoreText: string | null;
  comment: string;
  version: number;
  waits: boolean;
  given?: number | null;
}>();
const emit = defineEmits<{ saved: [] }>();
const text = ref(props.waits ? '' : (props.scoreText ?? ''));
const comment = ref(props.comment);
const isOpen = ref(props.waits);
const fault = ref('');
watch(
  () => props.version,
  () => {
    text.value = props.waits ? '' : (props.scoreText ?? '');
    comment.value = props.comment;
  },
);
async function give(points: number | null): Promise<void> {
  fault.value = '';
  try {
    await call(api.giveScore, props.at, { points, reason: comment.value, version: props.version });
    isOpen.value = false;
    emit('saved');
  } catch (error) {
    fault.value =
      error instanceof HttpProblem
        ? error.code === 'conflict'
          ? 'Somebody else marked this meanwhile. Open the page again.'
          : error.message
        : 'Not saved.';
  }
}
function save(): void {
  const read = parsePoints(text.value);
  if (read.ok) void give(read.value);
  else fault.value = read.reason;
}
</script>

<template>
  <div class="give">
    <ActButton v-if="!isOpen" look="act" @click="isOpen = true">mark by hand</ActButton>
    <form v-else @submit.prevent="save">
      <LineField v-model="text" class="points" aria-label="Points by hand" inputmode="decimal" /> of {{ formatPoints(points) }}
      <LineField v-model="comment" class="words" maxlength="4000" aria-label="Comment" placeholder="Comment for the student" />
      <ActButton type="submit" look="quiet">Save</ActButton>
      <ActButton v-if="comment !== '' && !waits" look="act" @click="give(null)">give it back to the key</ActButton>
    </form>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.give {
  margin-top: 8px;
}
form {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.points {
  width: 60px;
  text-align: right;
}
.words {
  flex: 1;
}
</style>

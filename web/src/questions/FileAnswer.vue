<script setup lang="ts">
import { computed, ref } from 'vue';
import { HttpProblem } from '../platform/http.ts';
import type { AnswerEmits, AnswerProps } from './answerProps.ts';

/** A file as an answer: sent at once, shown by its name, replaced by sending another. */
const props = defineProps<AnswerProps>();
const emit = defineEmits<AnswerEmits>();
const sent = ref('');
const share = ref<number | null>(null);
const fault = ref('');
const isGiven = computed(() => props.answer?.kind === 'work' && (props.answer.fileId ?? null) !== null);
async function give(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (file === undefined || props.sendFile === undefined) return;
  fault.value = '';
  share.value = 0;
  try {
    const kept = await props.sendFile(file, (s) => {
      share.value = s;
    });
    sent.value = kept.name;
    emit('answer', { kind: 'work', document: null, fileId: kept.id });
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'The file did not arrive. Send it again.';
  } finally {
    share.value = null;
    input.value = '';
  }
}
</script>

<template>
  <div class="file">
    <p v-if="isGiven">
      {{ sent || fileName || 'A file' }} <span class="soft">is given</span>
      <button v-if="!isFixed" type="button" class="act" @click="emit('answer', null)">take it away</button>
    </p>
    <p v-if="share !== null" class="soft" role="status">Sending, {{ Math.round(share * 100) }} %</p>
    <label v-if="!isFixed && sendFile" class="quiet"
      >{{ isGiven ? 'Give another file' : 'Give a file' }}
      <input class="hidden" type="file" :aria-label="`${label}: give a file`" @change="give"
    /></label>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.file {
  margin-top: 10px;
}
.file label {
  display: inline-block;
  border: 1px solid var(--frost);
}
</style>

<script setup lang="ts">
import { computed, ref } from 'vue';
import { HttpProblem } from '../platform/http.ts';
import type { AnswerEmits, AnswerProps } from './answerProps.ts';
import ActButton from '../parts/ActButton.vue';
import FileInput from '../parts/media/FileInput.vue';

/** A file as an answer: sent at once, shown by its name, replaced by sending another. */
const props = defineProps<AnswerProps>();
const emit = defineEmits<AnswerEmits>();
const sent = ref('');
const share = ref<number | null>(null);
const fault = ref('');
const isGiven = computed(() => props.answer?.kind === 'work' && (props.answer.fileId ?? null) !== null);
const picker = ref<InstanceType<typeof FileInput> | null>(null);
async function give([file]: readonly File[]): Promise<void> {
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
  }
}
</script>

<template>
  <div class="file">
    <p v-if="isGiven">
      {{ sent || fileName || 'A file' }} <span class="soft">is given</span>
      <ActButton v-if="!isFixed" look="act" @click="emit('answer', null)">remove it</ActButton>
    </p>
    <p v-if="share !== null" class="soft" role="status">Sending, {{ Math.round(share * 100) }} %</p>
    <template v-if="!isFixed && sendFile">
      <ActButton look="quiet" class="give" @click="picker?.open()">{{ isGiven ? 'Give another file' : 'Give a file' }}</ActButton>
      <FileInput ref="picker" :label="`${label}: give a file`" @choose="give" />
    </template>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.file {
  margin-top: 10px;
}
.give {
  border: 1px solid var(--frost);
}
</style>

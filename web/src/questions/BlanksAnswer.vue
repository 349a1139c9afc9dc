<script setup lang="ts">
import { nodesOfType } from '@rosemary/core';
import { nextTick, onMounted, ref, watch } from 'vue';
import DocumentView from '../parts/DocumentView.vue';
import type { AnswerEmits, AnswerProps } from './answerProps.ts';

/** A text whose blanks are written into where they stand. */
const props = defineProps<AnswerProps>();
const emit = defineEmits<AnswerEmits>();
const root = ref<HTMLElement | null>(null);
const texts = (): Record<string, string> => (props.answer?.kind === 'texts' ? { ...props.answer.texts } : {});
const idsInText = (): string[] => nodesOfType(props.asked.words, 'blank').map((n) => String(n.attrs?.id ?? ''));

/** The places in the text become fields; the text itself is drawn by the one schema. */
function place(): void {
  const ids = idsInText();
  root.value?.querySelectorAll<HTMLElement>('[data-place="blank"]').forEach((spot, n) => {
    const id = ids[n] ?? '';
    const { size = 0 } = JSON.parse(spot.dataset.attrs ?? '{}') as { size?: number };
    const field = document.createElement('input');
    field.className = 'blank-field';
    field.maxLength = 1000;
    field.autocomplete = 'off';
    field.disabled = props.isFixed === true;
    field.setAttribute('aria-label', `${props.label}, blank ${n + 1} of ${ids.length}`);
    field.style.width = `${Math.max(size, size > 0 ? 2 : 12) + 2}ch`;
    field.value = texts()[id] ?? '';
    field.dataset.blank = id;
    field.addEventListener('input', () => {
      emit('typing', { kind: 'texts', texts: { ...texts(), [id]: field.value } });
    });
    spot.replaceWith(field);
  });
}
onMounted(() => void nextTick(place));
watch(
  () => props.asked.words,
  () => void nextTick(place),
);
watch(
  () => props.answer,
  () => {
    root.value?.querySelectorAll<HTMLInputElement>('.blank-field').forEach((field) => {
      const text = texts()[field.dataset.blank ?? ''] ?? '';
      if (field !== document.activeElement && field.value !== text) field.value = text;
    });
  },
);
</script>

<template>
  <div ref="root"><DocumentView :document="asked.words" class="with-blanks" /></div>
</template>

<style scoped>
.with-blanks {
  line-height: 34px;
}
div :deep(.blank-field) {
  border: 0;
  border-bottom: 1px solid var(--ink);
  background: transparent;
  color: var(--ink);
  font: 16px/24px var(--sans);
  text-align: center;
  max-width: 100%;
  margin: 0 3px;
}
div :deep(.blank-field:focus) {
  outline: none;
  border-color: var(--bloom);
  box-shadow: 0 1px 0 var(--bloom);
}
</style>

<script setup lang="ts">
import type { DocumentNode } from '@rosemary/core';
import { computed, defineAsyncComponent } from 'vue';
import DocumentView from '../parts/DocumentView.vue';
import type { AnswerEmits, AnswerProps } from './answerProps.ts';

/** An answer written at length. */
const props = defineProps<AnswerProps>();
const emit = defineEmits<AnswerEmits>();
const DocumentEditor = defineAsyncComponent(() => import('../parts/DocumentEditor.vue'));
const work = computed(() => (props.answer?.kind === 'work' ? props.answer : { kind: 'work' as const, document: null, fileId: null }));
const write = (document: DocumentNode): void => emit('typing', { ...work.value, document });
</script>

<template>
  <DocumentView v-if="isFixed" :document="work.document ?? null" class="written" />
  <DocumentEditor v-else :model-value="work.document ?? null" :label="`${label}, your answer`" is-small class="written" @change="write" />
</template>

<style scoped>
.written {
  border: 1px solid var(--frost);
  padding: 10px 14px;
  margin-top: 8px;
  background: var(--paper);
}
</style>

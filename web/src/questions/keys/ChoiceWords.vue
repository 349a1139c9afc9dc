<script setup lang="ts">
import type { DocumentNode } from '@rosemary/core';
import { nodesOfType, plainText } from '@rosemary/core';
import { computed, ref, watch } from 'vue';
import DocumentEditor from '../../parts/DocumentEditor.vue';
import LineField from '../../parts/fields/LineField.vue';

/** The words of an answer: one line to type in, quickly; as a text with formulas and pictures where it has them or is asked to. */
const props = defineProps<{ words: DocumentNode; label: string }>();
const emit = defineEmits<{ change: [words: DocumentNode]; enter: []; empty: [] }>();
const isPlain = computed(() => {
  const blocks = props.words.content ?? [];
  const inner = blocks[0]?.content ?? [];
  return (
    blocks.length <= 1 &&
    (blocks[0]?.type ?? 'paragraph') === 'paragraph' &&
    inner.every((n) => n.type === 'text' && (n.marks ?? []).length === 0) &&
    nodesOfType(props.words, 'value').length === 0
  );
});
const isRich = ref(!isPlain.value);
const text = ref(plainText(props.words));
const isFocused = ref(false);
watch(
  () => props.words,
  (words) => {
    if (!isFocused.value) text.value = plainText(words);
  },
);
const toDocument = (line: string): DocumentNode => ({
  type: 'doc',
  content: [line === '' ? { type: 'paragraph' } : { type: 'paragraph', content: [{ type: 'text', text: line }] }],
});
function onKey(event: KeyboardEvent): void {
  if (event.key === 'Enter' && !event.ctrlKey && !event.metaKey) {
    event.preventDefault();
    emit('enter');
  } else if (event.key === 'Backspace' && text.value === '') {
    event.preventDefault();
    emit('empty');
  }
}
</script>

<template>
  <DocumentEditor v-if="isRich" :model-value="words" :label="label" is-small class="rich" @change="emit('change', $event)" />
  <LineField
    v-else
    v-model="text"
    class="choice-words"
    :aria-label="label"
    maxlength="1000"
    @focus="isFocused = true"
    @blur="isFocused = false"
    @input="emit('change', toDocument(text))"
    @keydown="onKey"
    @dblclick="isRich = true"
  />
</template>

<style scoped>
.choice-words {
  flex: 1;
  border-color: transparent;
}
.choice-words:hover {
  border-color: var(--frost);
}
.rich {
  flex: 1;
}
</style>

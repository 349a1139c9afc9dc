<script setup lang="ts">
import type { QuestionPicture, QuestionKey } from '@rosemary/core';
import { computed } from 'vue';
import { KEY_EDITORS } from './keys/keyEditors.ts';

/** The key of a question, changed where it stands, in every kind. */
const props = defineProps<{ value: QuestionKey; picture: QuestionPicture | null; courseId: string; isFixed?: boolean }>();
const emit = defineEmits<{ change: [key: QuestionKey]; picture: [picture: QuestionPicture | null]; insert: [name: string] }>();
const editor = computed(() => KEY_EDITORS[props.value.kind]);
</script>

<template>
  <fieldset class="key" :disabled="isFixed">
    <legend class="hidden">Key</legend>
    <component
      :is="editor.is"
      :value="value"
      v-bind="editor.takesPicture ? { picture, courseId } : {}"
      @change="emit('change', $event)"
      @picture="emit('picture', $event)"
      @insert="emit('insert', $event)"
    />
  </fieldset>
</template>

<style scoped>
.key {
  border: 0;
  padding: 0;
  margin: 8px 0 0;
  min-width: 0;
  font: 15px/24px var(--sans);
}
</style>

<script setup lang="ts">
import { computed } from 'vue';
import DocumentView from '../parts/DocumentView.vue';
import { ANSWER_FIELDS } from './answerFields.ts';
import type { AnswerEmits, AnswerProps } from './answerProps.ts';

/** A question as it is asked, with the place for its answer, in every kind. */
const props = defineProps<AnswerProps>();
const emit = defineEmits<AnswerEmits>();
const field = computed(() => ANSWER_FIELDS[props.asked.kind]);
</script>

<template>
  <div class="asked">
    <DocumentView v-if="field.hasWords !== true" :document="asked.words" />
    <component :is="field.is" v-bind="props" @answer="emit('answer', $event)" @typing="emit('typing', $event)" />
  </div>
</template>

<script setup lang="ts">
import type { GivenAnswer } from '@rosemary/api';
import { commaReading, type AskedQuestion, type DocumentNode } from '@rosemary/core';
import { computed, defineAsyncComponent } from 'vue';
import DocumentView from '../parts/DocumentView.vue';
import BlanksAnswer from './BlanksAnswer.vue';
import ChoiceAnswer from './ChoiceAnswer.vue';
import MatchingAnswer from './MatchingAnswer.vue';
import OrderingAnswer from './OrderingAnswer.vue';
import SpotAnswer from './SpotAnswer.vue';
import type { SendFile } from './sendFile.ts';
import FileAnswer from './FileAnswer.vue';

const DocumentEditor = defineAsyncComponent(() => import('../parts/DocumentEditor.vue'));
/** A question as it is asked, with the place for its answer, in every kind. */
const props = defineProps<{
  asked: AskedQuestion;
  answer: GivenAnswer | null;
  /** What it is called for those who hear the page: “Question 3”. */
  label: string;
  isFixed?: boolean;
  /** The answers that are right, once that may be told. */
  rightIds?: readonly string[];
  /** Sends a file, where one can be given here. */
  sendFile?: SendFile;
  fileName?: string;
}>();
const emit = defineEmits<{ answer: [answer: GivenAnswer | null]; typing: [answer: GivenAnswer | null] }>();
const isBlanks = computed(() => props.asked.kind === 'blanks');
const text = computed(() => (props.answer?.kind === 'text' ? props.answer.text : ''));
const units = computed(() => {
  const { units: names, isUnitNeeded, decimals } = props.asked;
  const parts = [
    names.length === 0 ? '' : `in ${names.join(' or ')}${isUnitNeeded ? ', with the unit' : ''}`,
    decimals === null ? '' : decimals === 0 ? 'a whole number' : `with ${decimals} ${decimals === 1 ? 'decimal' : 'decimals'}`,
  ];
  return parts.filter((p) => p !== '').join(', ');
});
const isNumber = computed(() => props.asked.kind === 'numeric' || props.asked.kind === 'calculated');
const work = computed(() => (props.answer?.kind === 'work' ? props.answer : { kind: 'work' as const, document: null, fileId: null }));
const type = (event: Event): void => emit('typing', { kind: 'text', text: (event.target as HTMLInputElement).value });
const write = (document: DocumentNode): void => emit('typing', { ...work.value, document });
</script>

<template>
  <div class="asked">
    <BlanksAnswer v-if="isBlanks" :asked="asked" :answer="answer" :label="label" :is-fixed="isFixed" @typing="emit('typing', $event)" />
    <DocumentView v-else :document="asked.words" />
    <ChoiceAnswer
      v-if="asked.choices.length > 0"
      :asked="asked"
      :answer="answer"
      :label="label"
      :is-fixed="isFixed"
      :right-ids="rightIds ?? []"
      @answer="emit('answer', $event)"
    />
    <p v-else-if="isNumber || asked.kind === 'short'" class="line">
      <input
        class="line-input"
        type="text"
        :inputmode="isNumber && asked.units.length === 0 ? 'decimal' : 'text'"
        :aria-label="`${label}, your answer${units === '' ? '' : `, ${units}`}`"
        maxlength="4000"
        autocomplete="off"
        :value="text"
        :disabled="isFixed"
        @input="type"
      />
      <span v-if="units" class="soft">{{ units }}</span>
      <span v-if="isNumber && commaReading(text) !== null" class="label" role="status">{{ commaReading(text) }}</span>
    </p>
    <MatchingAnswer
      v-else-if="asked.kind === 'matching'"
      :asked="asked"
      :answer="answer"
      :label="label"
      :is-fixed="isFixed"
      @answer="emit('answer', $event)"
    />
    <OrderingAnswer
      v-else-if="asked.kind === 'ordering'"
      :asked="asked"
      :answer="answer"
      :label="label"
      :is-fixed="isFixed"
      @answer="emit('answer', $event)"
    />
    <SpotAnswer
      v-else-if="asked.kind === 'hotspot' && asked.picture"
      :picture="asked.picture"
      :answer="answer"
      :label="label"
      :is-fixed="isFixed"
      @answer="emit('answer', $event)"
    />
    <template v-else-if="asked.kind === 'essay'">
      <DocumentView v-if="isFixed" :document="work.document ?? null" class="written" />
      <DocumentEditor
        v-else
        :model-value="work.document ?? null"
        :label="`${label}, your answer`"
        is-small
        class="written"
        @change="write"
      />
    </template>
    <FileAnswer
      v-else-if="asked.kind === 'file'"
      :answer="answer"
      :label="label"
      :is-fixed="isFixed"
      :send="sendFile"
      :name="fileName ?? ''"
      @answer="emit('answer', $event)"
    />
  </div>
</template>

<style scoped>
.line {
  display: flex;
  gap: 12px;
  align-items: baseline;
  margin-top: 6px;
}
.line .line-input {
  max-width: 340px;
  border-color: var(--leaf);
  font-size: 17px;
  line-height: 26px;
}
.written {
  border: 1px solid var(--frost);
  padding: 10px 14px;
  margin-top: 8px;
  background: var(--paper);
}
</style>

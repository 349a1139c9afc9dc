<script setup lang="ts">
import { computed, useId } from 'vue';
import DocumentView from '../parts/DocumentView.vue';
import type { AnswerEmits, AnswerProps } from './answerProps.ts';
import PickMark from '../parts/fields/PickMark.vue';

/** Answers to choose from: one of them, or several; “I do not know” stands last and apart. */
const props = defineProps<AnswerProps>();
const emit = defineEmits<AnswerEmits>();
const name = useId();
const isSeveral = computed(() => props.asked.kind === 'several');
const picked = computed(() =>
  props.answer?.kind === 'choice' ? [props.answer.id] : props.answer?.kind === 'choices' ? props.answer.ids : [],
);
const isUnknown = computed(() => props.answer?.kind === 'dontKnow');
function pick(id: string, isOn: boolean): void {
  if (!isSeveral.value) emit('answer', { kind: 'choice', id });
  else {
    const ids = isOn ? [...picked.value, id] : picked.value.filter((p) => p !== id);
    emit('answer', ids.length === 0 ? null : { kind: 'choices', ids });
  }
}
const checked = (event: Event): boolean => (event.target as HTMLInputElement).checked;
</script>

<template>
  <fieldset class="choices" :disabled="isFixed">
    <legend class="hidden">{{ label }}: {{ isSeveral ? 'choose all that are right' : 'choose one' }}</legend>
    <label
      v-for="(c, n) in asked.choices"
      :key="c.id"
      class="choice"
      :class="{ on: picked.includes(c.id), right: rightIds?.includes(c.id) }"
      :data-key="n + 1"
    >
      <PickMark
        :is-several="isSeveral"
        :name="name"
        :value="c.id"
        :model-value="picked.includes(c.id) ? c.id : null"
        @change="pick(c.id, checked($event))"
      />
      <DocumentView :document="c.words" class="words" />
      <span v-if="rightIds?.includes(c.id)" class="key">right</span>
    </label>
    <label v-if="asked.hasDontKnow" class="choice apart" :class="{ on: isUnknown }">
      <PickMark
        :is-several="isSeveral"
        :name="name"
        :value="true"
        :model-value="isUnknown"
        @change="emit('answer', checked($event) ? { kind: 'dontKnow' } : null)"
      />
      <span class="words">I do not know</span>
    </label>
  </fieldset>
</template>

<style scoped>
.choices {
  border: 0;
  padding: 0;
  margin: 14px 0 0;
  min-width: 0;
}
.choice {
  display: flex;
  gap: 14px;
  align-items: baseline;
  padding: 9px 14px;
  border-top: 1px solid var(--frost2);
  cursor: pointer;
}
.choice:last-child {
  border-bottom: 1px solid var(--frost2);
}
.choice.on {
  background: var(--bloom-wash);
}
.choices:disabled .choice {
  cursor: default;
}
.choice .pick-mark {
  align-self: flex-start;
  margin-top: 4px;
}
.words {
  font: 17px/26px var(--sans);
  flex: 1;
  min-width: 0;
}
.words :deep(p) {
  margin: 0;
}
.apart .words {
  color: var(--soft);
}
.choices:disabled .choice {
  padding: 4px 14px;
}
.key {
  color: var(--needle);
  font-weight: 600;
}
.right .words {
  color: var(--needle);
  font-weight: 600;
}
</style>

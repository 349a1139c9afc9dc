<script setup lang="ts">
import { commaReading } from '@rosemary/core';
import { computed } from 'vue';
import type { AnswerEmits, AnswerProps } from './answerProps.ts';
import LineField from '../parts/fields/LineField.vue';

/** A line to write a text or a number into. */
const props = defineProps<AnswerProps>();
const emit = defineEmits<AnswerEmits>();
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
const type = (event: Event): void => emit('typing', { kind: 'text', text: (event.target as HTMLInputElement).value });
</script>

<template>
  <p class="line">
    <LineField
      type="text"
      :inputmode="isNumber && asked.units.length === 0 ? 'decimal' : 'text'"
      :aria-label="`${label}, your answer${units === '' ? '' : `, ${units}`}`"
      maxlength="4000"
      autocomplete="off"
      :model-value="text"
      :disabled="isFixed"
      @input="type"
    />
    <span v-if="units" class="soft">{{ units }}</span>
    <span v-if="isNumber && commaReading(text) !== null" class="label" role="status">{{ commaReading(text) }}</span>
  </p>
</template>

<style scoped>
.line {
  display: flex;
  gap: 12px;
  align-items: baseline;
  margin-top: 6px;
}
.line .line-field {
  max-width: 340px;
  font-size: 17px;
  line-height: 26px;
}
</style>

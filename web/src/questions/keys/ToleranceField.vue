<script setup lang="ts">
import type { Tolerance } from '@rosemary/core';
import LineInput from '../../parts/LineInput.vue';
import ChoiceField from '../../parts/fields/ChoiceField.vue';

/** How near is near enough: by an amount, by a share, or to so many figures. */
const props = defineProps<{ value: Tolerance; label: string }>();
const emit = defineEmits<{ change: [tolerance: Tolerance] }>();
function setKind(kind: Tolerance['kind']): void {
  const amount = props.value.kind === 'absolute' ? props.value.amount : props.value.kind === 'relative' ? props.value.percent : '0';
  emit(
    'change',
    kind === 'absolute' ? { kind, amount } : kind === 'relative' ? { kind, percent: amount } : { kind: 'significant', figures: 3 },
  );
}
function setAmount(text: string): void {
  const { value } = props;
  if (value.kind === 'absolute') emit('change', { ...value, amount: text.trim() });
  else if (value.kind === 'relative') emit('change', { ...value, percent: text.trim() });
  else emit('change', { ...value, figures: Math.min(15, Math.max(1, Math.round(Number(text)) || 1)) });
}
</script>

<template>
  <span class="tolerance">
    <span v-if="value.kind !== 'significant'">±</span><span v-else>to</span>
    <LineInput
      class="amount"
      :value="value.kind === 'absolute' ? value.amount : value.kind === 'relative' ? value.percent : value.figures"
      :aria-label="label"
      @commit="setAmount"
    />
    <ChoiceField class="kind" :aria-label="`Kind of ${label.toLowerCase()}`" :model-value="value.kind" @change="setKind">
      <option value="absolute">as an amount</option>
      <option value="relative">% of the value</option>
      <option value="significant">significant figures</option>
    </ChoiceField>
  </span>
</template>

<style scoped>
.tolerance {
  display: inline-flex;
  gap: 6px;
  align-items: baseline;
}
.amount {
  width: 60px;
  text-align: right;
}
.kind {
  width: auto;
}
</style>

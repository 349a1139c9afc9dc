<script setup lang="ts">
import type { AcceptedNumber, QuestionKey } from '@rosemary/core';
import LineInput from '../../parts/LineInput.vue';
import { readShare, shareWords } from './shares.ts';
import ToleranceField from './ToleranceField.vue';
import UnitsField from './UnitsField.vue';
import ActButton from '../../parts/ActButton.vue';

type NumericKey = Extract<QuestionKey, { kind: 'numeric' }>;
const props = defineProps<{ value: NumericKey }>();
const emit = defineEmits<{ change: [key: NumericKey] }>();
const put = (accepted: readonly AcceptedNumber[]): void => emit('change', { ...props.value, rules: { ...props.value.rules, accepted } });
const change = (at: number, more: Partial<AcceptedNumber>): void =>
  put(props.value.rules.accepted.map((a, n) => (n === at ? { ...a, ...more } : a)));
function setShare(at: number, text: string): void {
  const share = readShare(text);
  if (share !== null) change(at, { share });
}
const add = (): void => put([...props.value.rules.accepted, { value: '', tolerance: { kind: 'absolute', amount: '0' }, share: 50_000 }]);
</script>

<template>
  <div>
    <p v-for="(a, n) in value.rules.accepted" :key="n" class="row">
      <LineInput class="value" :value="a.value" :aria-label="`Accepted number ${n + 1}`" @commit="change(n, { value: $event.trim() })" />
      <span v-if="value.rules.units[0]">{{ value.rules.units[0].name }}</span>
      <ToleranceField :value="a.tolerance" label="Tolerance" @change="change(n, { tolerance: $event })" />
      <template v-if="value.rules.accepted.length > 1">
        <LineInput
          class="share"
          :value="shareWords(a.share)"
          :aria-label="`Percent of the points for ${a.value}`"
          @commit="setShare(n, $event)"
        /><span class="soft">%</span>
        <ActButton look="act" :aria-label="`Remove ${a.value}`" @click="put(value.rules.accepted.filter((_, m) => m !== n))"> × </ActButton>
      </template>
    </p>
    <UnitsField :value="value.rules" @change="emit('change', { ...value, rules: { ...$event, accepted: value.rules.accepted } })" />
    <p><ActButton look="act" @click="add">Add another accepted number</ActButton></p>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  gap: 10px;
  align-items: baseline;
  flex-wrap: wrap;
}
.value {
  width: 110px;
  color: var(--needle);
}
.share {
  width: 52px;
  text-align: right;
}
</style>

<script setup lang="ts">
import { formatPoints, parsePoints, type LatePolicy } from '@rosemary/core';
import { ref } from 'vue';
import LineInput from '../../parts/LineInput.vue';
import ChoiceField from '../../parts/fields/ChoiceField.vue';

/** Late work of one item: by the course's policy, or by one of its own, written as a sentence. */
const props = defineProps<{ late: LatePolicy | null; canEdit: boolean }>();
const emit = defineEmits<{ set: [late: LatePolicy | null] }>();
const fault = ref('');
const USUAL: LatePolicy = { ratePercent: 5000, stepMinutes: 1440, base: 'earned', capPercent: 50_000, floorPercent: 0, graceMinutes: 0 };
function setPercent(field: 'ratePercent' | 'capPercent' | 'floorPercent', text: string): void {
  const parsed = parsePoints(text);
  if (props.late === null) return;
  fault.value = parsed.ok ? (parsed.value > 100_000 ? `${text} % is more than everything.` : '') : parsed.reason;
  if (parsed.ok && parsed.value <= 100_000) emit('set', { ...props.late, [field]: parsed.value });
}
function setGrace(text: string): void {
  if (props.late === null) return;
  fault.value = /^\d{1,5}$/.test(text.trim()) ? '' : `“${text}” is not a whole number of minutes.`;
  if (fault.value === '') emit('set', { ...props.late, graceMinutes: Math.min(10_080, Number(text)) });
}
</script>

<template>
  <div class="field">
    <label
      ><span class="label">Late work</span
      ><ChoiceField
        :model-value="late === null ? 'course' : 'own'"
        :disabled="!canEdit"
        @change="emit('set', $event === 'own' ? USUAL : null)"
      >
        <option value="course">as its category or the course has it</option>
        <option value="own">by a rule of its own</option>
      </ChoiceField></label
    >
    <p v-if="late" class="rule">
      Loses
      <LineInput
        :value="formatPoints(late.ratePercent)"
        aria-label="Late rate in percent"
        inputmode="decimal"
        @commit="setPercent('ratePercent', $event)"
      />
      % of what was
      <ChoiceField aria-label="Of what" :model-value="late.base" @change="emit('set', { ...late, base: $event as 'earned' })">
        <option value="earned">earned</option>
        <option value="possible">possible</option></ChoiceField
      >, each begun
      <ChoiceField aria-label="Step" :model-value="late.stepMinutes" @change="emit('set', { ...late, stepMinutes: Number($event) })">
        <option :value="1440">day</option>
        <option :value="60">hour</option></ChoiceField
      >, at most
      <LineInput
        :value="formatPoints(late.capPercent)"
        aria-label="At most, in percent"
        inputmode="decimal"
        @commit="setPercent('capPercent', $event)"
      />
      %, never below
      <LineInput
        :value="formatPoints(late.floorPercent)"
        aria-label="Never below, in percent"
        inputmode="decimal"
        @commit="setPercent('floorPercent', $event)"
      />
      % of the points; <LineInput :value="late.graceMinutes" aria-label="Grace in minutes" inputmode="numeric" @commit="setGrace" /> minutes
      are not late yet.
    </p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.rule :deep(.line-field) {
  width: 46px;
  text-align: right;
}
.rule :deep(.choice-field) {
  width: auto;
}
</style>

<script setup lang="ts">
import { formatPoints, parsePoints, type LatePolicy } from '@rosemary/core';
import NumberWord from './NumberWord.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

/** A late policy as a sentence whose words are changed in place; `about` is empty, or ` of` a category. */
const props = defineProps<{ late: LatePolicy; about: string }>();
const emit = defineEmits<{ set: [late: LatePolicy]; fault: [text: string] }>();
function setPercent(field: 'ratePercent' | 'capPercent' | 'floorPercent', text: string): void {
  const p = parsePoints(text);
  if (p.ok && p.value <= 100_000) emit('set', { ...props.late, [field]: p.value });
  else emit('fault', `A percentage goes from 0 to 100; “${text}” does not.`);
}
function setGrace(text: string): void {
  if (/^\d{1,5}$/.test(text) && Number(text) <= 10_080) emit('set', { ...props.late, graceMinutes: Number(text) });
  else emit('fault', `Grace is a whole number of minutes, at most 10080 (a week); “${text}” is not.`);
}
</script>

<template>
  loses
  <NumberWord :value="formatPoints(late.ratePercent)" :label="`Late penalty${about} in percent`" @set="setPercent('ratePercent', $event)" />
  % of what
  <ChoiceField
    is-word
    :model-value="late.base"
    :aria-label="`Base of the penalty${about}`"
    @change="emit('set', { ...late, base: $event as 'earned' })"
  >
    <option value="earned">it earned</option>
    <option value="possible">is possible</option>
  </ChoiceField>
  for each
  <ChoiceField
    is-word
    :model-value="late.stepMinutes"
    :aria-label="`Step of the penalty${about}`"
    @change="emit('set', { ...late, stepMinutes: Number($event) })"
  >
    <option :value="1440">day</option>
    <option :value="60">hour</option>
    <option v-if="![60, 1440].includes(late.stepMinutes)" :value="late.stepMinutes">{{ late.stepMinutes }} min</option></ChoiceField
  >, at most
  <NumberWord
    :value="formatPoints(late.capPercent)"
    :label="`Largest penalty${about} in percent`"
    @set="setPercent('capPercent', $event)"
  />
  %, never below
  <NumberWord
    :value="formatPoints(late.floorPercent)"
    :label="`Least that is left${about} in percent`"
    @set="setPercent('floorPercent', $event)"
  />
  % of the points, after <NumberWord :value="String(late.graceMinutes)" :label="`Minutes of grace${about}`" @set="setGrace" /> minutes of
  grace.
</template>

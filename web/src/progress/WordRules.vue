<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Words } from '@rosemary/api';
import { kindOfRule, WORD_RULE_NAMES, type WordRule, type WordRuleSetting, type WordSettings } from '@rosemary/core';
import { ref } from 'vue';
import TickBox from '../parts/fields/TickBox.vue';
import LineInput from '../parts/LineInput.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';

/** The rules of a course: each on or off, with its numbers. They are saved as they are changed. */
const props = defineProps<{ rules: WordSettings; courseId: string; canEdit: boolean }>();
const emit = defineEmits<{ saved: [words: Words] }>();
const faults = ref<{ readonly [rule in WordRule]?: string }>({});
async function keep(rule: WordRule, change: Partial<WordRuleSetting>): Promise<void> {
  try {
    emit('saved', await call(api.changeWordRules, { courseId: props.courseId }, { [rule]: { ...props.rules[rule], ...change } }));
    faults.value = {};
  } catch (error) {
    faults.value = { [rule]: error instanceof HttpProblem ? error.message : 'Not saved. Try again.' };
  }
}
type Field = 'threshold' | 'of';
const limitsOf = (rule: WordRule, field: Field): ReturnType<typeof kindOfRule>['threshold'] => {
  const kind = kindOfRule(rule);
  return field === 'of' && kind.of !== undefined ? kind.of : kind.threshold;
};
/** What is kept in tenths is read and typed with a decimal. */
const shown = (rule: WordRule, field: Field, value: number | null): string =>
  limitsOf(rule, field).isTenths === true ? ((value ?? 0) / 10).toFixed(1) : String(value);
function setNumber(rule: WordRule, field: Field, typed: string): void {
  const { least, most, isTenths } = limitsOf(rule, field);
  const text = typed.trim().replace(',', '.');
  const isWritten = isTenths === true ? /^\d{1,2}(\.\d)?$/.test(text) : /^\d{1,3}$/.test(text);
  const value = isWritten ? Math.round(Number(text) * (isTenths === true ? 10 : 1)) : -1;
  if (value >= least && value <= most) void keep(rule, { [field]: value });
  else
    faults.value = {
      [rule]:
        isTenths === true
          ? `“${typed.trim()}” is no number from ${shown(rule, field, least)} to ${shown(rule, field, most)} with one decimal.`
          : `“${typed.trim()}” is no whole number from ${least} to ${most}.`,
    };
}
</script>

<template>
  <div class="made">
    <p v-if="!canEdit" class="soft">Only instructors of the course change these.</p>
    <div v-for="rule in WORD_RULE_NAMES" :key="rule" class="rule">
      <label
        ><TickBox
          :model-value="rules[rule].isOn"
          :disabled="!canEdit"
          @change="keep(rule, { isOn: ($event.target as HTMLInputElement).checked })"
        />
        {{ kindOfRule(rule).title }}</label
      >
      <label
        ><LineInput
          inputmode="numeric"
          class="few"
          :value="shown(rule, 'threshold', rules[rule].threshold)"
          :disabled="!canEdit"
          @commit="setNumber(rule, 'threshold', $event)"
        />
        {{ kindOfRule(rule).threshold.label }}</label
      >
      <label v-if="kindOfRule(rule).of"
        ><LineInput
          inputmode="numeric"
          class="few"
          :value="shown(rule, 'of', rules[rule].of)"
          :disabled="!canEdit"
          @commit="setNumber(rule, 'of', $event)"
        />
        {{ kindOfRule(rule).of?.label }}</label
      >
      <p v-if="faults[rule]" class="fault" role="alert">{{ faults[rule] }}</p>
    </div>
  </div>
</template>

<script setup lang="ts">
import { computed } from 'vue';
import type { AnswerEmits, AnswerProps } from './answerProps.ts';
import PlainTable from '../parts/PlainTable.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

/** Each on the left gets one of the right. */
const props = defineProps<AnswerProps>();
const emit = defineEmits<AnswerEmits>();
const pairs = computed<Readonly<Record<string, string>>>(() => (props.answer?.kind === 'pairs' ? props.answer.pairs : {}));
function set(left: string, right: string): void {
  const rest = Object.fromEntries(Object.entries(pairs.value).filter(([l]) => l !== left));
  const next = right === '' ? rest : { ...rest, [left]: right };
  emit('answer', Object.keys(next).length === 0 ? null : { kind: 'pairs', pairs: next });
}
</script>

<template>
  <PlainTable class="pairs">
    <tbody>
      <tr v-for="left in asked.lefts" :key="left">
        <td>{{ left }}</td>
        <td>
          <ChoiceField :aria-label="`${label}: ${left}`" :disabled="isFixed" :model-value="pairs[left] ?? ''" @change="set(left, $event)">
            <option value="">choose…</option>
            <option v-for="right in asked.rights" :key="right" :value="right">{{ right }}</option>
          </ChoiceField>
        </td>
      </tr>
    </tbody>
  </PlainTable>
</template>

<style scoped>
.pairs {
  margin-top: 10px;
  font-size: 16px;
  line-height: 24px;
}
.pairs td:first-child {
  width: 45%;
}
</style>

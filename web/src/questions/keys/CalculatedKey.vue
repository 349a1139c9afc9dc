<script setup lang="ts">
import type { Parameter, QuestionKey } from '@rosemary/core';
import LineInput from '../../parts/LineInput.vue';
import ToleranceField from './ToleranceField.vue';
import UnitsField from './UnitsField.vue';
import PlainTable from '../../parts/PlainTable.vue';
import ActButton from '../../parts/ActButton.vue';

type Key = Extract<QuestionKey, { kind: 'calculated' }>;
/** Numbers that differ from student to student, what must hold between them, and the formula of the answer. */
const props = defineProps<{ value: Key }>();
const emit = defineEmits<{ change: [key: Key]; insert: [name: string] }>();
type Question = Key['question'];
const put = (more: Partial<Question>): void => emit('change', { ...props.value, question: { ...props.value.question, ...more } });
const change = (at: number, more: Partial<Parameter>): void =>
  put({ parameters: props.value.question.parameters.map((p, n) => (n === at ? { ...p, ...more } : p)) });
function add(): void {
  const taken = new Set(props.value.question.parameters.map((p) => p.name));
  const name = 'abcdefghijklmnopqrstuvwxyz'.split('').find((l) => !taken.has(l)) ?? 'x1';
  put({ parameters: [...props.value.question.parameters, { name, from: '1', to: '10', step: '1', decimals: 0 }] });
}
</script>

<template>
  <div>
    <p class="row formula">
      <span class="soft">the answer is</span>
      <LineInput
        class="wide"
        :value="value.question.formula"
        aria-label="Formula of the answer"
        placeholder="c / p * t / f"
        @commit="put({ formula: $event })"
      />
      <ToleranceField :value="value.question.tolerance" label="Tolerance" @change="put({ tolerance: $event })" />
    </p>
    <PlainTable>
      <thead>
        <tr>
          <th>number</th>
          <th>from</th>
          <th>to</th>
          <th>in steps of</th>
          <th>decimals</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="(p, n) in value.question.parameters" :key="n">
          <td>
            <LineInput class="short" :value="p.name" :aria-label="`Name of number ${n + 1}`" @commit="change(n, { name: $event.trim() })" />
          </td>
          <td><LineInput class="short" :value="p.from" :aria-label="`${p.name} from`" @commit="change(n, { from: $event.trim() })" /></td>
          <td><LineInput class="short" :value="p.to" :aria-label="`${p.name} to`" @commit="change(n, { to: $event.trim() })" /></td>
          <td>
            <LineInput class="short" :value="p.step" :aria-label="`${p.name} in steps of`" @commit="change(n, { step: $event.trim() })" />
          </td>
          <td>
            <LineInput
              class="short"
              type="number"
              min="0"
              max="9"
              :value="p.decimals"
              :aria-label="`Decimals of ${p.name}`"
              @commit="change(n, { decimals: Math.min(9, Math.max(0, Number($event) || 0)) })"
            />
          </td>
          <td class="acts">
            <ActButton look="act" @click="emit('insert', p.name)">into the text</ActButton>
            <ActButton
              look="act"
              :aria-label="`Remove ${p.name}`"
              @click="put({ parameters: value.question.parameters.filter((_, m) => m !== n) })"
            >
              ×
            </ActButton>
          </td>
        </tr>
      </tbody>
    </PlainTable>
    <p class="row">
      <ActButton look="act" @click="add">Add number</ActButton>
      <ActButton look="act" @click="put({ conditions: [...value.question.conditions, ''] })">Add condition</ActButton>
    </p>
    <p v-for="(c, n) in value.question.conditions" :key="n" class="row">
      <span class="soft">where</span>
      <LineInput
        class="wide"
        :value="c"
        :aria-label="`Condition ${n + 1}`"
        placeholder="a < b"
        @commit="put({ conditions: value.question.conditions.map((x, m) => (m === n ? $event : x)) })"
      />
      <ActButton
        look="act"
        :aria-label="`Take the condition ${c} away`"
        @click="put({ conditions: value.question.conditions.filter((_, m) => m !== n) })"
      >
        ×
      </ActButton>
    </p>
    <UnitsField :value="value.rules" @change="emit('change', { ...value, rules: $event })" />
  </div>
</template>

<style scoped>
.row {
  display: flex;
  gap: 12px;
  align-items: baseline;
  flex-wrap: wrap;
}
.formula .wide {
  color: var(--needle);
}
.wide {
  width: 200px;
}
.short {
  width: 64px;
}
.plain td,
.plain th {
  padding: 2px 8px 2px 0;
}
.plain td {
  border: 0;
}
.acts {
  display: flex;
  gap: 10px;
  font-size: 13.5px;
}
</style>

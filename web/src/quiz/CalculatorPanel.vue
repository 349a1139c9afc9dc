<script setup lang="ts">
import { exactText, readFormula } from '@rosemary/core';
import { ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';

/** A calculator beside the paper, where the quiz allows one: it takes a whole line as it is written. */
const emit = defineEmits<{ close: [] }>();
const line = ref('');
const before = ref<{ line: string; result: string }[]>([]);
const fault = ref('');
function reckon(): void {
  if (line.value.trim() === '') return;
  const read = readFormula(line.value.replace(/×/g, '*').replace(/[÷:]/g, '/').replace(/−/g, '-').replace(/,/g, '.'), []);
  const found = read.ok ? read.formula.valueOf(new Map()) : read;
  if (!found.ok) {
    fault.value = `This cannot be reckoned: ${found.reason}`;
    return;
  }
  fault.value = '';
  const result = exactText(found.value);
  before.value = [...before.value.slice(-5), { line: line.value, result }];
  line.value = result.replace('…', '').replace('−', '-');
}
</script>

<template>
  <aside class="sheet calculator" aria-label="Calculator">
    <p class="row spread">
      <b>Calculator</b>
      <ActButton look="act" @click="emit('close')">close</ActButton>
    </p>
    <ul>
      <li v-for="(b, n) in before" :key="n">
        {{ b.line }} <b>= {{ b.result }}</b>
      </li>
    </ul>
    <form @submit.prevent="reckon">
      <LineField v-model="line" aria-label="What to reckon, such as 80 / 10 * 75" placeholder="80 / 10 * 75" autocomplete="off" />
    </form>
    <p class="label" role="status">{{ fault || 'Enter reckons. + − * / ^ ( ) sqrt sin pi' }}</p>
  </aside>
</template>

<style scoped>
.calculator {
  position: fixed;
  right: 20px;
  bottom: 20px;
  width: 280px;
  background: var(--paper);
  border: 1px solid var(--frost);
  border-radius: 4px;
  box-shadow: 0 8px 28px rgb(20 32 26 / 0.18);
  padding: 12px 16px;
  z-index: 5;
}
ul {
  list-style: none;
  margin: 6px 0;
  padding: 0;
  text-align: right;
  font-size: 13.5px;
}
</style>

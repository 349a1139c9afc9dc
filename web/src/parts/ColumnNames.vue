<script setup lang="ts">
import { readHead, renameColumns, suggestColumns } from '@rosemary/core';
import { computed, ref, watch } from 'vue';
import ActButton from './ActButton.vue';
import ChoiceField from './fields/ChoiceField.vue';
import type { NamedList } from './namedList.ts';

/** A list whose columns are named otherwise: which of them is which, guessed where it can be, and the list read with those names. */
const props = defineProps<{ name: string; text: string; lists: Readonly<Record<string, NamedList>> }>();
const emit = defineEmits<{ named: [file: File]; leave: [] }>();
const names = computed(() => readHead(props.text).names);
const neededOf = (kind: string): readonly string[] => props.lists[kind]?.needed ?? [];
const columnsOf = (kind: string): readonly string[] => [...neededOf(kind), ...(props.lists[kind]?.more ?? [])];
const guess = (kind: string): readonly (number | null)[] => suggestColumns(columnsOf(kind), names.value);
const found = (kind: string): number => guess(kind).filter((at) => at !== null).length / columnsOf(kind).length;
const kinds = computed(() => Object.keys(props.lists));
const kind = ref(kinds.value.reduce((best, next) => (found(next) > found(best) ? next : best)));
const chosen = ref<readonly (number | null)[]>([]);
watch(
  kind,
  (now) => {
    chosen.value = guess(now);
  },
  { immediate: true },
);
const choose = (n: number, value: string): void => {
  chosen.value = chosen.value.map((at, m) => (m === n ? (value === '' ? null : Number(value)) : at));
};
const fault = ref('');
function take(): void {
  const columns = columnsOf(kind.value);
  const missing = neededOf(kind.value).filter((_, n) => chosen.value[n] === null);
  const used = chosen.value.filter((at) => at !== null);
  if (missing.length > 0) fault.value = `Say which column holds ${missing.join(', ')}.`;
  else if (new Set(used).size < used.length) fault.value = 'One column is chosen twice. Choose another for one of them.';
  else {
    fault.value = '';
    const pairs = columns.flatMap((column, n): [string, number][] => {
      const at = chosen.value[n] ?? null;
      return at === null ? [] : [[column, at]];
    });
    emit('named', new File([renameColumns(props.text, new Map(pairs))], props.name, { type: 'text/csv' }));
  }
}
</script>

<template>
  <form class="names" @submit.prevent="take">
    <h2>Which column is which?</h2>
    <p class="soft">“{{ name }}” names its columns {{ names.map((one) => `“${one}”`).join(', ') }}.</p>
    <label v-if="kinds.length > 1" class="field"
      ><span class="label">It is a list of</span
      ><ChoiceField v-model="kind">
        <option v-for="(list, key) in lists" :key="key" :value="key">{{ list.words }}</option>
      </ChoiceField></label
    >
    <label v-for="(column, n) in columnsOf(kind)" :key="`${kind} ${column}`" class="field"
      ><span class="label">{{ column }}{{ n < neededOf(kind).length ? '' : ', if it is there' }}</span
      ><ChoiceField
        :aria-label="`Column of ${column}`"
        :model-value="chosen[n] === null || chosen[n] === undefined ? '' : String(chosen[n])"
        @change="choose(n, $event)"
      >
        <option value="">{{ n < neededOf(kind).length ? 'choose…' : 'not in this file' }}</option>
        <option v-for="(own, at) in names" :key="at" :value="String(at)">{{ own || `column ${at + 1}` }}</option>
      </ChoiceField></label
    >
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p><ActButton type="submit" look="go">Read it so</ActButton> <ActButton look="act" @click="emit('leave')">leave it</ActButton></p>
  </form>
</template>

<style scoped>
.names {
  max-width: 420px;
}
</style>

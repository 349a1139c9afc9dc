<script setup lang="ts">
import { KIND_WORDS, type QuestionKind } from '@rosemary/core';
import type { BankSearch } from './useBank.ts';
import TickBox from '../parts/fields/TickBox.vue';
import LineField from '../parts/fields/LineField.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

/** What is looked for in the bank, by any of it. */
defineProps<{ tags: readonly string[] }>();
const search = defineModel<BankSearch>({ required: true });
const KINDS = Object.entries(KIND_WORDS) as [QuestionKind, string][];
</script>

<template>
  <form class="search" role="search" @submit.prevent>
    <LineField
      v-model="search.text"
      class="text"
      type="search"
      placeholder="Words of the question, its answers, title or tags"
      aria-label="Search the bank"
    />
    <ChoiceField v-model="search.kind" aria-label="Kind">
      <option value="">every kind</option>
      <option v-for="[kind, word] in KINDS" :key="kind" :value="kind">{{ word }}</option>
    </ChoiceField>
    <ChoiceField v-model="search.level" aria-label="Level">
      <option value="">every level</option>
      <option value="easy">easy</option>
      <option value="medium">medium</option>
      <option value="hard">hard</option>
    </ChoiceField>
    <ChoiceField v-model="search.tag" aria-label="Tag">
      <option value="">every tag</option>
      <option v-for="t in tags" :key="t" :value="t">{{ t }}</option>
    </ChoiceField>
    <LineField v-model="search.objective" class="code" placeholder="objective" aria-label="Objective, by code" />
    <label class="soft"><TickBox v-model="search.retired" /> retired too</label>
  </form>
</template>

<style scoped>
.search {
  display: flex;
  gap: 16px;
  align-items: baseline;
  flex-wrap: wrap;
}
.search :is(.line-field, .choice-field) {
  width: auto;
  min-width: 110px;
}
.search .text {
  flex: 1;
  min-width: 180px;
}
.search .code {
  width: 90px;
}
</style>

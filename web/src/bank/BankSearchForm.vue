<script setup lang="ts">
import { KIND_WORDS, type QuestionKind } from '@rosemary/core';
import type { BankSearch } from './useBank.ts';
import TickBox from '../parts/fields/TickBox.vue';

/** What is looked for in the bank, by any of it. */
defineProps<{ tags: readonly string[] }>();
const search = defineModel<BankSearch>({ required: true });
const KINDS = Object.entries(KIND_WORDS) as [QuestionKind, string][];
</script>

<template>
  <form class="search" role="search" @submit.prevent>
    <input v-model="search.text" class="line-input text" type="search" placeholder="Words, title or tag" aria-label="Search the bank" />
    <select v-model="search.kind" class="line-input" aria-label="Kind">
      <option value="">every kind</option>
      <option v-for="[kind, word] in KINDS" :key="kind" :value="kind">{{ word }}</option>
    </select>
    <select v-model="search.level" class="line-input" aria-label="Level">
      <option value="">every level</option>
      <option value="easy">easy</option>
      <option value="medium">medium</option>
      <option value="hard">hard</option>
    </select>
    <select v-model="search.tag" class="line-input" aria-label="Tag">
      <option value="">every tag</option>
      <option v-for="t in tags" :key="t" :value="t">{{ t }}</option>
    </select>
    <input v-model="search.objective" class="line-input code" placeholder="objective" aria-label="Objective, by code" />
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
.search .line-input {
  width: auto;
}
.search .text {
  flex: 1;
  min-width: 180px;
}
.search .code {
  width: 90px;
}
</style>

<script setup lang="ts">
import { sizeInWords } from '@rosemary/core';

/** What files take, a line for each course or person, largest first, and how much of the limit that is. */
const props = defineProps<{
  title: string;
  headers: readonly { readonly title: string; readonly key: string; readonly align?: 'end'; readonly sortable?: boolean }[];
  items: readonly { readonly id: string; readonly bytes: number }[];
  megabytes: number;
  /** What is said where there is none. */
  empty: string;
}>();
const PAGE = 10;
const MB = 1_048_576;
const shareOf = (bytes: number): string => {
  const percent = Math.round((bytes / (props.megabytes * MB)) * 100);
  return percent === 0 ? 'under 1 %' : `${percent} %`;
};
</script>

<template>
  <section :aria-label="title">
    <h2>{{ title }}</h2>
    <v-data-table
      :headers="headers"
      :items="items"
      :items-per-page="PAGE"
      :hide-default-footer="items.length <= PAGE"
      :no-data-text="empty"
      density="compact"
    >
      <template #item.bytes="{ value }">{{ sizeInWords(value) }}</template>
      <template #item.share="{ item }">{{ shareOf(item.bytes) }}</template>
    </v-data-table>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 28px;
}
section :deep(.v-table) {
  background: transparent;
}
section :deep(:is(th, td):first-child) {
  padding-left: 0 !important;
}
</style>

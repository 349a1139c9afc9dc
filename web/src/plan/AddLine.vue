<script setup lang="ts">
import type { ItemKind } from '@rosemary/core';
import { onMounted, ref } from 'vue';
import { ADDABLE } from '../parts/kinds.ts';
import ActButton from '../parts/ActButton.vue';

const kind = defineModel<ItemKind>('kind', { required: true });
const emit = defineEmits<{ add: [title: string]; leave: [] }>();
const title = ref<HTMLInputElement | null>(null);
// What was asked for is written at once.
onMounted(() => title.value?.focus());
</script>

<template>
  <div class="adding">
    <select v-model="kind" class="line-input kind" aria-label="Kind">
      <option v-for="[value, word] in ADDABLE" :key="value" :value="value">{{ word }}</option>
    </select>
    <input
      id="new-item"
      ref="title"
      class="line-input"
      maxlength="160"
      placeholder="Title, then Enter"
      aria-label="Title of the new item"
      @keydown.enter="emit('add', ($event.target as HTMLInputElement).value)"
      @keydown.esc="emit('leave')"
    />
    <ActButton look="act" @click="emit('leave')">leave it</ActButton>
  </div>
</template>

<style scoped>
.adding {
  display: grid;
  grid-template-columns: 120px 1fr auto;
  gap: 10px;
  padding: 6px 30px;
  align-items: center;
}
</style>

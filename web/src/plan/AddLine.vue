<script setup lang="ts">
import type { ItemKind } from '@rosemary/core';
import { ADDABLE } from '../parts/kinds.ts';

const kind = defineModel<ItemKind>('kind', { required: true });
const emit = defineEmits<{ add: [title: string]; leave: [] }>();
</script>

<template>
  <div class="adding">
    <select v-model="kind" class="line-input kind" aria-label="Kind">
      <option v-for="[value, word] in ADDABLE" :key="value" :value="value">{{ word }}</option>
    </select>
    <input
      id="new-item"
      class="line-input"
      maxlength="160"
      placeholder="Title, then Enter"
      aria-label="Title of the new item"
      @keydown.enter="emit('add', ($event.target as HTMLInputElement).value)"
      @keydown.esc="emit('leave')"
    />
    <button class="act" @click="emit('leave')">leave it</button>
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

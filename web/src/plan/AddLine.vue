<script setup lang="ts">
import type { ItemKind } from '@rosemary/core';
import { ADDABLE } from '../parts/kinds.ts';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';

const kind = defineModel<ItemKind>('kind', { required: true });
const emit = defineEmits<{ add: [title: string]; leave: [] }>();
</script>

<template>
  <div class="adding">
    <ChoiceField v-model="kind" class="kind" aria-label="Kind">
      <option v-for="[value, word] in ADDABLE" :key="value" :value="value">{{ word }}</option>
    </ChoiceField>
    <LineField
      id="new-item"
      takes-focus
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

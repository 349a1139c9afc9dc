<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { defineAsyncComponent, ref } from 'vue';
import ActButton from './ActButton.vue';

const KeysDialog = defineAsyncComponent(() => import('./KeysDialog.vue'));
defineProps<{ keys: readonly (readonly [string, string])[] }>();
const isOpen = ref(false);
function onKey(event: KeyboardEvent): void {
  const target = event.target as HTMLElement;
  if (event.key !== '?' || target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName)) return;
  isOpen.value = true;
}
useEventListener(document, 'keydown', onKey);
</script>

<template>
  <span
    ><ActButton look="act" class="soft-act" title="Keys of this view (?)" @click="isOpen = true">keys</ActButton>
    <KeysDialog v-if="isOpen" v-model="isOpen" :keys="keys" />
  </span>
</template>

<style scoped>
.soft-act {
  color: var(--soft);
  font-size: 13px;
}
</style>

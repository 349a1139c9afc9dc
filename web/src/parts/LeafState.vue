<script setup lang="ts">
import type { ItemState } from '@rosemary/core';
import { useId } from 'vue';
defineProps<{ state: ItemState }>();
const clip = useId();
const SHAPE = 'M2 12C2 5 7 2 14 2c0 7-4 11-10 11L2 15z';
</script>

<template>
  <svg width="16" height="18" viewBox="0 0 16 18" role="img" :aria-label="state" class="leaf">
    <title>{{ state }}</title>
    <defs>
      <clipPath :id="clip"><rect x="0" y="8" width="16" height="8" /></clipPath>
    </defs>
    <path :d="SHAPE" :fill="state === 'open' || state === 'closed' ? 'currentColor' : 'none'" stroke="currentColor" stroke-width="1.300" />
    <path v-if="state === 'scheduled'" :d="SHAPE" fill="currentColor" :clip-path="`url(#${clip})`" />
    <path v-if="state === 'closed'" d="M1 17h14" stroke="currentColor" stroke-width="1.400" />
  </svg>
</template>

<style scoped>
.leaf {
  color: var(--ink);
  vertical-align: -4px;
}
</style>

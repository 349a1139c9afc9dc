<script setup lang="ts">
import type { ItemKind } from '@rosemary/core';
import { KIND_WORDS } from './kinds.ts';
defineProps<{ kind: ItemKind }>();
</script>

<template>
  <svg class="glyph" width="14" height="14" viewBox="-7 -7 14 14" role="img" :aria-label="KIND_WORDS[kind]">
    <title>{{ KIND_WORDS[kind] }}</title>
    <rect v-if="kind === 'assignment'" x="-4.5" y="-4.500" width="9" height="9" />
    <circle v-else-if="kind === 'quiz'" r="5" />
    <rect v-else-if="kind === 'page'" x="-5" y="-1.500" width="10" height="3" />
    <path v-else-if="kind === 'discussion'" d="M-5 4.500h10L0 -5z" />
    <path v-else-if="kind === 'activity'" d="M0 -5.500L5.500 0L0 5.500L-5.500 0z" fill="none" stroke="currentColor" stroke-width="1.600" />
    <path v-else d="M-4 -5h8v10h-8z" fill="none" stroke="currentColor" stroke-width="1.600" />
  </svg>
</template>

<style scoped>
.glyph {
  vertical-align: -2px;
  display: inline-block;
  fill: currentColor;
  color: var(--soft);
  flex: none;
}
</style>

<script setup lang="ts">
import type { ItemKind } from '@rosemary/core';
import { KIND_LOOKS, kindTitle } from './kinds.ts';
defineProps<{ kind: ItemKind }>();
</script>

<template>
  <svg class="glyph" width="14" height="14" viewBox="-7 -7 14 14" role="img" :aria-label="kindTitle(kind)">
    <title>{{ kindTitle(kind) }}</title>
    <path :d="KIND_LOOKS[kind].path" :class="{ hollow: KIND_LOOKS[kind].isHollow }" />
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
.hollow {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.6;
}
</style>

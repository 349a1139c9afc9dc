<script setup lang="ts">
import type { WorkingLine } from '@rosemary/core';
import { ref } from 'vue';
import ActButton from './ActButton.vue';
const props = withDefaults(defineProps<{ lines: readonly WorkingLine[]; depth?: number; isOpen?: boolean }>(), { depth: 0, isOpen: false });
const open = ref<Set<number>>(new Set());
const isShut = (line: WorkingLine, n: number): boolean => line.lines.some((l) => l.look !== 'note') && open.value.has(n) === props.isOpen;
const canOpen = (line: WorkingLine): boolean => line.lines.some((l) => l.look !== 'note');
function turn(n: number): void {
  const next = new Set(open.value);
  if (!next.delete(n)) next.add(n);
  open.value = next;
}
</script>

<template>
  <ul class="lines">
    <li v-for="(line, n) in lines" :key="n" :class="line.look">
      <div class="w" :style="{ paddingLeft: `${depth * 14}px` }">
        <ActButton v-if="canOpen(line)" class="rule opens" :aria-expanded="!isShut(line, n)" @click="turn(n)">
          {{ isShut(line, n) ? '▸' : '▾' }} {{ line.rule }}</ActButton
        ><span v-else class="rule">{{ line.rule }}</span
        ><span class="value">{{ line.value }}</span>
      </div>
      <WorkingLines v-if="line.lines.length > 0 && !isShut(line, n)" :lines="line.lines" :depth="depth + 1" />
    </li>
  </ul>
</template>

<style scoped>
.lines {
  list-style: none;
  margin: 0;
  padding: 0;
}
.w {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
  padding-top: 3px;
  padding-bottom: 3px;
}
.value {
  text-align: right;
  font-variant-numeric: tabular-nums;
  overflow-wrap: anywhere;
}
.opens {
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  color: inherit;
  text-align: left;
  cursor: pointer;
}
.note > .w {
  color: var(--soft);
  font-size: 13.5px;
}
.out > .w {
  text-decoration: line-through;
  text-decoration-color: var(--clay);
}
.sum > .w {
  border-top: 1px solid var(--leaf);
  font-weight: 600;
  margin-top: 3px;
}
</style>

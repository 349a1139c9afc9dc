<script setup lang="ts">
import type { BookRow } from '@rosemary/api';
import { computed } from 'vue';
import type { Column } from './columns.ts';

const props = defineProps<{ row: BookRow; column: Column }>();
const cell = computed(() => (props.column.kind === 'graded' ? props.row.cells[props.column.place] : undefined));
</script>

<template>
  <template v-if="column.kind === 'subtotal'">{{ row.subtotals[column.place] ?? '·' }}</template>
  <template v-else-if="column.kind === 'period'">{{ row.periods[column.place] ?? '·' }}</template>
  <template v-else-if="column.kind === 'soFar'"
    >{{ row.totals.soFar ?? '·' }}<span v-if="row.totals.letter" class="letter">{{ row.totals.letter }}</span></template
  >
  <template v-else-if="column.kind === 'range'">{{ row.totals.floor === null ? '·' : `${row.totals.floor}–${row.totals.reach}` }}</template>
  <template v-else-if="cell === 0 || cell === undefined" />
  <span v-else-if="cell[0] === 'outside'" class="soft" title="not for this student" aria-label="not for this student">×</span>
  <span v-else-if="cell[0] === 'missing'" class="soft" title="missing"><span class="ring" /> missing</span>
  <span v-else-if="cell[0] === 'exempt'" title="exempt" aria-label="exempt">(–)</span>
  <span v-else-if="cell[0] === 'unfinished'" title="unfinished" aria-label="unfinished">[</span>
  <em v-else-if="cell[0] === 'judged'" class="soft" :class="{ unreleased: cell[2] === 0 }">in words</em>
  <em v-else-if="cell[5] === 1" class="soft">waits</em>
  <span v-else
    ><span :class="{ unreleased: cell[2] === 0 && cell[1] !== '' }" :title="cell[2] === 0 ? 'not yet released' : undefined">{{
      cell[1]
    }}</span
    ><span v-if="cell.length === 8" class="also">{{ cell[7] }}</span
    ><svg v-if="cell[3] === 1" width="9" height="12" role="img" aria-label="late" class="hand">
      <title>late</title>
      <path d="M4.500 11V4M4.500 11l3.500-4" /></svg
  ></span>
</template>

<style scoped>
.ring {
  display: inline-block;
  width: 9px;
  height: 9px;
  border: 1.3px dashed currentColor;
  border-radius: 50%;
  vertical-align: -1px;
}
.also {
  margin-left: 6px;
  color: var(--needle);
}
.letter {
  display: inline-block;
  min-width: 15px;
  padding-left: 5px;
  color: var(--needle);
  font-weight: 400;
}
</style>

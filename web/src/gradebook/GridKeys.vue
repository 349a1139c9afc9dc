<script setup lang="ts">
import KeysHelp from '../parts/KeysHelp.vue';

/** What the keys do in the grid. */
const KEYS = [
  ['0 … 9', 'type a score; 80 % of the points; e exempt, m missing, u unfinished'],
  ['Enter, F2', 'change the cell; Enter again keeps it and goes down'],
  ['Tab', 'keeps it and goes right'],
  ['← ↑ ↓ →', 'from cell to cell; with Ctrl to the edge; with Shift to choose several'],
  ['Home, End', 'in the row; with Ctrl in the grid'],
  ['Ctrl C, Ctrl V', 'copies what is chosen for a spreadsheet, pastes what comes from one; seen first'],
  ['Ctrl D', 'fills what is chosen with its first row; seen first'],
  ['Alt ↓', 'opens the column'],
  ['Shift + press on a title', 'sorts by it second, where the first leaves people alike'],
  ['Delete', 'empties the cell'],
  ['Esc', 'leaves what was typed; then Tab leaves the grid'],
] as const;
</script>

<template>
  <KeysHelp :keys="KEYS" />
</template>

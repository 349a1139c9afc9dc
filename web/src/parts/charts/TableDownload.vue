<script setup lang="ts">
import { useNotices } from '../../stores/noticeStore.ts';
import ActionMenu from '../ActionMenu.vue';
import { saveTable } from './saveFile.ts';

/** Downloads a table as it stands on the screen: the first line are its heads. */
const props = defineProps<{ title: string; lines: readonly (readonly (string | number | null)[])[] }>();
const notices = useNotices();
async function download(format: string): Promise<void> {
  try {
    await saveTable({ title: props.title, lines: props.lines.map((line) => [...line]) }, format === 'csv' ? 'csv' : 'xlsx');
  } catch (error) {
    notices.sayFault(error);
  }
}
</script>

<template>
  <ActionMenu words="Download" :label="`Download ${title}`" @choose="download"
    ><option value="csv">The table as CSV</option>
    <option value="xlsx">The table as XLSX</option></ActionMenu
  >
</template>

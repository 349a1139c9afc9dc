<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { SheetRowView, SheetView } from '@rosemary/api';
import { computed, ref, watch } from 'vue';
import ActButton from '../parts/ActButton.vue';

/** What the reader is not sure of: the row as it lies on the sheet, and what it most likely says. A letter key or a click decides it. */
const props = defineProps<{ sheets: readonly SheetView[]; base: { readonly courseId: string; readonly itemId: string } }>();
const emit = defineEmits<{ say: [sheet: SheetView, question: number, picked: readonly number[]] }>();
const WORDS = { faint: 'a faint mark', 'too many': 'more than one mark', another: 'traces of another mark' } as const;
const rows = computed(() => props.sheets.flatMap((sheet) => sheet.doubts.map((row) => ({ sheet, row }))));
/** Where one is in the list: what was decided goes, and the next row comes to hand. */
const list = ref<HTMLElement | null>(null);
let at = -1;
function decide(sheet: SheetView, row: SheetRowView, picked: readonly number[]): void {
  at = rows.value.findIndex((r) => r.sheet.id === sheet.id && r.row.question === row.question);
  emit('say', sheet, row.question, picked);
}
watch(
  rows,
  () => {
    const next = list.value?.querySelectorAll<HTMLElement>('.doubt')[Math.min(at, rows.value.length - 1)];
    if (at >= 0) next?.focus();
    at = -1;
  },
  { flush: 'post' },
);
function toggled(row: SheetRowView, option: number): readonly number[] {
  return row.picked.includes(option) && row.picked.length > 1 ? row.picked.filter((n) => n !== option) : [option];
}
function onKey(event: KeyboardEvent, sheet: SheetView, row: SheetRowView): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const key = event.key.toUpperCase();
  const option = row.letters.indexOf(key);
  if (option >= 0) decide(sheet, row, [option]);
  else if (key === '-' || key === '.') decide(sheet, row, []);
  else if (key === 'ENTER' && event.target === event.currentTarget) decide(sheet, row, row.picked);
  else return;
  event.preventDefault();
}
const said = (row: SheetRowView): string => row.picked.map((n) => row.letters[n]).join(' and ') || 'nothing';
</script>

<template>
  <div>
    <h2>{{ rows.length === 1 ? 'One row to look at' : `${rows.length} rows to look at` }}</h2>
    <p class="soft">Press the letter, Enter for what it most likely says, a dash for nothing.</p>
    <ul ref="list" class="bare-list spaced-list">
      <li
        v-for="{ sheet, row } in rows"
        :key="`${sheet.id} ${row.question}`"
        class="doubt"
        tabindex="0"
        :aria-label="`Question ${row.question + 1} of ${sheet.name || `sheet ${sheet.number}`}: ${WORDS[row.doubt ?? 'faint']}, most likely ${said(row)}`"
        @keydown="onKey($event, sheet, row)"
      >
        <span class="who"
          >{{ sheet.name || `Sheet ${sheet.number}` }}<br /><span class="soft"
            >question {{ row.question + 1 }}, {{ WORDS[row.doubt ?? 'faint'] }}</span
          ></span
        >
        <img
          v-if="row.scanId !== null"
          :src="urlOf(api.getScanCut, { ...base, scanId: row.scanId, question: String(row.question) })"
          alt="The row as it was scanned"
          loading="lazy"
        />
        <span class="letters" role="group" aria-label="It says">
          <ActButton
            v-for="(letter, n) in row.letters"
            :key="letter"
            :class="['letter', { on: row.picked.includes(n) }]"
            :aria-pressed="row.picked.includes(n)"
            @click="decide(sheet, row, toggled(row, n))"
          >
            {{ letter }}
          </ActButton>
          <ActButton look="act" @click="decide(sheet, row, [])">nothing</ActButton>
          <ActButton look="act" @click="decide(sheet, row, row.picked)">it says {{ said(row) }}</ActButton>
        </span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.doubt {
  display: flex;
  gap: 24px;
  align-items: center;
  padding: 6px 8px;
  border-top: 1px solid var(--frost2);
}
.doubt:focus-within,
.doubt:focus {
  background: var(--bloom-wash);
  outline: none;
}
.doubt:focus-visible {
  box-shadow: inset 0 0 0 2px var(--bloom);
}
.who {
  width: 220px;
}
img {
  height: 44px;
  width: 220px;
  object-fit: contain;
  object-position: left;
  background: var(--paper);
  border: 1px solid var(--frost);
}
.letters {
  display: flex;
  gap: 6px;
  align-items: center;
}
.letters .act {
  margin-left: 10px;
}
.letter {
  width: 28px;
  height: 28px;
  border-radius: 14px;
  border: 1px solid var(--leaf);
  background: var(--paper);
  color: var(--ink);
  font: inherit;
  cursor: pointer;
}
.letter.on {
  background: var(--needle);
  color: var(--on-needle);
  border-color: var(--needle);
}
</style>

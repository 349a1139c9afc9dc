<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Gradebook, ReadTable } from '@rosemary/api';
import { countOf, judgeCell, matchTable, parsePoints, repeatedLines, type MatchedTable } from '@rosemary/core';
import { computed, nextTick, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import ProgressBar from '../parts/ProgressBar.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';
import FileInput from '../parts/media/FileInput.vue';
import { call, callWithFile } from '../platform/call.ts';
import { cellTarget } from './cellTarget.ts';
import type { BlockCellPlan, BlockWish } from './useBlock.ts';

/** A table from a spreadsheet: what it is about is met with the gradebook and asked where unsure; what changes is seen after. */
const props = defineProps<{ courseId: string; book: Gradebook; reload: () => Promise<void> }>();
const emit = defineEmits<{ close: []; planned: [wish: BlockWish] }>();
const read = ref<ReadTable | null>(null);
const matched = ref<MatchedTable | null>(null);
const fault = ref('');
const share = ref<number | null>(null);
const picker = ref<InstanceType<typeof FileInput> | null>(null);
const fileName = ref('');
const LEFT_OUT = '';
const NEW = 'new';
/** By the number of a column of the table: the column it is written to, a new one, or none. */
const goes = ref<readonly string[]>([]);
const newPoints = ref<Record<number, string>>({});
/** By the number of a line: whom it is about, where that was unsure. */
const whose = ref<Record<number, string>>({});
async function take(files: readonly File[]): Promise<void> {
  const [file] = files;
  if (file === undefined) return;
  [fault.value, matched.value, share.value, fileName.value] = ['', null, 0, file.name];
  try {
    read.value = await callWithFile(api.readGradebookTable, { courseId: props.courseId }, file, { onProgress: (s) => (share.value = s) });
    meet();
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  } finally {
    share.value = null;
  }
}
const students = computed(() => {
  const keys = new Map(read.value?.people.map((p) => [p.enrolmentId, p]));
  return props.book.rows.map((r) => {
    const named = keys.get(r.enrolmentId);
    return { ...r, keys: [r.enrolmentId, ...(named === undefined ? [] : [named.email, ...(named.source === null ? [] : [named.source])])] };
  });
});
function meet(): void {
  if (read.value === null) return;
  const found = matchTable(read.value.lines, students.value, props.book.columns);
  if (!found.ok) {
    fault.value = found.reason;
    return;
  }
  matched.value = found.table;
  goes.value = found.table.heads.map((h) => (h.kind === 'column' ? h.columnId : LEFT_OUT));
}
const heads = computed(() => (matched.value?.heads ?? []).map((head, n) => ({ head, n })).filter(({ head }) => head.kind !== 'who'));
const setGoes = (n: number, to: string): void => {
  goes.value = goes.value.map((held, m) => (m === n ? to : held));
};
const titleOf = (id: string): string => props.book.columns.find((c) => c.id === id)?.title ?? '';
const unsure = computed(() => (matched.value?.lines ?? []).filter((l) => l.enrolmentId === null));
const nameOf = (id: string): string => {
  const row = props.book.rows.find((r) => r.enrolmentId === id);
  return row === undefined ? '' : `${row.familyName}, ${row.givenName}`;
};
const lines = computed(() =>
  (matched.value?.lines ?? []).map((l) => ({ ...l, enrolmentId: l.enrolmentId ?? (whose.value[l.line] || null) })),
);
const repeated = computed(() => repeatedLines(lines.value));
const known = computed(() => lines.value.filter((l) => l.enrolmentId !== null && !repeated.value.has(l.line)));
const taken = computed(() => goes.value.filter((to) => to !== LEFT_OUT).length);
/** New columns are made first, each with its ripple: their results are planned with the rest. */
async function makeColumns(): Promise<boolean> {
  for (const [n, to] of goes.value.entries()) {
    if (to !== NEW) continue;
    const head = matched.value?.heads[n];
    const points = parsePoints(newPoints.value[n] ?? '10');
    if (head === undefined) continue;
    if (!points.ok) {
      fault.value = `Points of “${head.header}”: ${points.reason}`;
      return false;
    }
    const body = {
      title: head.header,
      possible: points.value,
      categoryId: null,
      newCategory: null,
      dueAt: null,
      audience: [],
      isToldAtOnce: false,
      showsStatistics: false,
      isExtraCredit: false,
      multiplier: 1000,
      periodId: null,
      studentReads: 'points' as const,
      ownLevels: null,
    };
    const made = await call(api.addGradeColumn, { courseId: props.courseId }, body, `Add “${body.title}”`);
    if (made === null) return false;
    await props.reload();
    // The book comes down to here with the next drawing of the page.
    await nextTick();
    setGoes(n, props.book.columns.find((c) => c.itemId === made.itemId)?.id ?? LEFT_OUT);
  }
  return true;
}
async function plan(): Promise<void> {
  fault.value = '';
  try {
    if (!(await makeColumns())) return;
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
    return;
  }
  let same = 0;
  const cells: BlockCellPlan[] = [];
  for (const [n, to] of goes.value.entries()) {
    const place = props.book.columns.findIndex((c) => c.id === to);
    const column = props.book.columns[place];
    if (column === undefined) continue;
    const what = { columnId: column.id, place, title: column.title };
    for (const line of known.value) {
      const text = line.cells[n] ?? '';
      const who = props.book.rows.find((r) => r.enrolmentId === line.enrolmentId);
      // An empty cell of a table says nothing: it never empties a result.
      if (who === undefined || text.trim() === '') continue;
      const judgement = judgeCell(text, cellTarget(props.book, who, place));
      if (judgement.kind === 'same') same += 1;
      else cells.push({ row: line.line, column: n, text, judgement, who, what });
    }
  }
  const lost = (matched.value?.lines.length ?? 0) - known.value.length;
  emit('planned', {
    how: 'import',
    title: `Import “${fileName.value}”`,
    cells,
    same,
    outside: lost === 0 ? '' : `${countOf(lost, 'line')} without a student`,
  });
}
</script>

<template>
  <v-dialog :model-value="true" max-width="860" @update:model-value="emit('close')">
    <div class="sheet form" role="dialog" aria-label="Import results">
      <h2>Import results</h2>
      <p class="soft">
        A table saved as .xlsx or .csv, with a line for each student and a column for each result. What it would change is shown before
        anything is written; empty cells change nothing.
      </p>
      <FileInput ref="picker" label="Table of results" accept=".csv,.xlsx,.txt,.tsv" @choose="take" />
      <p>
        <ActButton :look="matched ? 'quiet' : 'go'" @click="picker?.open()">{{
          matched ? 'Choose another file' : 'Choose a file'
        }}</ActButton>
      </p>
      <ProgressBar v-if="share !== null" :share="share" label="The file is being read" />
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <template v-if="matched">
        <h3>Columns of the table</h3>
        <PlainTable>
          <tbody>
            <tr v-for="{ head, n } in heads" :key="n">
              <td>{{ head.header || `column ${n + 1}` }}</td>
              <td>
                <ChoiceField
                  :model-value="goes[n]"
                  :aria-label="`Where ${head.header || `column ${n + 1}`} goes`"
                  @change="setGoes(n, $event as string)"
                >
                  <option :value="LEFT_OUT">{{ head.kind === 'left out' ? `left out: ${head.why}` : 'left out' }}</option>
                  <option :value="NEW">a new column</option>
                  <option v-for="c in book.columns" :key="c.id" :value="c.id">{{ titleOf(c.id) }}</option>
                </ChoiceField>
              </td>
              <td>
                <label v-if="goes[n] === NEW"
                  >of
                  <LineField
                    v-model="newPoints[n]"
                    size="4"
                    placeholder="10"
                    inputmode="decimal"
                    :aria-label="`Points of ${head.header}`"
                  />
                  points</label
                >
              </td>
            </tr>
          </tbody>
        </PlainTable>
        <template v-if="unsure.length > 0">
          <h3>Lines whose student is not sure</h3>
          <PlainTable>
            <tbody>
              <tr v-for="l in unsure" :key="l.line">
                <td>line {{ l.line }}: {{ l.named || 'no name' }}</td>
                <td>{{ l.candidates.length > 0 ? `${l.candidates.length} students are called so` : 'nobody here is called so' }}</td>
                <td>
                  <ChoiceField
                    :model-value="whose[l.line] ?? ''"
                    @change="whose = { ...whose, [l.line]: $event as string }"
                    :aria-label="`Student of line ${l.line}`"
                  >
                    <option value="">left out</option>
                    <option
                      v-for="id in l.candidates.length > 0 ? l.candidates : book.rows.map((r) => r.enrolmentId)"
                      :key="id"
                      :value="id"
                    >
                      {{ nameOf(id) }}
                    </option>
                  </ChoiceField>
                </td>
              </tr>
            </tbody>
          </PlainTable>
        </template>
        <p v-if="repeated.size > 0" class="clay">
          {{ repeated.size === 1 ? 'Line' : 'Lines' }} {{ [...repeated].join(', ') }}
          {{ repeated.size === 1 ? 'names a student' : 'name students' }} of an earlier line and
          {{ repeated.size === 1 ? 'is' : 'are' }} left out.
        </p>
        <p>{{ countOf(known.length, 'student') }} and {{ countOf(taken, 'column') }} are taken.</p>
      </template>
      <p class="form-acts">
        <ActButton v-if="matched && taken > 0 && known.length > 0" look="go" @click="plan">See what changes</ActButton>
        <ActButton look="quiet" @click="emit('close')">Close</ActButton>
      </p>
    </div>
  </v-dialog>
</template>

<style scoped>
h3 {
  margin: 14px 0 4px;
}
</style>

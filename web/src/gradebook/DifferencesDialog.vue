<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { BookDifferences, CellDifference } from '@rosemary/api';
import { countOf, dayAndTime } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import DateField from '../parts/DateField.vue';
import PlainTable from '../parts/PlainTable.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** What differs in the gradebook between two days: results, totals, letters, and the act behind each, which can be undone from here. */
const props = defineProps<{ courseId: string; canEdit: boolean }>();
const emit = defineEmits<{ close: []; changed: [] }>();
const course = useCourse();
const notices = useNotices();
const WEEK = 7 * 86_400_000;
const from = ref<string | null>(new Date(course.now - WEEK).toISOString());
const to = ref<string | null>(null);
const found = ref<BookDifferences | null>(null);
const fault = ref('');
const isBusy = ref(false);
const at = (iso: string): string => dayAndTime(Date.parse(iso), course.zone, course.now);
async function look(): Promise<void> {
  if (from.value === null) {
    fault.value = 'Choose the first day.';
    return;
  }
  isBusy.value = true;
  fault.value = '';
  try {
    found.value = await call(api.getDifferences, {
      courseId: props.courseId,
      from: from.value,
      ...(to.value === null ? {} : { to: to.value }),
    });
  } catch (error) {
    found.value = null;
    fault.value = error instanceof Error ? error.message : '';
  } finally {
    isBusy.value = false;
  }
}
/** What was pasted, filled or imported together is undone together. */
const acts = computed(() => {
  const many = new Map<string, { act: string; who: string; at: string; source: string; cells: number }>();
  for (const { by } of found.value?.cells ?? []) {
    if (by === null || by.act === null) continue;
    const held = many.get(by.act);
    many.set(by.act, { act: by.act, who: by.who, at: by.at, source: by.source, cells: (held?.cells ?? 0) + 1 });
  }
  return [...many.values()];
});
async function undo(send: () => Promise<unknown>, words: string): Promise<void> {
  try {
    await send();
    notices.say(words, null);
    emit('changed');
    await look();
  } catch (error) {
    notices.sayFault(error);
  }
}
const undoCell = (c: CellDifference): Promise<void> =>
  undo(() => call(api.undoCell, { courseId: props.courseId }, { eventId: c.by?.eventId ?? '' }), `${c.name}, ${c.title}: undone.`);
const undoAct = (act: string, cells: number): Promise<void> =>
  undo(() => call(api.undoBlock, { courseId: props.courseId }, { act }), `${countOf(cells, 'cell')} undone.`);
const SOURCES: { readonly [source: string]: string } = { paste: 'pasted', fill: 'filled', import: 'imported' };
</script>

<template>
  <v-dialog :model-value="true" max-width="1000" @update:model-value="emit('close')">
    <div class="sheet form" role="dialog" aria-label="What changed between two days">
      <h2>What changed between two days</h2>
      <form class="days" @submit.prevent="look">
        <DateField :model-value="from" label="From" :zone="course.zone" :now="course.now" @change="from = $event" />
        <DateField :model-value="to" label="To (empty: now)" :zone="course.zone" :now="course.now" @change="to = $event" />
        <ActButton type="submit" look="go" :disabled="isBusy">Compare</ActButton>
      </form>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div v-if="isBusy" class="skeleton" style="height: 80px" />
      <template v-else-if="found">
        <p v-if="found.knownSince && found.from < found.knownSince" class="clay">
          Marks are known for all of this time; dates, points, policy and membership from {{ at(found.knownSince) }} on.
        </p>
        <p aria-live="polite">
          {{ countOf(found.cells.length, 'result') }} and {{ countOf(found.totals.length, 'total') }} differ between
          {{ at(found.from) }} and {{ at(found.to) }}.
        </p>
        <template v-if="found.acts.length > 0 || acts.length > 0">
          <h3>Acts</h3>
          <ul class="bare-list">
            <li v-for="a in acts" :key="a.act">
              {{ at(a.at) }}, {{ a.who }}: {{ countOf(a.cells, 'cell') }} {{ SOURCES[a.source] ?? 'written' }}
              <ActButton v-if="canEdit" look="act" @click="undoAct(a.act, a.cells)">Undo all of them</ActButton>
            </li>
            <li v-for="(a, n) in found.acts" :key="n">
              {{ at(a.at) }}, {{ a.who }}: {{ a.what }}{{ a.subject ? `, “${a.subject}”` : '' }}
              <router-link v-if="a.what === 'policy changed' && canEdit" :to="{ name: 'policy', params: { courseId } }"
                >to its history</router-link
              >
            </li>
          </ul>
        </template>
        <template v-if="found.totals.length > 0">
          <h3>Totals</h3>
          <PlainTable>
            <tbody>
              <tr v-for="t in found.totals" :key="t.enrolmentId">
                <td>{{ t.name }}</td>
                <td class="num">{{ t.before ?? '—' }}</td>
                <td class="num">{{ t.after ?? '—' }}</td>
                <td class="num">
                  <b v-if="t.letterBefore !== t.letterAfter">{{ t.letterBefore ?? '—' }} → {{ t.letterAfter ?? '—' }}</b>
                </td>
              </tr>
            </tbody>
          </PlainTable>
        </template>
        <template v-if="found.cells.length > 0">
          <h3>Results</h3>
          <PlainTable>
            <tbody>
              <tr v-for="c in found.cells" :key="`${c.columnId} ${c.enrolmentId}`">
                <td>{{ c.name }}</td>
                <td>{{ c.title }}</td>
                <td class="num">{{ c.was || 'empty' }} → {{ c.is || 'empty' }}</td>
                <td class="soft">{{ c.by ? `${c.by.who}, ${at(c.by.at)}` : 'by a date, the policy or a curve' }}</td>
                <td>
                  <ActButton v-if="canEdit && c.by" look="act" :aria-label="`Undo ${c.title} of ${c.name}`" @click="undoCell(c)"
                    >undo</ActButton
                  >
                </td>
              </tr>
            </tbody>
          </PlainTable>
        </template>
      </template>
      <p class="form-acts"><ActButton look="quiet" @click="emit('close')">Close</ActButton></p>
    </div>
  </v-dialog>
</template>

<style scoped>
.days {
  display: grid;
  grid-template-columns: 210px 230px auto;
  gap: 20px;
  align-items: end;
  justify-content: start;
}
h3 {
  margin: 14px 0 4px;
}
</style>

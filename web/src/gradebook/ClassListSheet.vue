<script setup lang="ts">
import type { BookRow } from '@rosemary/api';
import { dayAndTime, formatPoints } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import { useCourse } from '../stores/courseStore.ts';
import BookCellView from './BookCellView.vue';
import { FROZEN, type Column } from './columns.ts';

/** The class with its results on paper: whom the gradebook shows, in its order, with the totals beside each name. */
const props = defineProps<{ rows: readonly BookRow[]; columns: readonly Column[]; at: string | null; words: string }>();
const emit = defineEmits<{ leave: [] }>();
const course = useCourse();
const what = ref<'totals' | 'all'>('all');
/** As many columns as a page takes beside names and totals; more stand in a table of their own below. */
const PER_TABLE = 9;
const totals = computed(() => props.columns.filter((c) => FROZEN.has(c.kind)));
const results = computed(() => (what.value === 'all' ? props.columns.filter((c) => !FROZEN.has(c.kind)) : []));
const tables = computed((): readonly (readonly Column[])[] => {
  const parts: Column[][] = [];
  for (let n = 0; n < results.value.length; n += PER_TABLE) parts.push(results.value.slice(n, n + PER_TABLE));
  return parts.length === 0 ? [[]] : parts;
});
const sections = computed(() => new Map(course.head?.sections.map((s) => [s.id, s.title])));
const when = computed(() => dayAndTime(props.at === null ? course.now : Date.parse(props.at), course.zone, course.now));
const print = (): void => {
  window.print();
};
</script>

<template>
  <article class="class-list">
    <p class="tools no-print">
      <ChoiceField v-model="what" aria-label="What stands beside each name">
        <option value="all">Results and totals</option>
        <option value="totals">Totals alone</option>
      </ChoiceField>
      <ActButton look="go" @click="print">Print</ActButton>
      <ActButton look="quiet" @click="emit('leave')">Back to the gradebook</ActButton>
    </p>
    <h1>{{ course.head?.title }}</h1>
    <p class="soft">
      {{ course.head?.code }} {{ course.head?.run }} · {{ props.rows.length }} students{{ words === '' ? '' : `, ${words}` }} · as of
      {{ when }}
    </p>
    <PlainTable v-for="(own, n) in tables" :key="n" class="list">
      <thead>
        <tr>
          <th class="num" />
          <th>Name</th>
          <th v-if="sections.size > 1">Section</th>
          <th v-for="c in own" :key="c.key" class="num">
            {{ c.kind === 'graded' ? c.title : `${c.group} ${c.title}`
            }}<small v-if="c.possible > 0"> of {{ formatPoints(c.possible) }}</small>
          </th>
          <th v-for="c in totals" :key="c.key" class="num">{{ c.title }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, place) in rows" :key="r.enrolmentId">
          <td class="num soft">{{ place + 1 }}</td>
          <td>{{ r.familyName }}, {{ r.givenName }}</td>
          <td v-if="sections.size > 1" class="soft">{{ sections.get(r.sectionId ?? '') ?? '' }}</td>
          <td v-for="c in own" :key="c.key" class="num"><BookCellView :row="r" :column="c" /></td>
          <td v-for="c in totals" :key="c.key" class="num"><BookCellView :row="r" :column="c" /></td>
        </tr>
      </tbody>
    </PlainTable>
  </article>
</template>

<style scoped>
.class-list {
  flex: 1;
  background: var(--paper);
  padding: 18px 28px 40px;
  min-width: 0;
}
.tools {
  display: flex;
  gap: 16px;
  align-items: baseline;
}
.list {
  margin-top: 16px;
  font-size: 13px;
}
.list small {
  display: block;
  font-weight: 400;
}
.tools > :first-child {
  max-width: 220px;
}
.list :deep(td) {
  white-space: nowrap;
  padding-top: 4px;
  padding-bottom: 4px;
}
.list :deep(tr) {
  break-inside: avoid;
}
</style>

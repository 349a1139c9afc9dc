<script setup lang="ts">
import type { BookRow, Gradebook, WorkingView } from '@rosemary/api';
import { kindOfItem } from '@rosemary/core';
import { computed, defineAsyncComponent } from 'vue';
import ActButton from '../parts/ActButton.vue';
import WorkingLines from '../parts/WorkingLines.vue';
import CellHistory from './CellHistory.vue';
import type { Column } from './columns.ts';
import { isOutside } from './heldCell.ts';

const CellWordsPart = defineAsyncComponent(() => import('./CellWordsPart.vue'));
/** The working of the number that is chosen; of a result also its history and the words on it. */
const which = defineModel<'floor' | 'reach'>('which', { required: true });
const props = defineProps<{
  courseId: string;
  book: Gradebook;
  working: WorkingView;
  row: BookRow | null;
  column: Column | null;
  /** Counts the readings of the working, so that the history follows it. */
  turn: number;
  canEdit: boolean;
  isPast: boolean;
}>();
const emit = defineEmits<{ written: []; past: [at: string] }>();
const cell = computed(() => {
  const { row, column } = props;
  return row === null || column?.kind !== 'graded' || column.columnId === null
    ? null
    : { courseId: props.courseId, columnId: column.columnId, enrolmentId: row.enrolmentId };
});
/** What a marker works with here: works, attempts, or nothing, as where no work belongs to it. */
const marking = computed(() => {
  const of = props.column?.kind === 'graded' ? props.book.columns[props.column.place] : undefined;
  return of?.role !== 'work' || of.kind === null ? 'none' : kindOfItem(of.kind).marking;
});
</script>

<template>
  <div>
    <p class="label">{{ working.who }}</p>
    <h3>{{ working.title }}</h3>
    <p class="soft rule">{{ working.rule }}</p>
    <p v-if="column?.kind === 'range'" class="gap">
      <ActButton look="act" :aria-pressed="which === 'floor'" @click="which = 'floor'">floor</ActButton> ·
      <ActButton look="act" :aria-pressed="which === 'reach'" @click="which = 'reach'">reach</ActButton>
    </p>
    <WorkingLines :lines="working.lines" />
    <p v-if="working.inTotal" class="soft gap">{{ working.inTotal }}</p>
    <template v-if="!isPast">
      <p v-if="cell && marking !== 'none'" class="gap">
        <router-link v-if="marking === 'work'" :to="`/courses/${courseId}/marking/${column?.itemId}/${cell.enrolmentId}`"
          >To the work</router-link
        >
        <router-link v-else :to="{ name: 'quiz-results', params: { courseId, itemId: column?.itemId } }">To the paper</router-link>
      </p>
      <CellHistory
        v-if="cell"
        :key="`${cell.enrolmentId} ${cell.columnId} ${turn}`"
        :at="cell"
        :can-edit="canEdit"
        @written="emit('written')"
        @past="emit('past', $event)"
      />
      <CellWordsPart
        v-if="cell && row && column && !isOutside(row, column.place)"
        :key="`words ${cell.enrolmentId} ${cell.columnId}`"
        :at="cell"
        :who="row?.givenName ?? ''"
        :can-edit="canEdit"
      />
    </template>
  </div>
</template>

<style scoped>
.rule {
  margin: 2px 0 10px;
}
.gap {
  padding-top: 12px;
}
</style>

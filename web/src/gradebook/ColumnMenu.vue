<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { BookColumn, ColumnView } from '@rosemary/api';
import { countOf, dayAndTime, kindOfItem, pointsInWords } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import DotPlot from '../parts/DotPlot.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { deleteColumn } from './deleteColumn.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** A column opened at its head: how the class did, and what can be done with it. */
const props = defineProps<{ courseId: string; column: BookColumn; canEdit: boolean }>();
const emit = defineEmits<{
  close: [];
  fill: [];
  curve: [];
  place: [];
  copy: [];
  history: [];
  settings: [];
  changed: [];
  sort: [isSecond: boolean];
}>();
const course = useCourse();
const notices = useNotices();
const router = useRouter();
const view = ref<ColumnView | null>(null);
const fault = ref('');
const base = computed(() => ({ courseId: props.courseId }));
async function load(): Promise<void> {
  try {
    view.value = await call(api.getGradeColumn, {
      ...base.value,
      columnId: props.column.id,
      ...(course.sectionId === null ? {} : { section: course.sectionId }),
    });
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
const shares = computed(() =>
  view.value === null || view.value.possible === 0 ? [] : view.value.marks.map((raw) => (raw / (view.value?.possible ?? 1)) * 100),
);
const facts = computed(() => [
  pointsInWords(props.column.possible),
  ...(props.column.dueAt === null ? [] : [`due ${dayAndTime(Date.parse(props.column.dueAt), course.zone, course.now)}`]),
  ...(props.column.counts ? [] : ['does not count toward the grade']),
  ...(props.column.isExtraCredit ? ['extra credit'] : []),
  ...(props.column.multiplier === 1000 ? [] : [`multiplier ${props.column.multiplier / 1000}`]),
]);
const isMarked = computed(() => props.column.kind !== null && kindOfItem(props.column.kind).marking === 'work');
async function release(): Promise<void> {
  if (props.column.itemId === null) return;
  try {
    const at = { ...base.value, itemId: props.column.itemId };
    const { many } = await call(api.releaseMarks, at, { enrolmentIds: null });
    notices.say(`${countOf(many, 'mark')} released.`, null);
    emit('changed');
    emit('close');
  } catch (error) {
    notices.sayFault(error);
  }
}
async function remove(): Promise<void> {
  if (
    await deleteColumn(props.courseId, props.column, () => {
      emit('changed');
    })
  )
    emit('close');
}
const write = (): void =>
  void router.push({
    name: 'messages',
    params: { courseId: props.courseId },
    state: { to: [...(view.value?.missing ?? [])], about: props.column.title },
  });
const open = (): void => {
  const { itemId } = props.column;
  if (itemId === null) return;
  void router.push(
    isMarked.value
      ? { path: `/courses/${props.courseId}/marking/${itemId}` }
      : { name: 'plan', params: { courseId: props.courseId }, query: { item: itemId } },
  );
};
</script>

<template>
  <div class="sheet column-menu" role="dialog" :aria-label="column.title">
    <div class="about">
      <h3>{{ column.title }}</h3>
      <p class="soft">{{ facts.join(' · ') }}</p>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div v-else-if="!view" class="skeleton" style="height: 60px" />
      <template v-else>
        <DotPlot v-if="shares.length > 0" :values="shares" label="Results in percent of the points" />
        <p v-if="view.statistics">
          {{ countOf(view.statistics.number, 'result') }}: mean {{ view.statistics.mean }}, median {{ view.statistics.median }}, standard
          deviation {{ view.statistics.spread }}
        </p>
        <p v-else class="soft">{{ view.marks.length === 0 ? 'No result yet.' : 'Mean and median are shown from five results on.' }}</p>
        <p v-if="view.curveWords" class="soft">Curve: {{ view.curveWords }}.</p>
      </template>
    </div>
    <div class="menu" role="menu" :aria-label="`What can be done with ${column.title}`">
      <ActButton role="menuitem" @click="emit('sort', false)">Sort by it</ActButton>
      <ActButton role="menuitem" @click="emit('sort', true)">Sort by it second</ActButton>
      <ActButton v-if="canEdit" role="menuitem" @click="emit('fill')">Fill the column…</ActButton>
      <ActButton v-if="canEdit" role="menuitem" @click="emit('curve')">{{ column.hasCurve ? 'Change the curve…' : 'Curve…' }}</ActButton>
      <ActButton v-if="canEdit && view && view.unreleased > 0 && column.itemId" role="menuitem" @click="release"
        >Release {{ countOf(view.unreleased, 'mark') }}</ActButton
      >
      <ActButton v-if="view && view.missing.length > 0" role="menuitem" @click="write"
        >Write to the {{ view.missing.length }} whose work is missing</ActButton
      >
      <ActButton v-if="column.itemId && !column.isAlone" role="menuitem" @click="open">{{
        isMarked ? 'Open in Marking' : 'Open in the Plan'
      }}</ActButton>
      <ActButton v-if="canEdit && column.itemId" role="menuitem" @click="emit('settings')">Change the column…</ActButton>
      <ActButton role="menuitem" @click="emit('history')">What changed in it…</ActButton>
      <ActButton v-if="canEdit && column.itemId" role="menuitem" @click="emit('copy')">Copy to another course…</ActButton>
      <ActButton v-if="canEdit && column.isAlone" role="menuitem" @click="emit('place')">Put into the Plan…</ActButton>
      <ActButton v-if="canEdit && column.isAlone" role="menuitem" @click="remove">Delete the column</ActButton>
    </div>
  </div>
</template>

<style scoped>
.column-menu {
  width: 300px;
}
.about {
  padding: 12px 14px 6px;
  border-bottom: 1px solid var(--frost);
}
.about p {
  margin: 4px 0;
}
</style>

<script setup lang="ts">
import type { BookRow, Gradebook } from '@rosemary/api';
import { computed } from 'vue';
import { VMenu } from 'vuetify/components/VMenu';
import ArrangeDialog from './ArrangeDialog.vue';
import BlockDialog from './BlockDialog.vue';
import ColumnForm from './ColumnForm.vue';
import ColumnHistoryDialog from './ColumnHistoryDialog.vue';
import ColumnMenu from './ColumnMenu.vue';
import ColumnSettings from './ColumnSettings.vue';
import CopyColumnDialog from './CopyColumnDialog.vue';
import { typedLevels } from './cellTarget.ts';
import type { Column } from './columns.ts';
import CurveDialog from './CurveDialog.vue';
import DifferencesDialog from './DifferencesDialog.vue';
import FillDialog from './FillDialog.vue';
import { heldCell, isOutside } from './heldCell.ts';
import ImportDialog from './ImportDialog.vue';
import PlaceDialog from './PlaceDialog.vue';
import type { Opened } from './opened.ts';
import type { BlockWish } from './useBlock.ts';

/** What opens over the gradebook: a column at its head, what is done with it, what is pasted or filled. */
const opened = defineModel<Opened | null>('opened', { required: true });
const props = defineProps<{
  courseId: string;
  book: Gradebook;
  rows: readonly BookRow[];
  columns: readonly Column[];
  wish: BlockWish | null;
  canEdit: boolean;
  reload: () => Promise<void>;
}>();
const emit = defineEmits<{
  close: [];
  changed: [];
  sort: [key: string, isSecond: boolean];
  fill: [column: Column, text: string, isOnlyEmpty: boolean];
  order: [ids: readonly string[]];
  planned: [wish: BlockWish];
  past: [at: string];
}>();
const of = computed(() => (opened.value !== null && 'column' in opened.value ? opened.value : null));
const column = computed(() => props.book.columns.find((c) => c.id === of.value?.column.columnId) ?? null);
const turnTo = (what: 'fill' | 'curve' | 'place' | 'copy' | 'history' | 'settings'): void => {
  if (of.value !== null) opened.value = { ...of.value, what };
};
const empty = computed(() => {
  const place = of.value?.column.place ?? -1;
  return props.rows.filter((r) => !isOutside(r, place) && (heldCell(r, place)?.[6] ?? null) === null).length;
});
function sort(isSecond: boolean): void {
  const key = of.value?.column.key;
  emit('close');
  if (key !== undefined) emit('sort', key, isSecond);
}
function lookBack(at: string): void {
  emit('close');
  emit('past', at);
}
function fill(text: string, isOnlyEmpty: boolean): void {
  if (of.value !== null) emit('fill', of.value.column, text, isOnlyEmpty);
}
/** The columns as they stand now, for an order of one's own. */
const inOrder = computed(() => {
  const at = new Map(props.columns.map((c, n) => [c.key, n]));
  return [...props.book.columns].sort((a, b) => (at.get(a.id) ?? Infinity) - (at.get(b.id) ?? Infinity));
});
</script>

<template>
  <VMenu
    v-if="of?.what === 'menu' && column"
    :model-value="true"
    :target="of.button"
    :close-on-content-click="false"
    location="bottom end"
    @update:model-value="emit('close')"
    ><ColumnMenu
      :course-id="courseId"
      :column="column"
      :can-edit="canEdit"
      @close="emit('close')"
      @fill="turnTo('fill')"
      @curve="turnTo('curve')"
      @place="turnTo('place')"
      @copy="turnTo('copy')"
      @history="turnTo('history')"
      @settings="turnTo('settings')"
      @changed="emit('changed')"
      @sort="sort"
  /></VMenu>
  <FillDialog
    v-if="of?.what === 'fill'"
    :column="of.column"
    :empty="empty"
    :students="rows.length"
    :levels="typedLevels(book, column)"
    @close="emit('close')"
    @fill="fill"
  />
  <CurveDialog
    v-if="of?.what === 'curve' && column"
    :course-id="courseId"
    :column-id="column.id"
    @close="emit('close')"
    @changed="emit('changed')"
  />
  <PlaceDialog
    v-if="of?.what === 'place' && column"
    :course-id="courseId"
    :column="column"
    @close="emit('close')"
    @changed="emit('changed')"
  />
  <CopyColumnDialog
    v-if="of?.what === 'copy' && column"
    :course-id="courseId"
    :column="column"
    :categories="book.categories"
    @close="emit('close')"
  />
  <ColumnSettings
    v-if="of?.what === 'settings' && column"
    :course-id="courseId"
    :column="column"
    :categories="book.categories"
    @close="emit('close')"
    @changed="emit('changed')"
  />
  <ColumnHistoryDialog
    v-if="of?.what === 'history' && column"
    :course-id="courseId"
    :column="column"
    @close="emit('close')"
    @past="lookBack"
  />
  <BlockDialog v-if="wish" :course-id="courseId" :wish="wish" :levels="book.levels" @close="emit('close')" @written="emit('changed')" />
  <ColumnForm
    v-if="opened?.what === 'add'"
    :course-id="courseId"
    :periods="book.periods"
    :categories="book.categories"
    @close="emit('close')"
    @added="emit('changed')"
  />
  <ImportDialog
    v-if="opened?.what === 'import' && !wish"
    :course-id="courseId"
    :book="book"
    :reload="reload"
    @close="emit('close')"
    @planned="emit('planned', $event)"
  />
  <DifferencesDialog
    v-if="opened?.what === 'differences'"
    :course-id="courseId"
    :can-edit="canEdit"
    @close="emit('close')"
    @changed="emit('changed')"
  />
  <ArrangeDialog v-if="opened?.what === 'arrange'" :columns="inOrder" @close="emit('close')" @order="emit('order', $event)" />
</template>

<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { BookColumn, Gradebook, ItemChange, PlanItem } from '@rosemary/api';
import { computed, onMounted, ref } from 'vue';
import LineInput from '../parts/LineInput.vue';
import { call, takeBack } from '../platform/call.ts';
import ItemInspector from '../plan/ItemInspector.vue';
import { deleteColumn } from './deleteColumn.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** What is set of the item of a column, without leaving the gradebook: each field is saved as it is left, its ripple seen first. */
const props = defineProps<{ courseId: string; column: BookColumn; categories: Gradebook['categories'] }>();
const emit = defineEmits<{ close: []; changed: [] }>();
const notices = useNotices();
const item = ref<PlanItem | null>(null);
const fault = ref('');
const at = computed(() => ({ courseId: props.courseId, itemId: props.column.itemId ?? '' }));
async function load(): Promise<void> {
  try {
    ({ item: item.value } = await call(api.getItem, at.value));
    fault.value = '';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
async function change(wish: Omit<ItemChange, 'version'>): Promise<boolean> {
  const before = item.value;
  if (before === null) return false;
  const done = await call(api.changeItem, at.value, { ...wish, version: before.version }, `“${before.title}”`);
  if (done === null) return false;
  item.value = done;
  emit('changed');
  const was = Object.fromEntries(Object.keys(wish).map((field) => [field, before[field as keyof PlanItem]]));
  notices.say(`“${done.title}” is changed.`, async () => {
    const { version } = item.value ?? done;
    item.value = await takeBack(api.changeItem, at.value, { ...was, version });
    emit('changed');
  });
  return true;
}
async function rename(title: string): Promise<void> {
  try {
    await change({ title });
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
const reload = async (): Promise<void> => {
  await load();
  emit('changed');
};
</script>

<template>
  <v-dialog :model-value="true" width="460" @update:model-value="emit('close')">
    <div class="sheet form" role="dialog" aria-label="Settings of the column">
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div v-else-if="!item" class="skeleton" style="height: 240px" />
      <template v-else>
        <label class="field">Title <LineInput :value="item.title" maxlength="160" @commit="rename" /></label>
        <ItemInspector
          class="held"
          :item="item"
          :categories="categories"
          can-edit
          :arrangements="0"
          :others="[]"
          :change="change"
          :reload="reload"
          @close="emit('close')"
          @remove="remove"
          @saved="item = $event"
        />
      </template>
    </div>
  </v-dialog>
</template>

<style scoped>
/* It stands in a dialog, not at the side of a page. */
.held {
  position: static;
  width: auto;
  max-height: none;
  border: 0;
  padding: 0;
}
</style>

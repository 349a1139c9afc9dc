<script setup lang="ts">
import { pointsInWords, readCellText, type SchemeLevel } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';
import PickMark from '../parts/fields/PickMark.vue';
import type { Column } from './columns.ts';

/** One value for a whole column: what it is and for whom; what it changes is seen after. */
const props = defineProps<{ column: Column; empty: number; students: number; levels: readonly SchemeLevel[] }>();
const emit = defineEmits<{ close: []; fill: [text: string, isOnlyEmpty: boolean] }>();
const text = ref('');
const which = ref<'empty' | 'all'>('empty');
const wasAsked = ref(false);
const fault = computed(() => {
  if (text.value.trim() === '') return which.value === 'all' ? '' : 'Type what the empty cells are to hold.';
  const read = readCellText(text.value, props.column.possible, props.levels);
  return read.ok ? '' : read.reason;
});
function next(): void {
  wasAsked.value = true;
  if (fault.value !== '') return;
  emit('fill', text.value, which.value === 'empty');
  emit('close');
}
</script>

<template>
  <v-dialog :model-value="true" width="460" @update:model-value="emit('close')">
    <form class="sheet pad" role="dialog" :aria-label="`Fill ${column.title}`" @submit.prevent="next">
      <h2>Fill “{{ column.title }}”</h2>
      <label class="field"
        >Write
        <LineField v-model="text" takes-focus :placeholder="`of ${pointsInWords(column.possible)}: a number, 80 %, exempt…`" />
      </label>
      <p v-if="wasAsked && fault" class="fault" role="alert">{{ fault }}</p>
      <label class="choice-line"><PickMark v-model="which" name="which" value="empty" /> into the {{ empty }} empty cells</label>
      <label class="choice-line"
        ><PickMark v-model="which" name="which" value="all" /> into all {{ students }}, also over what stands there</label
      >
      <div class="form-acts">
        <ActButton type="submit" look="go">See what changes</ActButton> <ActButton look="quiet" @click="emit('close')">Cancel</ActButton>
      </div>
    </form>
  </v-dialog>
</template>

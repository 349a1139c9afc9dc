<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { BookColumn, ColumnHistory } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { onMounted, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';

/** What changed in a column, the latest first; from here the gradebook opens as it stood just after any of it. */
const props = defineProps<{ courseId: string; column: BookColumn }>();
const emit = defineEmits<{ close: []; past: [at: string] }>();
const course = useCourse();
const history = ref<ColumnHistory | null>(null);
const fault = ref('');
onMounted(async () => {
  try {
    history.value = await call(api.getColumnHistory, { courseId: props.courseId, columnId: props.column.id });
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const at = (iso: string): string => dayAndTime(Date.parse(iso), course.zone, course.now);
</script>

<template>
  <v-dialog :model-value="true" max-width="860" @update:model-value="emit('close')">
    <div class="sheet form" role="dialog" :aria-label="`What changed in ${column.title}`">
      <h2>What changed in “{{ column.title }}”</h2>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div v-else-if="!history" class="skeleton" style="height: 120px" />
      <p v-else-if="history.isHidden" class="soft">
        Names are hidden in this work, so what was written for whom is told once they are not.
      </p>
      <p v-else-if="history.entries.length === 0" class="soft">Nothing has been written in it yet.</p>
      <PlainTable v-else>
        <thead>
          <tr>
            <th>When</th>
            <th>Student</th>
            <th>What</th>
            <th>Who, and why</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr v-for="e in history.entries" :key="e.eventId">
            <td>{{ at(e.at) }}</td>
            <td>{{ e.student }}</td>
            <td>{{ e.what }}</td>
            <td class="soft">{{ e.who }}, {{ e.source }}{{ e.reason ? `: ${e.reason}` : '' }}</td>
            <td>
              <ActButton look="act" :aria-label="`The gradebook just after ${at(e.at)}`" @click="emit('past', e.at)"
                >as it stood then</ActButton
              >
            </td>
          </tr>
        </tbody>
      </PlainTable>
      <p v-if="history && history.entries.length === 200" class="soft">
        The latest 200 are shown. The rest is in the history of each cell.
      </p>
      <p class="form-acts"><ActButton look="quiet" @click="emit('close')">Close</ActButton></p>
    </div>
  </v-dialog>
</template>

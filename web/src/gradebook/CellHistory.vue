<script setup lang="ts">
import type { HistoryEntry } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { onMounted, ref } from 'vue';
import * as api from '@rosemary/api/endpoints';
import type { PathOf } from '@rosemary/api/endpoints';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import ActButton from '../parts/ActButton.vue';
const props = defineProps<{ at: PathOf<typeof api.getCellHistory>; canUndo: boolean }>();
const emit = defineEmits<{ undo: [eventId: string] }>();
const course = useCourse();
const entries = ref<readonly HistoryEntry[] | null>(null);
onMounted(async () => {
  entries.value = await call(api.getCellHistory, props.at).catch(() => []);
});
</script>

<template>
  <section v-if="entries" class="history">
    <h4>Who changed what</h4>
    <p v-if="entries.length === 0" class="soft">Nothing has been written here yet.</p>
    <ol>
      <li v-for="e in entries" :key="e.eventId">
        <div>
          <b>{{ e.what }}</b> <ActButton v-if="e.canUndo && canUndo" look="act" @click="emit('undo', e.eventId)">undo</ActButton>
        </div>
        <div class="label">
          {{ e.who }}, {{ dayAndTime(Date.parse(e.at), course.zone, course.now) }}, {{ e.source }}{{ e.reason ? `: ${e.reason}` : '' }}
        </div>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.history {
  margin-top: 18px;
  border-top: 1px solid var(--frost);
  padding-top: 10px;
}
h4 {
  font:
    600 13px/18px 'Source Sans 3 Variable',
    sans-serif;
  margin: 0 0 4px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  padding: 4px 0;
}
</style>

<script setup lang="ts">
import type { HistoryEntry } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { onMounted, ref } from 'vue';
import * as api from '@rosemary/api/endpoints';
import type { PathOf } from '@rosemary/api/endpoints';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** Who changed a cell, when, how and why; any step can be taken back. */
const props = defineProps<{ at: PathOf<typeof api.getCellHistory>; canEdit: boolean }>();
const emit = defineEmits<{ written: []; past: [at: string] }>();
const course = useCourse();
const notices = useNotices();
const entries = ref<readonly HistoryEntry[] | null>(null);
const fault = ref('');
/** The step whose reason is being typed. */
const asked = ref<string | null>(null);
const reason = ref('');
async function load(): Promise<void> {
  try {
    entries.value = await call(api.getCellHistory, props.at);
    fault.value = '';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
async function write(send: () => Promise<unknown>): Promise<void> {
  try {
    await send();
    emit('written');
  } catch (error) {
    notices.sayFault(error);
  }
}
const base = { courseId: props.at.courseId };
const undo = (eventId: string): Promise<void> => write(() => call(api.undoCell, base, { eventId }));
const putBack = (eventId: string): Promise<void> => write(() => call(api.putCellBack, base, { eventId }));
function askWhy(e: HistoryEntry): void {
  [asked.value, reason.value] = [e.eventId, e.reason];
}
async function saveReason(): Promise<void> {
  const eventId = asked.value;
  if (eventId === null) return;
  await write(() => call(api.saveEventReason, base, { eventId, reason: reason.value.trim() }));
  asked.value = null;
  await load();
}
</script>

<template>
  <section class="history">
    <h4>Who changed what</h4>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else-if="entries?.length === 0" class="soft">Nothing has been written here yet.</p>
    <ol v-if="entries" class="bare-list">
      <li v-for="(e, n) in entries" :key="e.eventId">
        <div>
          <b>{{ e.what }}</b>
          <template v-if="canEdit"
            >{{ ' ' }}<ActButton v-if="e.canUndo" look="act" @click="undo(e.eventId)">undo</ActButton
            ><ActButton v-else-if="n > 0" look="act" :aria-label="`Put back to ${e.what}`" @click="putBack(e.eventId)">put back</ActButton>
            <template v-if="e.isMine && asked !== e.eventId && e.reason === ''"
              ><span class="soft"> · </span><ActButton look="act" @click="askWhy(e)">add why</ActButton></template
            ></template
          >
        </div>
        <div class="label">
          {{ e.who }}, {{ dayAndTime(Date.parse(e.at), course.zone, course.now) }}, {{ e.source }}{{ e.reason ? `: ${e.reason}` : '' }}
          <ActButton look="act" :aria-label="`The gradebook just after ${e.what}`" @click="emit('past', e.at)">as it stood then</ActButton>
        </div>
        <LineField
          v-if="asked === e.eventId"
          v-model="reason"
          takes-focus
          maxlength="600"
          placeholder="Why, in a few words; Enter keeps it"
          aria-label="Reason of the change"
          @keydown.enter="saveReason"
          @keydown.esc="asked = null"
        />
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
  margin: 0 0 4px;
}
li {
  padding: 4px 0;
}
</style>

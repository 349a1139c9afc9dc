<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { FinalSection, ReadBack } from '@rosemary/api';
import { countOf, dayAndTime } from '@rosemary/core';
import { computed, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import ProgressBar from '../parts/ProgressBar.vue';
import PlainTable from '../parts/PlainTable.vue';
import { call } from '../platform/call.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';

/** How far a section is, what the registrar holds of it, and the records of what was sent. */
const props = defineProps<{ courseId: string; section: FinalSection; canSend: boolean }>();
const course = useCourse();
/** How much of what was sent has been answered. */
const settled = computed(() => {
  const { underWay, accepted, refused } = props.section;
  return (accepted + refused) / Math.max(1, underWay + accepted + refused);
});
const back = ref<ReadBack | null>(null);
const fault = ref('');
const at = () => ({ courseId: props.courseId, sectionId: props.section.id });
async function read(): Promise<void> {
  if (back.value === null) return;
  try {
    back.value = await call(api.getReadBack, at());
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
async function ask(): Promise<void> {
  fault.value = '';
  try {
    await call(api.readBackFinals, at());
    back.value = await call(api.getReadBack, at());
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
useFresh(ref(props.courseId), ['grades'], read);
const FIELDS = {
  letter: 'letter',
  percent: 'number',
  lastDay: 'last day',
  expiresOn: 'until',
  lapsesTo: 'becomes',
  'missing there': 'the registrar has nothing',
  'not agreed here': 'not agreed here',
} as const;
const when = (iso: string): string => dayAndTime(Date.parse(iso), course.zone, course.now);
</script>

<template>
  <section class="section" :aria-label="section.title">
    <p>
      <b>{{ section.title }}</b>: {{ section.agreed }} of {{ section.students }} agreed, {{ section.accepted }} with the registrar<template
        v-if="section.underWay > 0"
        >, {{ section.underWay }} on the way</template
      ><template v-if="section.underWay > 0"> <ProgressBar :share="settled" :label="`${section.title}: sent`" /></template
      ><template v-if="section.refused > 0"
        >, <span class="clay">{{ section.refused }} refused</span></template
      >.
      <ActButton v-if="canSend && section.accepted > 0" look="act" @click="ask">Read back</ActButton>
      <template v-for="r in section.records" :key="r.id"
        ><span class="soft"> · record of {{ when(r.at) }}, {{ countOf(r.rows, 'student') }}: </span
        ><a :href="urlOf(api.getFinalRecord, { courseId, recordId: r.id, format: 'pdf' })">PDF</a>,
        <a :href="urlOf(api.getFinalRecord, { courseId, recordId: r.id, format: 'csv' })">CSV</a></template
      >
    </p>
    <p v-if="fault || back?.fault" class="fault" role="alert">{{ fault || back?.fault }}</p>
    <template v-if="back">
      <p v-if="back.isAsked" class="soft" aria-live="polite">The registrar is asked what he holds…</p>
      <p v-else-if="back.readAt" aria-live="polite">
        Read back {{ when(back.readAt) }}: he holds {{ countOf(back.held, 'grade') }},
        {{ back.differences.length === 0 ? 'each as it was agreed.' : `and ${countOf(back.differences.length, 'difference')}.` }}
      </p>
      <PlainTable v-if="back.differences.length > 0">
        <thead>
          <tr>
            <th>Student</th>
            <th>What</th>
            <th>Agreed here</th>
            <th>Held there</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="d in back.differences" :key="`${d.studentKey} ${d.field}`">
            <td>{{ d.name }}</td>
            <td>{{ FIELDS[d.field] }}</td>
            <td>{{ d.here ?? '—' }}</td>
            <td>{{ d.there ?? '—' }}</td>
          </tr>
        </tbody>
      </PlainTable>
    </template>
  </section>
</template>

<style scoped>
.section {
  padding: 2px 0;
}
</style>

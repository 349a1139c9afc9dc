<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Storage } from '@rosemary/api';
import { dayAndTime, sizeInWords } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import StorageTable from './StorageTable.vue';
import { useNotices } from '../stores/noticeStore.ts';

/** What files take of the school's room: by course and by person, how much there may be, and what was cleared away. */
const notices = useNotices();
const storage = ref<Storage | null>(null);
const fault = ref('');
const limits = ref({ courseMegabytes: 0, personMegabytes: 0 });
const faults = ref<Readonly<Record<string, string>>>({});
const isSaving = ref(false);
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;

function show(next: Storage): void {
  storage.value = next;
  limits.value = { ...next.limits };
}
async function load(): Promise<void> {
  try {
    show(await call(api.getStorage, {}));
    fault.value = '';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);

async function save(): Promise<void> {
  const before = storage.value?.limits;
  if (before === undefined) return;
  isSaving.value = true;
  try {
    show(await call(api.changeStorage, {}, { ...limits.value }));
    faults.value = {};
    notices.say('The limits are saved.', async () => {
      show(await call(api.changeStorage, {}, before));
    });
  } catch (error) {
    if (!(error instanceof HttpProblem) || error.problem.pointers === undefined) notices.sayFault(error);
    else faults.value = Object.fromEntries(error.problem.pointers.map((p) => [p.field, p.text]));
  }
  isSaving.value = false;
}

const MB = 1_048_576;
const cleared = computed(() =>
  (storage.value?.cleared ?? []).map((c) => ({
    ...c,
    said: c.at === null ? 'not yet' : `${c.many === 0 ? 'none' : c.many} on ${dayAndTime(Date.parse(c.at), zone, Date.now())}`,
  })),
);
const COURSES = [
  { title: 'Course', key: 'title' },
  { title: 'Files', key: 'files', align: 'end' },
  { title: 'Size', key: 'bytes', align: 'end' },
  { title: 'Of the limit', key: 'share', align: 'end', sortable: false },
] as const;
const PEOPLE = [
  { title: 'Person', key: 'name' },
  { title: 'Course', key: 'course' },
  { title: 'Files', key: 'files', align: 'end' },
  { title: 'Size', key: 'bytes', align: 'end' },
  { title: 'Of the limit', key: 'share', align: 'end', sortable: false },
] as const;
</script>

<template>
  <div class="pad storage">
    <p class="soft"><router-link :to="{ name: 'school' }">School</router-link></p>
    <h1>Storage</h1>
    <p v-if="fault" class="fault" role="alert">{{ fault }} <v-btn variant="text" @click="load">Try again</v-btn></p>
    <v-skeleton-loader v-else-if="storage === null" type="heading, table-tbody" />
    <template v-else>
      <p>
        Files take {{ sizeInWords(storage.bytes)
        }}{{ storage.unfinishedBytes === 0 ? '' : `, and uploads that are not finished ${sizeInWords(storage.unfinishedBytes)}` }}. The same
        file is kept once, however often it is used.
      </p>
      <div class="parts">
        <div>
          <StorageTable
            title="By course"
            :headers="COURSES"
            :items="storage.courses"
            :megabytes="storage.limits.courseMegabytes"
            empty="No course has a file yet."
          />
          <StorageTable
            title="By person"
            :headers="PEOPLE"
            :items="storage.people"
            :megabytes="storage.limits.personMegabytes"
            empty="Nobody has handed in a file yet."
          />
        </div>
        <aside>
          <form aria-label="Limits" @submit.prevent="save">
            <h2>Limits</h2>
            <v-number-input
              v-model="limits.courseMegabytes"
              label="A course may hold"
              suffix="MB"
              variant="underlined"
              control-variant="hidden"
              :hint="`${sizeInWords(limits.courseMegabytes * MB)}`"
              persistent-hint
              :error-messages="faults.courseMegabytes"
            />
            <v-number-input
              v-model="limits.personMegabytes"
              label="A person may add to a course"
              suffix="MB"
              variant="underlined"
              control-variant="hidden"
              hint="Work that is handed in, answers, files of feedback. What stands in a course’s files counts for the course alone."
              persistent-hint
              :error-messages="faults.personMegabytes"
            />
            <v-btn type="submit" variant="flat" color="primary" :loading="isSaving">Save limits</v-btn>
          </form>
          <h2>Cleared away each day</h2>
          <v-list density="compact" class="cleared">
            <v-list-item v-for="c in cleared" :key="c.id" :title="c.words" :subtitle="c.said" />
          </v-list>
          <p class="soft">Whoever reaches a limit is told how much they have, and how much there may be.</p>
        </aside>
      </div>
    </template>
  </div>
</template>

<style scoped>
.parts {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 320px;
  gap: 24px 56px;
  margin-top: 16px;
}
form {
  display: grid;
  gap: 14px;
  justify-items: start;
  margin-bottom: 28px;
}
form > :deep(.v-input) {
  width: 100%;
}
.cleared {
  background: transparent;
}
.cleared :deep(.v-list-item) {
  padding-inline: 0;
}
@media (max-width: 960px) {
  .parts {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

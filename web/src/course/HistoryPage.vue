<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Bin, BinEntry, BinKind, CourseHistory } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import { call } from '../platform/call.ts';
import { useBusy } from '../platform/useBusy.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** What was deleted and can be put back, and what was done in the course, by whom and when. */
const route = useRoute();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const base = computed(() => ({ courseId: courseId.value }));
const bin = ref<Bin | null>(null);
const history = ref<CourseHistory | null>(null);
const { isBusy, fault, run } = useBusy('The history could not be read. Try again.');

const load = (): Promise<unknown> =>
  run(async () => {
    [bin.value, history.value] = await Promise.all([call(api.getBin, base.value), call(api.getHistory, base.value)]);
  });
onMounted(load);
useFresh(courseId, ['plan', 'talk', 'people'], load);
const readOn = (): Promise<unknown> =>
  run(async () => {
    const { value } = history;
    if (value === null || value.before === null) return;
    const next = await call(api.getHistory, { ...base.value, before: value.before });
    history.value = { acts: [...value.acts, ...next.acts], before: next.before };
  });

const WORDS: { readonly [kind in BinKind]: string } = {
  unit: 'Unit',
  item: 'Item',
  announcement: 'Announcement',
  objective: 'Objective',
  groups: 'Set of groups',
  file: 'File',
  folder: 'Folder',
};
/** Each kind is put back by the endpoint of its own; false where its ripple was seen and it was left. */
const PUT_BACK: { readonly [kind in BinKind]: (id: string, title: string) => Promise<unknown> } = {
  unit: (unitId, title) => call(api.restoreUnit, { ...base.value, unitId }, undefined, title),
  item: (itemId, title) => call(api.restoreItem, { ...base.value, itemId }, undefined, title),
  announcement: (announcementId) => call(api.restoreAnnouncement, { ...base.value, announcementId }),
  objective: (objectiveId) => call(api.restoreObjective, { ...base.value, objectiveId }),
  groups: (setId, title) => call(api.restoreGroupSet, { ...base.value, setId }, undefined, title),
  file: (fileId) => call(api.restoreFiles, base.value, { fileIds: [fileId] }),
  folder: (folderId) => call(api.restoreFolder, { ...base.value, folderId }),
};
async function putBack(entry: BinEntry): Promise<void> {
  try {
    if ((await PUT_BACK[entry.kind](entry.id, `“${entry.title}” is put back`)) === null) return;
    notices.say(`“${entry.title}” is put back.`);
    await load();
  } catch (error) {
    notices.sayFault(error);
  }
}
const when = (at: string): string => dayAndTime(Date.parse(at), course.zone, course.now);
/** What comes back with it, or where it was. */
const about = ({ kind, holds }: BinEntry): string =>
  holds === '' ? '' : kind === 'item' || kind === 'file' ? `in ${holds}` : `with ${holds}`;
</script>

<template>
  <div class="pad">
    <p v-if="fault" class="fault" role="alert">{{ fault }} <ActButton look="act" @click="load">Try again</ActButton></p>
    <template v-if="!bin && !fault"><div v-for="n in 6" :key="n" class="skeleton" style="height: 28px; margin-top: 10px" /></template>
    <template v-if="bin && history">
      <h2>Deleted</h2>
      <p v-if="bin.entries.length === 0" class="soft">
        What is deleted in this course stands here for {{ bin.days }} days, with all it held, and can be put back.
      </p>
      <PlainTable v-else>
        <thead>
          <tr>
            <th>What</th>
            <th>Deleted</th>
            <th>By</th>
            <th><span class="hidden">Put back</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="entry in bin.entries" :key="entry.id">
            <td>
              <b>{{ entry.title }}</b>
              <span class="soft">
                {{ WORDS[entry.kind] }}<template v-if="about(entry)">, {{ about(entry) }}</template></span
              >
            </td>
            <td class="short">{{ when(entry.removedAt) }}</td>
            <td class="short">{{ entry.by }}</td>
            <td class="short">
              <ActButton look="act" :aria-label="`Put back ${entry.title}`" @click="putBack(entry)">Put back</ActButton>
            </td>
          </tr>
        </tbody>
      </PlainTable>
      <h2 class="done">What was done</h2>
      <p class="soft">Each result keeps its own history in the Gradebook, and each text its versions.</p>
      <PlainTable v-if="history.acts.length > 0">
        <thead>
          <tr>
            <th>When</th>
            <th>Who</th>
            <th>What</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="act in history.acts" :key="act.id">
            <td class="short">{{ when(act.at) }}</td>
            <td class="short">{{ act.by }}</td>
            <td class="long">
              {{ act.what }}<template v-if="act.title">: “{{ act.title }}”</template>
            </td>
          </tr>
        </tbody>
      </PlainTable>
      <ActButton v-if="history.before !== null" look="act" :disabled="isBusy" @click="readOn">Earlier</ActButton>
    </template>
  </div>
</template>

<style scoped>
.short {
  white-space: nowrap;
}
.long {
  width: 100%;
}
.done {
  margin-top: 28px;
}
</style>

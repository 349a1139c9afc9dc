<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Announcements, AnnouncementView } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { computed, nextTick, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import DocumentView from '../parts/DocumentView.vue';
import { call } from '../platform/call.ts';
import { isSeenAs } from '../platform/http.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import AnnouncementForm from './AnnouncementForm.vue';
import ActButton from '../parts/ActButton.vue';

const route = useRoute();
const course = useCourse();
const notices = useNotices();
const courseId = computed(() => String(route.params.courseId));
const base = computed(() => ({ courseId: courseId.value }));
const list = ref<Announcements | null>(null);
const fault = ref('');
/** What is being written: a new one, or one that stands. */
const writing = ref<'new' | string | null>(null);

async function load(): Promise<void> {
  try {
    list.value = await call(api.getAnnouncements, base.value);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
/** What is shown is read: a student who opens the page has it before their eyes. */
async function markRead(): Promise<void> {
  if (isSeenAs()) return;
  for (const one of list.value?.announcements ?? [])
    if (!one.isRead && !one.isScheduled) await call(api.readAnnouncement, { ...base.value, announcementId: one.id }).catch(() => undefined);
}
onMounted(async () => {
  await load();
  void markRead();
  if (typeof route.query.of !== 'string') return;
  await nextTick();
  document.getElementById(`news-${route.query.of}`)?.scrollIntoView({ block: 'center' });
});
useFresh(courseId, ['talk', 'plan'], load);
const when = (at: string): string => dayAndTime(Date.parse(at), course.zone, course.now);
function saved(next: Announcements, words: string): void {
  writing.value = null;
  list.value = next;
  notices.say(words);
}
async function remove(one: AnnouncementView): Promise<void> {
  try {
    list.value = await call(api.removeAnnouncement, { ...base.value, announcementId: one.id });
    notices.say(`“${one.title}” is removed.`, async () => {
      list.value = await call(api.restoreAnnouncement, { ...base.value, announcementId: one.id });
    });
  } catch (error) {
    notices.sayFault(error);
  }
}
const shown = computed(() =>
  (list.value?.announcements ?? []).filter(
    (a) => course.sectionId === null || a.sections.length === 0 || a.sections.some((s) => s.id === course.sectionId),
  ),
);
</script>

<template>
  <div class="pad news">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <template v-if="!list && !fault"><div v-for="n in 4" :key="n" class="skeleton" style="height: 60px; margin-bottom: 14px" /></template>
    <p v-if="list?.canWrite && writing === null"><ActButton look="go" @click="writing = 'new'">Announce something</ActButton></p>
    <AnnouncementForm v-if="writing === 'new'" :base="base" :announcement="null" @saved="saved" @leave="writing = null" />
    <p v-if="list && shown.length === 0 && writing === null" class="soft">
      {{
        list.canWrite
          ? 'What you tell the whole course, or a section of it, will stand here: now, or at a time you set.'
          : 'Nothing has been announced yet.'
      }}
    </p>
    <article v-for="a in shown" :id="`news-${a.id}`" :key="a.id" :class="{ unread: !a.isRead && !a.readers }">
      <AnnouncementForm v-if="writing === a.id" :base="base" :announcement="a" @saved="saved" @leave="writing = null" />
      <template v-else>
        <p class="label">
          <span v-if="a.isScheduled" class="straw">to be published {{ when(a.publishAt) }}</span
          ><span v-else>{{ when(a.publishAt) }}</span> · {{ a.author
          }}<template v-if="a.sections.length > 0"> · for {{ a.sections.map((s) => s.title).join(', ') }}</template
          ><template v-if="a.readers && !a.isScheduled"> · read by {{ a.readers.read }} of {{ a.readers.of }}</template>
        </p>
        <h2>{{ a.title }}</h2>
        <DocumentView :document="a.document" />
        <p v-if="list?.canWrite" class="acts">
          <ActButton look="act" :aria-label="`Change ${a.title}`" @click="writing = a.id">change</ActButton>
          <ActButton look="act" :aria-label="`Remove ${a.title}`" @click="remove(a)">Remove</ActButton>
        </p>
      </template>
    </article>
  </div>
</template>

<style scoped>
.news {
  max-width: 760px;
  width: 100%;
  margin: 0 auto;
  box-sizing: border-box;
}
article {
  border-top: 1px solid var(--frost);
  padding: 14px 0 8px;
  margin-top: 10px;
}
article.unread h2 {
  font-weight: 650;
}
h2 {
  margin-bottom: 6px;
}
.acts {
  display: flex;
  gap: 18px;
}
</style>

<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { CourseLife } from '@rosemary/api';
import { countOf } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useSession } from '../stores/sessionStore.ts';

/** How a course is closed to its students, archived, and deleted; each with its way back. */
const props = defineProps<{ courseId: string }>();
const course = useCourse();
const session = useSession();
const notices = useNotices();
const router = useRouter();
const base = computed(() => ({ courseId: props.courseId }));
const life = ref<CourseLife | null>(null);
const fault = ref('');
onMounted(async () => {
  try {
    life.value = await call(api.getCourseLife, base.value);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
async function set(change: () => Promise<CourseLife>, words: string, back: () => Promise<void>): Promise<void> {
  try {
    life.value = await change();
    notices.say(words, back);
    await Promise.all([course.load(props.courseId), session.load()]);
  } catch (error) {
    notices.sayFault(error);
  }
}
const open = (): Promise<void> =>
  set(
    async () => {
      await call(api.openCourse, base.value);
      return call(api.getCourseLife, base.value);
    },
    'The course is open to its students.',
    close,
  );
const close = (): Promise<void> =>
  set(() => call(api.closeCourse, base.value), 'The course is closed to its students. Whoever teaches goes on as before.', open);
const archive = (): Promise<void> =>
  set(() => call(api.archiveCourse, base.value), 'The course is archived: it is read, and nothing in it is changed any more.', unarchive);
const unarchive = (): Promise<void> =>
  set(() => call(api.unarchiveCourse, base.value), 'The course is back from the archive, and can be changed again.', archive);
/** Deleting leads away from the course, so it is asked for twice. */
const isAsked = ref(false);
const whyKept = computed(() =>
  (life.value?.students ?? 0) > 0 && session.me?.person?.isAdministrator !== true
    ? `It has ${countOf(life.value?.students ?? 0, 'student')}, so only an administrator of the school can delete it.`
    : '',
);
async function remove(): Promise<void> {
  try {
    await call(api.removeCourse, base.value);
    await session.load();
    notices.say('The course is deleted. An administrator of the school can put it back.');
    await router.push('/');
  } catch (error) {
    isAsked.value = false;
    notices.sayFault(error);
  }
}
</script>

<template>
  <section aria-label="The end of the course">
    <h2>Open, closed, archived</h2>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div v-if="!life && !fault" class="skeleton" style="height: 60px" />
    <template v-if="life">
      <p>
        {{ life.isOpen ? 'Open: its students reach it.' : 'Closed: only those who teach it reach it.' }}
        <template v-if="!life.isArchived">
          <ActButton v-if="life.isOpen" look="act" @click="close">Close to students</ActButton>
          <router-link v-else class="act" :to="{ name: 'check', params: base }">Check what students would see, and open it</router-link>
        </template>
      </p>
      <p>
        {{
          life.isArchived ? 'Archived: it can be read, and nothing in it is changed.' : 'Running: it stands on the Desk and can be changed.'
        }}
        <ActButton v-if="life.isArchived" look="act" @click="unarchive">Bring back from the archive</ActButton>
        <ActButton v-else look="act" @click="archive">Archive</ActButton>
      </p>
      <p v-if="whyKept" class="soft">{{ whyKept }} Archiving takes it from everybody’s Desk.</p>
      <p v-else-if="isAsked">
        Nobody reaches a deleted course any more; an administrator of the school can put it back.
        <ActButton look="quiet" @click="remove">Delete the course</ActButton>
        <ActButton look="act" @click="isAsked = false">Keep it</ActButton>
      </p>
      <p v-else><ActButton look="act" @click="isAsked = true">Delete the course…</ActButton></p>
    </template>
  </section>
</template>

<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { call } from '../platform/call.ts';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useCourse } from '../stores/courseStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useTouched } from '../stores/touchedStore.ts';
import FloatMenu from '../parts/FloatMenu.vue';
import { moreOf, rowOf, viewOf, wordOf } from './views.ts';
import ActButton from '../parts/ActButton.vue';
import { LOCALE } from '@rosemary/core';

const TouchedDialog = defineAsyncComponent(() => import('./TouchedDialog.vue'));
const touched = useTouched();
// Drawn when the page is there: what draws it is not small, and its place is kept.
const CourseLine = defineAsyncComponent(() => import('./CourseLine.vue'));
const course = useCourse();
const session = useSession();
const notices = useNotices();
const route = useRoute();
const router = useRouter();
const fault = ref('');
const courseId = computed(() => String(route.params.courseId));
// Until the course has come, one's own list of courses says in which role one is in it.
const role = computed(() =>
  course.head?.id === courseId.value
    ? course.head.role
    : session.seeAs !== null
      ? 'student'
      : (session.me?.courses.find((c) => c.id === courseId.value)?.role ?? 'student'),
);
const isStudent = computed(() => role.value === 'student');
const current = computed(() => viewOf(String(route.name), isStudent.value));
const views = computed(() => rowOf(isStudent.value));
const more = computed(() => moreOf(role.value));
/** A view that is not of every day stands at the end of the row while it is open. */
const other = computed(() => (views.value.some(([name]) => name === current.value) ? null : current.value));
const total = computed(() => course.head?.sections.reduce((sum, s) => sum + s.students, 0) ?? 0);
const hasLine = computed(() => !['policy', 'study-item', 'settings', 'exchange', 'groups'].includes(String(route.name)));

async function load(): Promise<void> {
  try {
    fault.value = '';
    await course.load(courseId.value);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
watch(courseId, load, { immediate: true });

async function leave(): Promise<void> {
  session.leaveSeeAs();
  await load();
  await router.push({ name: 'plan', params: { courseId: courseId.value } });
}
/** In the zone of whoever looks, as their own clock shows it. */
const clockTime = (at: string): string => new Date(at).toLocaleTimeString(LOCALE, { hour: '2-digit', minute: '2-digit' });
async function endLook(): Promise<void> {
  try {
    await call(api.endLook, { id: courseId.value });
    await router.push({ name: 'school' });
  } catch (error) {
    notices.sayFault(error);
  }
}
function openItem(id: string): void {
  void router.push(
    isStudent.value ? { name: 'study-item', params: { courseId: courseId.value, itemId: id } } : { name: 'plan', query: { item: id } },
  );
}
</script>

<template>
  <div v-if="fault" class="pad">
    <h1>This course cannot be opened</h1>
    <p class="soft">{{ fault }}</p>
  </div>
  <div v-else class="frame">
    <TouchedDialog v-if="touched.touched" />
    <div v-if="course.head?.seenAs" class="seen" role="status">
      You see this course as <b>{{ course.head.seenAs }}</b> does{{
        session.seeAs?.on
          ? `, on ${new Date(session.seeAs.on).toLocaleDateString(LOCALE, { weekday: 'long', day: 'numeric', month: 'long' })}`
          : ''
      }}. Nothing can be changed here. <ActButton look="act" @click="leave">Back to teaching</ActButton>
    </div>
    <div v-if="course.head?.looksUntil" class="seen" role="status">
      You look into this course as an administrator until {{ clockTime(course.head.looksUntil) }}. Nothing in it can be changed, and its
      history says that you looked. <ActButton look="act" @click="endLook">End the look</ActButton>
    </div>
    <div class="head no-print">
      <div class="row">
        <h1>{{ course.head?.title ?? ' ' }}</h1>
        <span class="soft">{{ course.head?.about }}</span>
        <span v-if="course.head?.isArchived" class="clay">archived: nothing in it is changed</span>
        <span v-else-if="course.head && !course.head.isOpen && !isStudent" class="clay"
          >Closed to students: none of them sees it.
          <router-link v-if="course.head.role === 'instructor'" :to="{ name: 'check', params: { courseId } }"
            >Check and open it</router-link
          ></span
        >
        <div v-if="course.head && course.head.sections.length > 0" class="chips" role="group" aria-label="Section">
          <ActButton
            :class="['chip', { on: course.sectionId === null }]"
            :aria-pressed="course.sectionId === null"
            @click="course.sectionId = null"
          >
            All {{ total }}
          </ActButton>
          <ActButton
            v-for="s in course.head.sections"
            :key="s.id"
            :class="['chip', { on: course.sectionId === s.id }]"
            :aria-pressed="course.sectionId === s.id"
            @click="course.sectionId = s.id"
          >
            {{ s.title }}{{ course.sectionId === s.id ? ` ${s.students}` : '' }}
          </ActButton>
        </div>
      </div>
      <div v-if="hasLine" class="line">
        <CourseLine v-if="course.head" :head="course.head" :is-choosable="!isStudent" @open="openItem" />
      </div>
    </div>
    <nav class="views no-print" aria-label="Views">
      <router-link
        v-for="[name, word] in views"
        :key="name"
        :to="{ name, params: { courseId } }"
        :class="{ on: name === current }"
        :aria-current="name === current ? 'page' : undefined"
        >{{ word }}<em v-if="name === 'marking' && course.head && course.head.toMark > 0">{{ course.head.toMark }}</em></router-link
      >
      <router-link v-if="other && course.head" :to="{ name: other, params: { courseId } }" class="on" aria-current="page">{{
        wordOf(other)
      }}</router-link>
      <FloatMenu v-if="course.head && more.length > 0" location="bottom start">
        <template #activator="{ props }"><ActButton v-bind="props" class="more">More ▾</ActButton></template>
        <div class="sheet menu">
          <router-link v-for="[name, word] in more" :key="name" :to="{ name, params: { courseId } }" :class="{ on: name === current }">{{
            word
          }}</router-link>
        </div>
      </FloatMenu>
    </nav>
    <div class="page"><router-view v-if="course.head?.id === courseId" :key="courseId + (session.seeAs?.enrolmentId ?? '')" /></div>
  </div>
</template>

<style scoped>
.frame {
  display: flex;
  flex-direction: column;
  min-height: calc(100vh - 48px);
}
.page {
  flex: 1;
  display: flex;
  flex-direction: column;
}
.seen {
  background: var(--bloom-wash);
  padding: 6px 20px;
  border-bottom: 1px solid var(--frost);
}
.head {
  padding: 14px 20px 0;
  background: var(--paper);
}
.row {
  display: flex;
  align-items: baseline;
  gap: 14px;
  min-height: 30px;
  flex-wrap: wrap;
}
.line {
  margin-top: 6px;
  height: 76px;
}
.chips {
  margin-left: auto;
  display: flex;
  gap: 4px;
}
.views {
  display: flex;
  gap: 26px;
  padding: 2px 20px 0;
  background: var(--paper);
  border-bottom: 1px solid var(--frost);
  font-size: 15px;
}
.views a {
  padding: 7px 0 8px;
  color: var(--soft);
}
.more {
  padding: 7px 0 8px;
  color: var(--soft);
}
.more:hover,
.views a:hover {
  color: var(--ink);
  text-decoration: none;
}
.views a.on {
  color: var(--ink);
  font-weight: 600;
  box-shadow: inset 0 -2px var(--needle);
}
.views em {
  font-style: normal;
  color: var(--clay);
  padding-left: 4px;
  font-weight: 400;
}
@media (max-width: 600px) {
  .head {
    padding: 10px 16px 0;
  }
  .line {
    display: none;
  }
  .views {
    padding: 2px 16px 0;
    gap: 0 18px;
    flex-wrap: wrap;
  }
  .more,
  .views a {
    padding: 5px 0 6px;
  }
}
</style>

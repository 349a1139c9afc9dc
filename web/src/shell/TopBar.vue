<script setup lang="ts">
import { computed, defineAsyncComponent, h } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import NoticesMenu from './NoticesMenu.vue';
import UnsavedMenu from './UnsavedMenu.vue';
import { useSession } from '../stores/sessionStore.ts';
import { startSending } from '../platform/unsaved.ts';
import { moreOf, rowOf, viewOf, wordOf } from './views.ts';
import ActButton from '../parts/ActButton.vue';
import FloatMenu from '../parts/FloatMenu.vue';

const FindField = defineAsyncComponent({
  loader: () => import('./FindField.vue'),
  // Its place, so that nothing moves when it comes.
  loadingComponent: () => h('span', { class: 'find-waits' }),
  delay: 0,
});
startSending();
const session = useSession();
const course = useCourse();
const notices = useNotices();
const route = useRoute();
const router = useRouter();

const inCourse = computed(
  () => typeof route.params.courseId === 'string' && course.head !== null && course.head.id === route.params.courseId,
);
const seesAsStudent = computed(() => course.head?.role === 'student');
const views = computed(() => [rowOf(seesAsStudent.value), moreOf(course.head?.role ?? 'student')]);
const view = computed(() => viewOf(String(route.name), seesAsStudent.value));
const place = computed(() => (view.value === null ? wordOf(String(route.name)) : ''));
const homeOf = (role: string): string => (role === 'student' ? 'study' : 'plan');

async function signOut(): Promise<void> {
  try {
    await session.signOut();
    await router.push({ name: 'sign-in' });
  } catch (error) {
    notices.sayFault(error);
  }
}
</script>

<template>
  <header class="bar no-print">
    <router-link to="/" class="name" aria-label="Rosemary, to your Desk"
      ><img src="/sprig.svg" alt="" width="20" height="26" />Rosemary</router-link
    >
    <nav class="place" aria-label="Place">
      <span class="dot">·</span>
      <span v-if="place">{{ place }}</span>
      <template v-if="inCourse && course.head">
        <FloatMenu>
          <template #activator="{ props }"
            ><ActButton v-bind="props" look="act" class="here">{{ course.head.shortTitle }} ▾</ActButton></template
          >
          <div class="sheet menu">
            <router-link
              v-for="c in [...(session.me?.courses ?? [])].sort((a, b) => Number(a.isArchived) - Number(b.isArchived))"
              :key="c.id"
              :to="`/courses/${c.id}/${homeOf(c.role)}`"
              :class="{ on: c.id === course.head.id }"
              >{{ c.shortTitle }} <span class="soft">{{ c.code }}{{ c.isArchived ? ', archived' : '' }}</span></router-link
            >
            <hr />
            <router-link to="/">{{ session.isStaff ? 'Desk' : 'This week' }}</router-link>
          </div>
        </FloatMenu>
        <span class="dot">/</span>
        <FloatMenu>
          <template #activator="{ props }"
            ><ActButton v-bind="props" look="act" class="here">{{ wordOf(view ?? '') }} ▾</ActButton></template
          >
          <div class="sheet menu">
            <template v-for="(list, n) in views" :key="n">
              <hr v-if="n > 0" />
              <router-link
                v-for="[name, word] in list"
                :key="name"
                :to="{ name, params: { courseId: course.head.id } }"
                :class="{ on: name === view }"
                >{{ word }}</router-link
              >
            </template>
          </div>
        </FloatMenu>
      </template>
    </nav>
    <FindField />
    <UnsavedMenu />
    <NoticesMenu />
    <FloatMenu>
      <template #activator="{ props }"
        ><ActButton v-bind="props" look="act" class="here who">
          {{ session.me?.person?.givenName }} {{ session.me?.person?.familyName }}
        </ActButton></template
      >
      <div class="sheet menu">
        <router-link v-if="session.isStaff" to="/">Desk</router-link>
        <router-link v-if="session.me?.courses.some((c) => c.role === 'student')" to="/this-week">This week</router-link>
        <router-link to="/calendar">Calendar</router-link>
        <router-link v-if="session.me?.person?.isAdministrator" to="/school">School</router-link>
        <router-link to="/account">Your account</router-link>
        <ActButton @click="session.switchTheme()">{{ session.theme === 'light' ? 'Dark' : 'Light' }} page</ActButton>
        <hr />
        <ActButton @click="signOut">Sign out</ActButton>
      </div>
    </FloatMenu>
  </header>
</template>

<style scoped>
.bar {
  height: 48px;
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 20px;
  background: var(--paper);
  border-bottom: 1px solid var(--frost);
}
.name {
  font: 500 18px var(--serif);
  color: var(--needle);
  display: flex;
  align-items: center;
  gap: 8px;
}
.name:hover {
  text-decoration: none;
}
.place {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.dot {
  color: var(--soft);
  padding: 0 6px;
}
.here {
  color: var(--ink);
}
.who {
  white-space: nowrap;
}
@media (max-width: 600px) {
  .bar {
    padding: 0 12px;
    gap: 8px;
  }
  .name {
    font-size: 0;
    gap: 0;
  }
  .who {
    max-width: 96px;
    overflow: hidden;
    text-overflow: ellipsis;
    margin-left: auto;
  }
  .dot {
    padding: 0 3px;
  }
}
</style>

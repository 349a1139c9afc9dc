<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { defineAsyncComponent, h, ref, watch, watchEffect } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useTheme } from 'vuetify';
import { useNotices } from '../stores/noticeStore.ts';
import { useRipple } from '../stores/rippleStore.ts';
import { useRunning } from '../stores/runningStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import ActButton from '../parts/ActButton.vue';
import { pageSubject } from '../platform/usePageTitle.ts';
import { useCourse } from '../stores/courseStore.ts';
import { tabTitle } from './views.ts';

/** Wherever a change that moves grades was made, its ripple is shown here. */
const RippleDialog = defineAsyncComponent(() => import('./RippleDialog.vue'));
const ripple = useRipple();
// Whoever takes a quiz sees none of these, and waits for none.
const TopBar = defineAsyncComponent({
  loader: () => import('./TopBar.vue'),
  // Its place, so that nothing moves when it comes.
  loadingComponent: () => h('div', { style: 'height: 48px' }),
  delay: 0,
});
const SignInAgain = defineAsyncComponent(() => import('./SignInAgain.vue'));
const NoticeBar = defineAsyncComponent(() => import('./NoticeBar.vue'));
const RunningDialog = defineAsyncComponent(() => import('./RunningDialog.vue'));
const running = useRunning();
const session = useSession();
const notices = useNotices();
const route = useRoute();
const router = useRouter();
const theme = useTheme();
const course = useCourse();
const subject = pageSubject();
watchEffect(() => {
  const head = course.head?.id === route.params.courseId ? course.head : null;
  document.title = tabTitle(String(route.name ?? ''), head?.shortTitle ?? null, subject.value?.title ?? null);
});
const fault = ref('');
const isReady = ref(false);
/** Once there was something to say, its bar stays, so that it goes as it came. */
const hasNotice = ref(false);
watch(
  () => notices.notice,
  () => {
    hasNotice.value = true;
  },
);

watch(
  () => session.theme,
  (name) => {
    theme.change(name);
  },
  { immediate: true },
);

router.beforeEach(async (to) => {
  if (session.me === null) {
    try {
      await session.load();
    } catch (error) {
      fault.value = error instanceof Error ? error.message : '';
      isReady.value = true;
      return false;
    }
  }
  if (session.me?.person === null && !['sign-in', 'about', 'welcome'].includes(String(to.name)))
    return { name: 'sign-in', query: to.path === '/' ? {} : { to: to.fullPath } };
  if (session.me?.person && to.name === 'desk' && !session.isStaff)
    return session.me.person.isAdministrator ? { name: 'school' } : { name: 'this-week' };
  return true;
});

router.afterEach((to, from) => {
  // Until then the shape of a page stands there.
  isReady.value = true;
  if (to.name !== from.name || to.params.courseId !== from.params.courseId) notices.forget();
});
/** Ctrl Z takes back the last act of the view, Ctrl Shift Z does it again; in a text it takes back what was typed, as everywhere. */
function onKey(event: KeyboardEvent): void {
  const target = event.target as HTMLElement;
  const isTyped = target instanceof HTMLInputElement && !['checkbox', 'radio'].includes(target.type);
  const isText = target.isContentEditable || isTyped || target instanceof HTMLTextAreaElement;
  const isMeant = (event.ctrlKey || event.metaKey) && !event.altKey && !isText && !event.defaultPrevented;
  const key = event.key.toLowerCase();
  const isRedo = isMeant && ((event.shiftKey && key === 'z') || (!event.shiftKey && key === 'y')) && notices.future.length > 0;
  const isUndo = isMeant && !event.shiftKey && key === 'z' && notices.past.length > 0;
  if (!isUndo && !isRedo) return;
  event.preventDefault();
  void (isRedo ? notices.doAgain() : notices.takeBack());
}
useEventListener(document, 'keydown', onKey);

const again = (): void => {
  location.reload();
};
</script>

<template>
  <v-app>
    <a href="#page" class="hidden">To the page</a>
    <TopBar v-if="session.me?.person && route.name !== 'sign-in' && route.name !== 'taking'" />
    <main id="page" tabindex="-1">
      <router-view v-if="isReady && fault === ''" />
      <div v-else-if="fault !== ''" class="pad">
        <h2>Rosemary does not answer</h2>
        <p class="soft">{{ fault }}</p>
        <ActButton look="go" style="margin-top: 12px" @click="again">Try again</ActButton>
      </div>
      <div v-else class="coming-page" role="status" aria-label="Loading">
        <div v-for="n in 5" :key="n" class="skeleton" />
      </div>
    </main>
    <RippleDialog v-if="ripple.answer" />
    <RunningDialog v-if="running.asked" />
    <SignInAgain v-if="session.asksAgain" />
    <NoticeBar v-if="hasNotice" />
  </v-app>
</template>

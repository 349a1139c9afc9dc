<script setup lang="ts">
import { defineAsyncComponent, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useTheme } from 'vuetify';
import { useNotices } from '../stores/noticeStore.ts';
import { useRipple } from '../stores/rippleStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import SignInAgain from './SignInAgain.vue';
import TopBar from './TopBar.vue';

/** Wherever a change that moves grades was made, its ripple is shown here. */
const RippleDialog = defineAsyncComponent(() => import('./RippleDialog.vue'));
const ripple = useRipple();
const session = useSession();
const notices = useNotices();
const route = useRoute();
const router = useRouter();
const theme = useTheme();
const fault = ref('');
const isReady = ref(false);

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
  isReady.value = true;
  if (session.me?.person === null && !['sign-in', 'about', 'welcome'].includes(String(to.name)))
    return { name: 'sign-in', query: to.path === '/' ? {} : { to: to.fullPath } };
  if (session.me?.person && to.name === 'desk' && !session.isStaff)
    return session.me.person.isAdministrator ? { name: 'school' } : { name: 'this-week' };
  return true;
});

async function undo(): Promise<void> {
  const what = notices.notice?.undo;
  notices.clear();
  try {
    await what?.();
  } catch (error) {
    notices.sayFault(error);
  }
}
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
        <button class="go" style="margin-top: 12px" @click="again">Try again</button>
      </div>
    </main>
    <RippleDialog v-if="ripple.answer" />
    <SignInAgain v-if="session.asksAgain" />
    <v-snackbar
      :key="notices.notice?.id"
      :model-value="notices.notice !== null"
      :color="notices.notice?.isFault ? 'error' : undefined"
      :timeout="notices.notice?.isFault ? 12000 : 9000"
      @update:model-value="notices.clear()"
    >
      <span role="status">{{ notices.notice?.text }}</span>
      <template #actions>
        <button v-if="notices.notice?.undo" class="quiet" style="color: inherit; text-decoration: underline" @click="undo">Undo</button>
        <button class="quiet" style="color: inherit" @click="notices.clear()">Close</button>
      </template>
    </v-snackbar>
  </v-app>
</template>

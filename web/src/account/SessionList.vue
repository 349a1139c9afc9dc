<script setup lang="ts">
import type { OwnSession } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { dayAndTime } from '@rosemary/core';
import { onMounted, ref } from 'vue';
import { call } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';

/** Where somebody is signed in, and a way to be signed out everywhere else. */
const notices = useNotices();
const sessions = ref<readonly OwnSession[] | null>(null);
const fault = ref('');
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
const at = (text: string): string => dayAndTime(Date.parse(text), zone, Date.now());

async function load(): Promise<void> {
  try {
    sessions.value = (await call(api.listOwnSessions, {})).sessions;
    fault.value = '';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);

async function endOthers(): Promise<void> {
  try {
    const done = await call(api.endOtherSessions, {});
    sessions.value = done.sessions;
    notices.say(done.ended === 1 ? 'One other place is signed out.' : `${done.ended} other places are signed out.`);
  } catch (error) {
    notices.sayFault(error);
  }
}
</script>

<template>
  <section aria-label="Where you are signed in">
    <h2>Where you are signed in</h2>
    <p v-if="fault" class="fault" role="alert">{{ fault }} <v-btn variant="text" @click="load">Try again</v-btn></p>
    <v-skeleton-loader v-else-if="sessions === null" type="list-item-two-line" />
    <template v-else>
      <v-list lines="two" class="list">
        <v-list-item v-for="one in sessions" :key="one.id" :title="one.isThis ? `${one.browser}: here, now` : one.browser">
          <template #subtitle>
            {{ one.begunAt === null ? 'since an earlier day' : `since ${at(one.begunAt)}`
            }}{{ one.network === '' ? '' : `, from ${one.network}` }}; ends {{ at(one.endsAt) }} unless it is used until then
          </template>
        </v-list-item>
      </v-list>
      <v-btn v-if="sessions.length > 1" variant="outlined" @click="endOthers">{{
        sessions.length === 2 ? 'Sign out the other place' : `Sign out the other ${sessions.length - 1} places`
      }}</v-btn>
      <p v-else class="soft">You are signed in nowhere else.</p>
      <p class="soft">Each sign-in ends a day after it began, even when it is in use: then the password is asked for again.</p>
    </template>
  </section>
</template>

<style scoped>
.list {
  background: transparent;
}
.list :deep(.v-list-item) {
  padding-inline: 0;
}
</style>

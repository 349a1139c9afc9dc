<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ActivitySetting } from '@rosemary/api';
import { countOf, DOING_WORDS, DOINGS } from '@rosemary/core';
import { onMounted, ref } from 'vue';
import { call } from '../platform/call.ts';
import { useSession } from '../stores/sessionStore.ts';
import PasswordForm from './PasswordForm.vue';
import SessionList from './SessionList.vue';

/** What belongs to a person and to no course: their password, and where they are signed in. */
const session = useSession();
const activity = ref<ActivitySetting | null>(null);
onMounted(async () => {
  activity.value = await call(api.getActivitySetting, {}).catch(() => null);
});
</script>

<template>
  <div class="page account">
    <h1>Your account</h1>
    <p class="soft">
      {{ session.me?.person?.givenName }} {{ session.me?.person?.familyName }}, {{ session.me?.person?.email }}. The school keeps your name
      and email.
    </p>
    <div class="parts">
      <SessionList />
      <PasswordForm />
    </div>
    <section v-if="activity" class="recorded">
      <h2>What is recorded of you</h2>
      <p>
        As a student, what you do in a course is noted by day and item:
        <template v-for="(doing, n) in DOINGS" :key="doing">{{ n === 0 ? '' : '; ' }}{{ DOING_WORDS[doing] }}</template
        >. Those who teach the course see it. It is kept for {{ countOf(activity.months, 'month') }}; after that only when you opened an
        item first and last stays. What you hand in, write and are given is kept with the course.
      </p>
    </section>
  </div>
</template>

<style scoped>
.account {
  max-width: 1160px;
  margin: 0 auto;
  padding: 28px 20px 60px;
}
.parts {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 400px;
  gap: 24px 64px;
  margin-top: 24px;
}
.recorded {
  max-width: 720px;
  margin-top: 32px;
}
@media (max-width: 860px) {
  .parts {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

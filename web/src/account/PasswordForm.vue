<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { ref } from 'vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';

const notices = useNotices();
const current = ref('');
const next = ref('');
const faults = ref<{ readonly current?: string; readonly next?: string }>({});
const isSaving = ref(false);

async function save(): Promise<void> {
  isSaving.value = true;
  faults.value = {};
  try {
    await call(api.changePassword, {}, { current: current.value, next: next.value });
    current.value = '';
    next.value = '';
    notices.say('Your password is changed, and every other place you were signed in is signed out.');
  } catch (error) {
    const words = error instanceof Error ? error.message : 'Not changed.';
    faults.value = error instanceof HttpProblem && error.field('next') !== null ? { next: words } : { current: words };
  } finally {
    isSaving.value = false;
  }
}
</script>

<template>
  <v-form class="form" aria-label="Your password" @submit.prevent="save">
    <h2>Your password</h2>
    <v-text-field
      v-model="current"
      label="Present password"
      variant="underlined"
      density="comfortable"
      hide-details="auto"
      type="password"
      autocomplete="current-password"
      :error-messages="faults.current"
      required
    />
    <v-text-field
      v-model="next"
      label="New password"
      variant="underlined"
      density="comfortable"
      hide-details="auto"
      type="password"
      autocomplete="new-password"
      hint="At least 10 characters, and none of those that are tried first. Four words that have nothing to do with one another are good."
      persistent-hint
      :minlength="10"
      :error-messages="faults.next"
      required
    />
    <v-btn class="change" type="submit" color="primary" :loading="isSaving">Change the password</v-btn>
  </v-form>
</template>

<style scoped>
.form :deep(*) {
  letter-spacing: normal;
}
h2 {
  margin-bottom: 12px;
}
.change {
  margin-top: 14px;
}
</style>

<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { ref } from 'vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useNotices } from '../stores/noticeStore.ts';
const notices = useNotices();
const current = ref('');
const next = ref('');
const fault = ref('');
async function save(): Promise<void> {
  try {
    await call(api.changePassword, {}, { current: current.value, next: next.value });
    current.value = '';
    next.value = '';
    fault.value = '';
    notices.say('Your password is changed.');
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not changed.';
  }
}
</script>

<template>
  <form style="padding-top: 18px" @submit.prevent="save">
    <h3 style="font-size: 15px; margin-bottom: 8px">Change your own password</h3>
    <label class="field"
      ><span class="label">Present password</span
      ><input v-model="current" class="line-input" type="password" autocomplete="current-password" required /></label
    ><label class="field"
      ><span class="label">New password, at least 10 characters</span
      ><input v-model="next" class="line-input" type="password" minlength="10" autocomplete="new-password" required
    /></label>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <button class="quiet">Change it</button>
  </form>
</template>

<script setup lang="ts">
import { ref } from 'vue';
import { useSession } from '../stores/sessionStore.ts';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';

const session = useSession();
const password = ref('');
const fault = ref('');
async function submit(): Promise<void> {
  try {
    fault.value = '';
    await session.signIn(session.me?.person?.email ?? '', password.value);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
async function demo(): Promise<void> {
  try {
    await session.signInDemo(session.me?.person?.id ?? '');
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
</script>

<template>
  <v-dialog :model-value="true" persistent>
    <form class="sheet pad" @submit.prevent="submit">
      <h2>Sign in again</h2>
      <p class="soft">Your session has ended. What you typed is still on this page and is saved once you are back.</p>
      <label class="field" style="margin-top: 14px"
        ><span class="label">Password of {{ session.me?.person?.email }}</span
        ><LineField v-model="password" type="password" autocomplete="current-password" takes-focus
      /></label>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <ActButton type="submit" look="go">Sign in</ActButton>
      <ActButton v-if="session.me?.isDemo" look="quiet" @click="demo"> As {{ session.me?.person?.givenName }}, in the demo </ActButton>
    </form>
  </v-dialog>
</template>

<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { Welcome } from '@rosemary/api';
import { onMounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useSession } from '../stores/sessionStore.ts';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';

/** Where someone invited by the school sets their first password. */
const route = useRoute();
const router = useRouter();
const session = useSession();
const who = ref<Welcome | null>(null);
const password = ref('');
const closed = ref('');
const fault = ref('');
onMounted(async () => {
  try {
    who.value = await call(api.getWelcome, { token: String(route.params.token) });
  } catch (error) {
    closed.value = error instanceof HttpProblem ? error.message : 'This way in could not be opened. Try again.';
  }
});
async function set(): Promise<void> {
  fault.value = '';
  try {
    await call(api.setFirstPassword, { token: String(route.params.token) }, { password: password.value });
    await session.load();
    await router.push('/');
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved. Try again.';
  }
}
</script>

<template>
  <div class="pad welcome">
    <template v-if="closed">
      <h1>This way in is closed</h1>
      <p role="alert">{{ closed }}</p>
      <p><router-link :to="{ name: 'sign-in' }">To the sign-in</router-link></p>
    </template>
    <div v-else-if="!who" class="skeleton" style="height: 120px" />
    <form v-else @submit.prevent="set">
      <h1>Welcome, {{ who.givenName }}</h1>
      <p class="soft">You sign in with your email and the password you set here.</p>
      <label class="field"
        ><span class="label">Email</span><LineField :model-value="who.email" name="username" autocomplete="username" readonly
      /></label>
      <label class="field"
        ><span class="label">Password, at least 10 characters</span
        ><LineField v-model="password" type="password" minlength="10" maxlength="200" autocomplete="new-password" required takes-focus
      /></label>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <p><ActButton type="submit" look="go">Set it and go in</ActButton></p>
    </form>
  </div>
</template>

<style scoped>
.field {
  display: block;
  margin: 16px 0 12px;
}
.welcome {
  max-width: 420px;
  margin: 0 auto;
  padding-top: 48px;
}
</style>

<script setup lang="ts">
import { ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { HttpProblem } from '../platform/http.ts';
import { useSession } from '../stores/sessionStore.ts';
import ActButton from '../parts/ActButton.vue';
import LineField from '../parts/fields/LineField.vue';

const session = useSession();
const route = useRoute();
const router = useRouter();
const email = ref('');
const password = ref('');
const fault = ref('');
const isBusy = ref(false);

async function enter(how: () => Promise<void>): Promise<void> {
  isBusy.value = true;
  try {
    fault.value = '';
    await how();
    await router.push(typeof route.query.to === 'string' && route.query.to.startsWith('/') ? route.query.to : '/');
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'The server does not answer. Try again.';
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <div class="page">
    <div class="paper">
      <div class="name"><img src="/sprig.svg" alt="" width="26" height="34" />Rosemary</div>
      <p class="soft">{{ session.me?.school }}</p>
      <form @submit.prevent="enter(() => session.signIn(email, password))">
        <label class="field"
          ><span class="label">Email</span><LineField v-model="email" type="email" autocomplete="username" required
        /></label>
        <label class="field"
          ><span class="label">Password</span><LineField v-model="password" type="password" autocomplete="current-password" required
        /></label>
        <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
        <ActButton type="submit" look="go" :disabled="isBusy">Sign in</ActButton>
      </form>
    </div>
    <div v-if="session.me?.isDemo" class="demo">
      <h2>The demo’s people</h2>
      <p class="soft">An invented school of watchmaking. One click signs in; nothing here is real.</p>
      <ul>
        <li v-for="p in session.me.demoPeople" :key="p.id">
          <ActButton look="act" :disabled="isBusy" @click="enter(() => session.signInDemo(p.id))">
            {{ p.givenName }} {{ p.familyName }}
          </ActButton>
          <span class="soft">{{ p.what }}</span>
        </li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.page {
  display: flex;
  justify-content: center;
  gap: 64px;
  padding: 12vh 24px 40px;
  flex-wrap: wrap;
}
.paper {
  width: 320px;
}
.name {
  font: 500 28px/40px var(--serif);
  color: var(--needle);
  display: flex;
  gap: 12px;
  align-items: center;
}
form {
  margin-top: 26px;
}
.demo {
  width: 400px;
  border-left: 1px solid var(--frost);
  padding-left: 40px;
}
.demo ul {
  list-style: none;
  padding: 0;
  margin: 14px 0 0;
}
.demo li {
  padding: 6px 0;
  border-top: 1px solid var(--frost);
  display: flex;
  justify-content: space-between;
}
@media (max-width: 820px) {
  .demo {
    border-left: 0;
    padding-left: 0;
    width: 320px;
  }
  .page {
    padding-top: 32px;
    gap: 32px;
  }
}
</style>

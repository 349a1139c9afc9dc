<script setup lang="ts">
import { useSession } from '../stores/sessionStore.ts';
import PasswordForm from './PasswordForm.vue';
import SessionList from './SessionList.vue';

/** What belongs to a person and to no course: their password, and where they are signed in. */
const session = useSession();
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
@media (max-width: 860px) {
  .parts {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

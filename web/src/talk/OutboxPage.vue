<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { OutboxMail } from '@rosemary/api';
import { DateTime } from 'luxon';
import { onMounted, ref } from 'vue';
import { call } from '../platform/call.ts';
import FoldOut from '../parts/FoldOut.vue';
import { LOCALE } from '@rosemary/core';

const mails = ref<readonly OutboxMail[] | null>(null);
const fault = ref('');
onMounted(async () => {
  try {
    mails.value = (await call(api.getOutbox, {})).mails;
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
});
const when = (at: string): string => DateTime.fromISO(at).setLocale(LOCALE).toFormat('ccc d LLL HH:mm');
</script>

<template>
  <div class="pad">
    <h1>Outbox</h1>
    <p class="soft">What would be mailed. Nothing leaves this machine: this list stands in for the post.</p>
    <p v-if="fault" class="fault">{{ fault }}</p>
    <template v-if="!mails && !fault"><div v-for="n in 5" :key="n" class="skeleton" style="height: 40px; margin-top: 12px" /></template>
    <p v-if="mails?.length === 0">Nothing has been mailed yet.</p>
    <FoldOut v-for="m in mails ?? []" :key="m.id">
      <template #summary>
        {{ m.subject }} <span class="label">to {{ m.to }} · {{ when(m.at) }}</span>
      </template>
      <p class="body">{{ m.body }}</p>
    </FoldOut>
  </div>
</template>

<style scoped>
details {
  border-top: 1px solid var(--frost);
  padding: 7px 0;
}
.body {
  white-space: pre-wrap;
  padding: 6px 16px;
}
</style>

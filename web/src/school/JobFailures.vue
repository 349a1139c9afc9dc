<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { JobFailure } from '@rosemary/api';
import { countOf, dayAndTime } from '@rosemary/core';
import { onMounted, ref } from 'vue';
import { call } from '../platform/call.ts';
import { useNotices } from '../stores/noticeStore.ts';
import ActButton from '../parts/ActButton.vue';

/** What failed of the work that is done in the background: why, when it is tried again, and a way to try it now. */
const notices = useNotices();
const failures = ref<readonly JobFailure[] | null>(null);
const fault = ref('');
async function load(): Promise<void> {
  try {
    failures.value = (await call(api.getJobFailures, {})).failures;
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
async function again(f: JobFailure): Promise<void> {
  try {
    failures.value = (await call(api.tryJobAgain, {}, { job: f.job, piece: f.piece })).failures;
    notices.say('It is tried again now. This list shows it until it is done.', null);
  } catch (error) {
    notices.sayFault(error);
    await load();
  }
}
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
const at = (text: string): string => dayAndTime(Date.parse(text), zone, Date.now());
</script>

<template>
  <section class="below" aria-label="Background work">
    <h2>Background work</h2>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else-if="failures === null" class="skeleton" style="height: 20px" />
    <p v-else-if="failures.length === 0" class="soft">
      Nothing has failed. What is done every minute, such as releasing marks, is up to date.
    </p>
    <ul v-else>
      <li v-for="f in failures" :key="`${f.job} ${f.piece}`">
        <b>{{ f.words }}</b> <span class="soft">{{ f.piece }}</span>
        <div>{{ f.reason }}</div>
        <div class="soft">
          {{ countOf(f.tries, 'try', 'tries') }}, the last {{ at(f.lastAt) }};
          {{ f.nextAt === null ? 'set aside until somebody tries it again' : `tried again ${at(f.nextAt)}` }}
          <ActButton look="act" @click="again(f)">Try now</ActButton>
        </div>
      </li>
    </ul>
    <ActButton v-if="failures !== null" look="act" @click="load">Refresh</ActButton>
  </section>
</template>

<style scoped>
.below {
  margin-top: 28px;
}
</style>

<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { LedgerCheck } from '@rosemary/api';
import { countOf, dayAndTime } from '@rosemary/core';
import { computed, onMounted, ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import { call } from '../platform/call.ts';

/** Whether the ledger of grades, replayed, comes to the grades that are kept: looked at every night, and now where it is asked for. */
const checks = ref<readonly LedgerCheck[] | null>(null);
const fault = ref('');
const isBusy = ref(false);
async function read(send: () => Promise<{ readonly checks: readonly LedgerCheck[] }>): Promise<void> {
  isBusy.value = true;
  try {
    checks.value = (await send()).checks;
    fault.value = '';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  } finally {
    isBusy.value = false;
  }
}
onMounted(() => read(() => call(api.getLedgerChecks, {})));
const latest = computed(() => checks.value?.[0] ?? null);
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
const at = (text: string): string => dayAndTime(Date.parse(text), zone, Date.now());
</script>

<template>
  <section class="ledger" aria-label="Ledger of grades">
    <h2>Ledger of grades</h2>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else-if="checks === null" class="skeleton" style="height: 20px" />
    <p v-else-if="latest === null" class="soft">It has not been compared with the grades yet; that is done every night.</p>
    <template v-else>
      <p :class="latest.differing === 0 ? 'soft' : 'clay'">
        {{ at(latest.at) }}:
        {{
          latest.differing === 0
            ? `replayed, it comes to every one of the ${countOf(latest.cells, 'grade')} that are kept.`
            : `${latest.differing} of ${countOf(latest.cells, 'grade')} differ from it.`
        }}
      </p>
      <ul v-if="latest.examples.length > 0">
        <li v-for="words in latest.examples" :key="words">{{ words }}</li>
      </ul>
    </template>
    <ActButton v-if="checks !== null" look="act" :disabled="isBusy" @click="read(() => call(api.checkLedgerNow, {}))"
      >Compare now</ActButton
    >
  </section>
</template>

<style scoped>
.ledger {
  margin-top: 28px;
}
</style>

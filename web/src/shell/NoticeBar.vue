<script setup lang="ts">
import { useNotices } from '../stores/noticeStore.ts';
import ActButton from '../parts/ActButton.vue';

/** What was just done or went wrong, with its undo, at the foot of the page. */
const notices = useNotices();

async function undo(): Promise<void> {
  const what = notices.notice?.undo;
  notices.clear();
  try {
    await what?.();
  } catch (error) {
    notices.sayFault(error);
  }
}
</script>

<template>
  <v-snackbar
    :key="notices.notice?.id"
    :model-value="notices.notice !== null"
    :color="notices.notice?.isFault ? 'error' : undefined"
    :timeout="notices.notice?.isFault ? 12000 : 9000"
    @update:model-value="notices.clear()"
  >
    <span role="status">{{ notices.notice?.text }}</span>
    <template #actions>
      <ActButton v-if="notices.notice?.undo" look="quiet" style="color: inherit; text-decoration: underline" @click="undo">Undo</ActButton>
      <ActButton look="quiet" style="color: inherit" @click="notices.clear()">Close</ActButton>
    </template>
  </v-snackbar>
</template>

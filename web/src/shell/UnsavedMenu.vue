<script setup lang="ts">
import { countOf } from '@rosemary/core';
import { onMounted } from 'vue';
import ActButton from '../parts/ActButton.vue';
import FloatMenu from '../parts/FloatMenu.vue';
import { noteSaved, retryUnsaved, stuck } from '../platform/unsaved.ts';

// Its list must open without a connection too: what it is made of is there before it is needed.
onMounted(() => {
  void import('vuetify/components/VMenu');
});
/** What was typed and is not saved yet, wherever it was typed, and why: the one place that says so. */
</script>

<template>
  <FloatMenu v-if="stuck.length > 0">
    <template #activator="{ props }"
      ><span role="status"
        ><ActButton v-bind="props" look="act" class="unsaved">Not saved yet: {{ stuck.length }} ▾</ActButton></span
      ></template
    >
    <div class="sheet list">
      <p class="soft">
        {{ countOf(stuck.length, 'change') }} {{ stuck.length === 1 ? 'is' : 'are' }} kept in this browser until the server has
        {{ stuck.length === 1 ? 'it' : 'them' }}.
      </p>
      <div v-for="one in stuck" :key="one.key" class="one">
        <router-link :to="one.path">{{ one.title }}</router-link>
        <p class="soft">
          {{ one.why }}
          {{ one.request === null ? 'Open it to save it.' : one.isRefused ? '' : 'It is sent when the server answers.' }}
        </p>
        <template v-if="one.request !== null">
          <ActButton look="act" @click="retryUnsaved(one.key)">Send now</ActButton> ·
          <ActButton look="act" @click="noteSaved(one.key)">Discard</ActButton>
        </template>
      </div>
    </div>
  </FloatMenu>
</template>

<style scoped>
.unsaved {
  color: var(--clay);
  white-space: nowrap;
}
.list {
  width: 330px;
  padding: 12px 16px;
}
.one {
  border-top: 1px solid var(--frost);
  padding: 8px 0 4px;
  margin-top: 8px;
}
</style>

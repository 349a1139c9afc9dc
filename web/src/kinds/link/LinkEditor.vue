<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ItemDetail, LinkChange } from '@rosemary/api';
import { defineAsyncComponent, nextTick, ref } from 'vue';
import LineInput from '../../parts/LineInput.vue';
import { useFieldClash } from '../../parts/useFieldClash.ts';
import { call } from '../../platform/call.ts';
import { HttpProblem } from '../../platform/http.ts';
import { savedWords } from '@rosemary/core';

// Seldom needed, with what compares two texts.
const TwoVersions = defineAsyncComponent(() => import('../../parts/TwoVersions.vue'));
/** An item that leads outside: its address and a word about it. */
const props = defineProps<{
  base: { readonly courseId: string; readonly itemId: string };
  link: NonNullable<ItemDetail['link']>;
  canEdit: boolean;
}>();
const emit = defineEmits<{ saved: [link: NonNullable<ItemDetail['link']>] }>();
const faults = ref<Record<string, string>>({});
const words = ref('');
const { clash, lines, caught, takeTheirs, keepMine } = useFieldClash<typeof props.link, Omit<LinkChange, 'version'>>(
  (current) => emit('saved', current),
  async (change) => {
    await nextTick();
    await set(change);
  },
);
async function set(change: Omit<LinkChange, 'version'>): Promise<void> {
  faults.value = {};
  try {
    const { version } = await call(api.saveLink, props.base, { ...change, version: props.link.version });
    emit('saved', { ...props.link, ...change, version });
    words.value = savedWords(new Date());
  } catch (error) {
    words.value = '';
    if (!(error instanceof HttpProblem)) throw error;
    if (!caught(error, change)) faults.value = { [Object.keys(change)[0] ?? 'address']: error.message };
  }
}
</script>

<template>
  <div>
    <TwoVersions v-if="clash" says="Somebody else changed this after you opened it." :lines="lines" @theirs="takeTheirs" @mine="keepMine" />
    <label class="field"
      ><span class="label">Address</span
      ><LineInput
        inputmode="url"
        maxlength="2000"
        placeholder="https://"
        :disabled="!canEdit"
        :value="link.address"
        @commit="set({ address: $event.trim() === '' || /^[a-z]+:/i.test($event.trim()) ? $event.trim() : `https://${$event.trim()}` })"
    /></label>
    <p v-if="faults.address" class="fault" role="alert">{{ faults.address }}</p>
    <label class="field"
      ><span class="label">What is found there</span
      ><LineInput maxlength="2000" :disabled="!canEdit" :value="link.note" @commit="set({ note: $event })"
    /></label>
    <p v-if="faults.note" class="fault" role="alert">{{ faults.note }}</p>
    <p v-if="link.address"><a :href="link.address" target="_blank" rel="noreferrer noopener">Open it beside</a></p>
    <p class="label" role="status">{{ words }}</p>
  </div>
</template>

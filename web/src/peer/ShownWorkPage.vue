<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { ShownWorkView } from '@rosemary/api';
import { countOf } from '@rosemary/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRoute } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import { call } from '../platform/call.ts';
import { usePageTitle } from '../platform/usePageTitle.ts';
import ReadWork from './ReadWork.vue';

/** A work of the class that the teacher shows to everybody. */
const route = useRoute();
const base = computed(() => ({
  courseId: String(route.params.courseId),
  itemId: String(route.params.itemId),
  workId: String(route.params.workId),
}));
const shown = shallowRef<ShownWorkView | null>(null);
const fault = ref('');
usePageTitle(() => shown.value?.itemTitle);
async function load(): Promise<void> {
  try {
    shown.value = await call(api.getShownWork, base.value);
    fault.value = '';
  } catch (error) {
    fault.value = error instanceof Error ? error.message : 'It could not be read.';
  }
}
onMounted(load);
const nothing = (): Promise<boolean> => Promise.resolve(false);
</script>

<template>
  <div class="review-page">
    <div v-if="fault" class="pad">
      <h1>This work is not shown</h1>
      <p class="soft">{{ fault }} <ActButton look="act" @click="load">Try again</ActButton></p>
      <p><router-link class="act" :to="{ name: 'study-item', params: base }">Back to the assignment</router-link></p>
    </div>
    <div v-else-if="!shown" class="pad"><div v-for="n in 8" :key="n" class="skeleton" style="height: 18px; margin-top: 10px" /></div>
    <main v-else class="work" aria-label="The work">
      <p class="label">
        <router-link :to="{ name: 'study-item', params: base }">{{ shown.itemTitle }}</router-link> · shown by your teacher ·
        {{ countOf(shown.work.wordCount, 'word') }}
      </p>
      <h1>{{ shown.by }}</h1>
      <p v-if="shown.words" class="words">{{ shown.words }}</p>
      <ReadWork :work="shown.work" :notes="[]" is-fixed :put="nothing" />
    </main>
  </div>
</template>

<style src="./peer.css"></style>

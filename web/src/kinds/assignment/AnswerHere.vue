<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { StudentItem } from '@rosemary/api';
import { dayAndTime, pointsInWords } from '@rosemary/core';
import { computed, defineAsyncComponent, onMounted, shallowRef, ref } from 'vue';
import ActButton from '../../parts/ActButton.vue';
import { call } from '../../platform/call.ts';
import { HttpProblem } from '../../platform/http.ts';
import { useEvents } from '../../platform/useEvents.ts';
import { useCourse } from '../../stores/courseStore.ts';
import { useSession } from '../../stores/sessionStore.ts';
import AssignmentStudy from './AssignmentStudy.vue';

/** An assignment inside a page, as its student has it: written, handed in, reviewed and read again without leaving the page. */
const props = defineProps<{ base: { readonly courseId: string; readonly itemId: string }; title: string }>();
const OwnPeerPart = defineAsyncComponent(() => import('../../peer/OwnPeerPart.vue'));
const course = useCourse();
const session = useSession();
const item = shallowRef<StudentItem | null>(null);
const fault = ref('');
const isShut = ref(false);
async function load(): Promise<void> {
  try {
    item.value = await call(api.getOwnItem, props.base);
    fault.value = '';
  } catch (error) {
    isShut.value = error instanceof HttpProblem && error.code === 'not-found';
    fault.value = error instanceof Error ? error.message : 'It could not be read.';
  }
}
onMounted(load);
useEvents(
  computed(() => props.base.courseId),
  (event) => {
    if (event.topic === 'returned' && event.itemId === props.base.itemId) void load();
  },
);
const isLooking = computed(() => session.seeAs !== null);
const facts = computed(() => {
  const i = item.value;
  if (i === null) return '';
  const due = i.dates.due.at === null ? '' : `due ${dayAndTime(Date.parse(i.dates.due.at), course.zone, course.now)}`;
  return [due, i.possible > 0 ? pointsInWords(i.possible) : ''].filter((w) => w !== '').join(' · ');
});
</script>

<template>
  <p class="head">
    <b>{{ item?.title ?? title }}</b> <span class="soft">{{ facts }}</span>
    <router-link v-if="item" class="act" :to="{ name: 'study-item', params: base }">{{
      item.returned ? 'What was returned' : 'On a page of its own'
    }}</router-link>
  </p>
  <p v-if="isShut" class="soft">It is not open to you yet.</p>
  <p v-else-if="fault" class="fault" role="alert">{{ fault }} <ActButton look="act" @click="load">Try again</ActButton></p>
  <div v-else-if="!item" class="skeleton" style="height: 120px" />
  <p v-else-if="!item.assignment" class="soft">There is nothing to hand in here any more.</p>
  <AssignmentStudy v-else :base="base" :item="item" :is-looking="isLooking" @changed="load"
    ><template #reviews
      ><OwnPeerPart
        v-if="item.hasPeers && item.visibility !== 'announced'"
        :key="item.attempts.length"
        :base="base"
        :is-looking="isLooking" /></template
  ></AssignmentStudy>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: baseline;
}
</style>

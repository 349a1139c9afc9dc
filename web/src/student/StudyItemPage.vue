<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { StudentItem } from '@rosemary/api';
import { dayAndTime, kindOfItem, pointsInWords, minutesInWords, ownReason } from '@rosemary/core';
import { computed, defineAsyncComponent, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import { SHOWN_KINDS } from '../kinds/kinds.ts';
import ItemGlyph from '../parts/ItemGlyph.vue';
import { call } from '../platform/call.ts';
import { useEvents } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useVisit } from './useVisit.ts';
import ReturnedView from './ReturnedView.vue';
import TickBox from '../parts/fields/TickBox.vue';
import { usePageTitle } from '../platform/usePageTitle.ts';

const route = useRoute();
const course = useCourse();
const session = useSession();
const notices = useNotices();
const item = ref<StudentItem | null>(null);
usePageTitle(() => item.value?.title);
const fault = ref('');
const OwnPeerPart = defineAsyncComponent(() => import('../peer/OwnPeerPart.vue'));
const base = computed(() => ({ courseId: String(route.params.courseId), itemId: String(route.params.itemId) }));
const isLooking = computed(() => session.seeAs !== null);
const visits = useVisit((visit) => {
  if (!isLooking.value && item.value !== null && item.value.visibility !== 'announced')
    void call(api.noteVisit, base.value, visit).catch(() => undefined);
});
async function load(): Promise<void> {
  try {
    item.value = await call(api.getOwnItem, base.value);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
useEvents(
  computed(() => String(route.params.courseId)),
  (event) => {
    if (event.topic === 'returned' && event.itemId === route.params.itemId) void load();
  },
);
onMounted(async () => {
  await load();
  visits.begin();
});
async function setTick(isTicked: boolean): Promise<void> {
  try {
    await call(api.tickItem, base.value, { isTicked });
    await load();
  } catch (error) {
    notices.sayFault(error);
  }
}
const when = (at: string | null): string => (at === null ? '' : dayAndTime(Date.parse(at), course.zone, course.now));
const facts = computed(() => {
  const i = item.value;
  if (i === null) return '';
  const due =
    i.dates.due.at === null ? null : [`due ${when(i.dates.due.at)}`, ownReason(i.dates.due.reason)].filter((w) => w !== '').join(', ');
  return [
    due,
    i.dates.closes.at !== null && kindOfItem(i.kind).marking === 'work' ? `closes ${when(i.dates.closes.at)}` : null,
    minutesInWords(i.estimatedMinutes),
    i.possible > 0 ? pointsInWords(i.possible) : null,
    i.assignment ? JUDGED_WORDS[i.assignment.judged] : null,
    i.category,
  ]
    .filter(Boolean)
    .join(' · ');
});
const JUDGED_WORDS = { points: '', done: 'judged done or not', words: 'judged in words', none: 'not judged' } as const;
</script>

<template>
  <div class="pad reading-column">
    <div v-if="fault">
      <h1>This cannot be opened</h1>
      <p class="soft">{{ fault }}</p>
    </div>
    <template v-if="!item && !fault"
      ><div class="skeleton" style="height: 30px; width: 60%" />
      <div v-for="n in 5" :key="n" class="skeleton" style="height: 16px; margin-top: 12px"
    /></template>
    <template v-if="item">
      <p class="label"><ItemGlyph :kind="item.kind" /> {{ facts }}<span v-if="item.isDone"> · done</span></p>
      <h1>{{ item.title }}</h1>
      <p v-if="item.visibility === 'announced'" class="soft">Not open yet: it {{ item.waitsFor }}.</p>
      <p v-else class="done">
        <label v-if="item.doneRule === 'ticked'"
          ><TickBox :model-value="item.isDone" :disabled="isLooking" @change="setTick(($event.target as HTMLInputElement).checked)" /> I
          have done this</label
        ><span v-else class="label">{{ item.doneWhen }}</span>
      </p>
      <component :is="SHOWN_KINDS[item.kind].study" :key="item.id" :base="base" :item="item" :is-looking="isLooking" @changed="load"
        ><template #returned
          ><ReturnedView v-if="item.returned" :item="item" :is-brief="item.revision !== null && !item.revision.isAnswered" /></template
        ><template #reviews
          ><OwnPeerPart
            v-if="item.hasPeers && item.visibility !== 'announced'"
            :key="item.attempts.length"
            :base="base"
            :is-looking="isLooking" /></template
      ></component>
    </template>
  </div>
</template>

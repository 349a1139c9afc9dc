<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { FollowRule, FollowUps } from '@rosemary/api';
import { dayAndTime, formatPoints } from '@rosemary/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../platform/call.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import FollowForm from './FollowForm.vue';
import ActButton from '../parts/ActButton.vue';

/** What follows from results: the rules, whom each has reached, and the way back. */
const props = defineProps<{ base: { readonly courseId: string; readonly itemId: string }; canEdit: boolean }>();
const route = useRoute();
const course = useCourse();
const notices = useNotices();
const view = shallowRef<FollowUps | null>(null);
const fault = ref('');
const isForm = ref(false);
const open = ref('');
async function load(): Promise<void> {
  try {
    view.value = await call(api.getFollowUps, props.base);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
useFresh(
  computed(() => String(route.params.courseId)),
  ['work', 'marks', 'grades'],
  load,
);
const VERBS = { message: 'gets the message', group: 'joins', open: 'has this opened:' } as const;
const WAITS: { readonly [meets in FollowRule['meets']]: (points: string) => string } = {
  misses: (points) => `has less than ${points}`,
  reaches: (points) => `has at least ${points}`,
  'gave reviews': () => 'has given all their reviews',
};
const inWords = (r: FollowRule): string => `Whoever ${WAITS[r.meets](formatPoints(r.points))} ${VERBS[r.action]} “${r.what}”`;
const when = (at: string): string => dayAndTime(Date.parse(at), course.zone, course.now);
const did = (r: FollowRule): number => r.done.filter((d) => !d.isUndone && d.problem === '').length;
async function act(work: () => Promise<unknown>, words: string, back?: () => Promise<unknown>): Promise<void> {
  try {
    await work();
    await load();
    notices.say(
      words,
      back === undefined
        ? null
        : async () => {
            await back();
            await load();
          },
    );
  } catch (error) {
    notices.sayFault(error);
    await load();
  }
}
const stop = (r: FollowRule): Promise<void> =>
  act(
    () => call(api.removeFollowUp, { ...props.base, ruleId: r.id }),
    'It follows no more. What it did stays.',
    () => call(api.restoreFollowUp, { ...props.base, ruleId: r.id }),
  );
const goOn = (r: FollowRule): Promise<void> =>
  act(
    () => call(api.restoreFollowUp, { ...props.base, ruleId: r.id }),
    'It follows again.',
    () => call(api.removeFollowUp, { ...props.base, ruleId: r.id }),
  );
const takeBack = (r: FollowRule, enrolmentId: string): Promise<void> =>
  act(
    () => call(api.takeBackFollowUp, { ...props.base, ruleId: r.id, enrolmentId }),
    'Taken back.',
    () => call(api.tryFollowUpAgain, { ...props.base, ruleId: r.id, enrolmentId }),
  );
const again = (r: FollowRule, enrolmentId: string): Promise<void> =>
  act(() => call(api.tryFollowUpAgain, { ...props.base, ruleId: r.id, enrolmentId }), 'It is done in a moment.');
async function made(id: string): Promise<void> {
  isForm.value = false;
  await load();
  notices.say('Kept. It is done in a moment for those who are there already.', async () => {
    await call(api.removeFollowUp, { ...props.base, ruleId: id });
    await load();
  });
}
</script>

<template>
  <section aria-label="What follows" class="follow">
    <h2>What follows</h2>
    <p v-if="fault" class="fault">{{ fault }}</p>
    <ul v-if="view">
      <li v-for="r in view.rules" :key="r.id" :class="{ soft: r.isStopped }">
        {{ inWords(r) }}{{ r.isStopped ? ' (stopped)' : '' }}.
        <ActButton v-if="r.done.length > 0" look="act" :aria-expanded="open === r.id" @click="open = open === r.id ? '' : r.id">
          {{ did(r) === 1 ? 'done for one' : `done for ${did(r)}` }}
        </ActButton>
        <span v-else class="soft">nobody yet</span>
        <ActButton v-if="canEdit" look="act" @click="r.isStopped ? goOn(r) : stop(r)">{{
          r.isStopped ? 'let it go on' : 'stop it'
        }}</ActButton>
        <ul v-if="open === r.id" class="done">
          <li v-for="d in r.done" :key="d.enrolmentId">
            {{ d.name }} <span class="soft">{{ when(d.at) }}{{ d.isUndone ? ', taken back' : '' }}</span>
            <span v-if="d.problem" class="clay"> {{ d.problem }}</span>
            <ActButton v-if="d.problem || d.isUndone" look="act" @click="again(r, d.enrolmentId)">try again</ActButton>
            <ActButton v-else look="act" @click="takeBack(r, d.enrolmentId)">take back</ActButton>
          </li>
        </ul>
      </li>
    </ul>
    <p v-if="view && view.rules.length === 0" class="soft">
      Nothing yet. Whoever reaches or misses a mark{{ view.areReviews ? ', or has given their reviews,' : '' }} can be written to, join a
      group, or have an item opened.
    </p>
    <p v-if="canEdit && view"><ActButton look="act" @click="isForm = true">Add a follow-up</ActButton></p>
    <v-dialog v-model="isForm" max-width="560">
      <FollowForm v-if="view" :base="base" :choices="view" @leave="isForm = false" @made="made" />
    </v-dialog>
  </section>
</template>

<style scoped>
.follow {
  margin-top: 24px;
}
ul {
  padding-left: 18px;
  margin: 4px 0;
}
.act {
  margin-left: 10px;
}
p .act {
  margin-left: 0;
}
.done {
  list-style: none;
  padding-left: 12px;
}
</style>

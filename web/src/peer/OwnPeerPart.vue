<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { OwedLine, OwnPeer } from '@rosemary/api';
import { countOf, dayAndTime } from '@rosemary/core';
import { computed, onMounted, shallowRef, ref } from 'vue';
import DocumentView from '../parts/DocumentView.vue';
import FoldOut from '../parts/FoldOut.vue';
import WorkingLines from '../parts/WorkingLines.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useEvents } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import OwnLeavePart from './OwnLeavePart.vue';
import ReceivedReviews from './ReceivedReviews.vue';

/** The reviews of an assignment for one of its students: when, what to give, what came. Where others do not read it, nothing. */
const props = defineProps<{ base: { readonly courseId: string; readonly itemId: string }; isLooking: boolean }>();
const course = useCourse();
const peer = shallowRef<OwnPeer | null>(null);
const fault = ref('');
async function load(): Promise<void> {
  try {
    peer.value = await call(api.getOwnPeer, props.base);
    fault.value = '';
  } catch (error) {
    // Most assignments are read by those who mark alone.
    fault.value = error instanceof HttpProblem && error.code === 'not-found' ? '' : error instanceof Error ? error.message : '';
  }
}
onMounted(load);
useEvents(
  computed(() => props.base.courseId),
  (event) => {
    if (event.itemId === props.base.itemId) void load();
  },
);
const when = (at: string | null): string => (at === null ? '' : dayAndTime(Date.parse(at), course.zone, course.now));
const dates = computed(() => {
  const p = peer.value;
  if (p === null) return '';
  return [
    p.reviewsOpenAt === null ? '' : `reviews open ${when(p.reviewsOpenAt)}`,
    p.reviewsDueAt === null ? '' : `reviews due ${when(p.reviewsDueAt)}`,
    p.resultsAt === null ? '' : `results ${when(p.resultsAt)}`,
    p.showsAuthors || p.showsReviewers ? '' : 'names are hidden both ways',
  ]
    .filter((w) => w !== '')
    .join(' · ');
});
const canRevise = computed(() => Date.parse(peer.value?.revisionDueAt ?? '') > course.now);
const given = computed(() => peer.value?.owed.filter((o) => o.state === 'given').length ?? 0);
const SHUT = {
  'hand in first': 'hand in your own work first',
  'not yet': 'not open yet',
  past: 'was due',
  'samples first': 'the sample works come first',
  'own work first': 'your own work comes first',
  'others first': 'the works of the others come first',
} as const;
const STATES: { readonly [state in OwedLine['state']]: string } = {
  'to give': 'to review',
  begun: 'begun',
  given: 'given',
  missing: 'missing',
  'set aside': 'given',
};
const PRACTICE: { readonly [state in OwedLine['state']]: string } = {
  ...STATES,
  'to give': 'to practise on',
  given: 'compared with the teacher’s',
};
const SAMPLES_WHEN = {
  before: 'These come first: assess each, and see what your teacher saw in it.',
  'any time': 'To practise on: assess one, and see what your teacher saw in it.',
  after: 'To compare with: assess one, and see what your teacher saw in it.',
} as const;
const canOpen = (line: OwedLine): boolean => line.door.isOpen || line.state === 'given' || line.door.why === 'past';
function shutWords(line: OwedLine): string {
  if (line.door.isOpen) return line.door.isLate ? 'late' : '';
  if (line.door.why === 'not yet' && line.door.opensAt !== null) return `opens ${when(new Date(line.door.opensAt).toISOString())}`;
  return line.state === 'given' ? '' : SHUT[line.door.why];
}
</script>

<template>
  <section v-if="peer || fault" class="own-peer" aria-label="Reviews">
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <template v-if="peer">
      <h2>Reviews</h2>
      <p class="soft">{{ dates }}</p>
      <template v-if="peer.samples.length > 0">
        <h3>Sample works</h3>
        <p class="soft">{{ SAMPLES_WHEN[peer.samplesWhen] }}</p>
        <ul class="owed">
          <li v-for="line in peer.samples" :key="line.id">
            <router-link
              v-if="canOpen(line)"
              :to="{ name: 'own-sample', params: { courseId: base.courseId, itemId: base.itemId, sampleId: line.id } }"
              >{{ line.title }}</router-link><span v-else>{{ line.title }}</span>
            <span class="soft">{{ PRACTICE[line.state] }}</span>
            <span v-if="!canOpen(line)" class="label">{{ shutWords(line) }}</span>
          </li>
        </ul>
        <h3>Works of your class</h3>
      </template>
      <p v-if="peer.waits">{{ peer.waits }}</p>
      <template v-else>
        <p>
          <b>{{ given }}</b> of {{ countOf(peer.owed.length, 'review') }} given.
        </p>
        <ul class="owed">
          <li v-for="line in peer.owed" :key="line.id">
            <router-link
              v-if="canOpen(line)"
              :to="{ name: 'own-review', params: { courseId: base.courseId, itemId: base.itemId, reviewId: line.id } }"
              >{{ line.title }}</router-link><span v-else>{{ line.title }}</span>
            <span :class="line.state === 'missing' ? 'clay' : 'soft'">{{ STATES[line.state] }}</span>
            <span class="label">{{ shutWords(line) }}</span>
          </li>
        </ul>
      </template>
      <FoldOut v-if="peer.received === null">
        <template #summary><span class="label">What reviewers look for</span></template>
        <DocumentView :document="peer.prompt" />
      </FoldOut>
      <template v-else>
        <section v-if="peer.closing" class="closing" aria-label="Closing word">
          <h3>What your teacher says to everybody</h3>
          <DocumentView :document="peer.closing" />
        </section>
        <template v-if="peer.shown.length > 0">
          <h3>Shown to your class</h3>
          <ul class="owed">
            <li v-for="w in peer.shown" :key="w.workId">
              <router-link :to="{ name: 'shown-work', params: { courseId: base.courseId, itemId: base.itemId, workId: w.workId } }">{{
                w.by
              }}</router-link>
              <span class="soft">{{ w.words }}</span>
            </li>
          </ul>
        </template>
        <p v-if="canRevise">
          You can revise your work by what the reviews say, and hand it in once more until {{ when(peer.revisionDueAt) }}. Say at each point
          whether you took it up.
        </p>
        <ReceivedReviews
          :base="base"
          :received="peer.received"
          :is-looking="isLooking"
          :is-revised="peer.revisionDueAt !== null"
          @answered="peer = $event"
        />
        <WorkingLines v-if="peer.work" :lines="[peer.work]" />
        <WorkingLines v-if="peer.reviewing" :lines="[peer.reviewing]" />
      </template>
      <OwnLeavePart v-if="peer.leave" :base="base" :leave="peer.leave" :is-looking="isLooking" @changed="peer = $event" />
    </template>
  </section>
</template>

<style src="./peer.css"></style>

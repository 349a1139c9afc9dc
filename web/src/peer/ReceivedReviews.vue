<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { OwnPeer, PointAnswer, ReceivedReview } from '@rosemary/api';
import { countOf } from '@rosemary/core';
import { ref } from 'vue';
import ActButton from '../parts/ActButton.vue';
import TextField from '../parts/fields/TextField.vue';
import { call } from '../platform/call.ts';
import { useDraft } from '../platform/kept.ts';
import { useBusy } from '../platform/useBusy.ts';
import ReviewShown from './ReviewShown.vue';

/** What others saw in one’s work: each review with its words, and what its author says to it. */
const props = defineProps<{
  base: { readonly courseId: string; readonly itemId: string };
  received: readonly ReceivedReview[];
  isLooking: boolean;
  /** The work can be, or was, revised by what they say. */
  isRevised: boolean;
}>();
const emit = defineEmits<{ answered: [peer: OwnPeer] }>();
const { isBusy, fault, run } = useBusy('Not saved. Try again.');
/** Which review is being answered or reported, and what is typed so far. */
const writing = ref<{ readonly id: string; readonly as: 'answer' | 'report'; readonly words: string } | null>(null);
const kept = useDraft<{ readonly id: string; readonly as: 'answer' | 'report'; readonly words: string }>(
  () => `answer ${props.base.itemId}`,
);
writing.value = kept.find();
async function save(review: ReceivedReview, change: Partial<Pick<ReceivedReview, 'answer' | 'isThanked' | 'reportedWhy'>>): Promise<void> {
  const { answer, isThanked, reportedWhy, answerVersion: version } = { ...review, ...change };
  const peer = await run(() => call(api.answerReview, { ...props.base, reviewId: review.id }, { version, answer, isThanked, reportedWhy }));
  if (peer === null) return;
  kept.forget();
  writing.value = null;
  emit('answered', peer);
}
async function takeUp(review: ReceivedReview, answer: PointAnswer): Promise<void> {
  const peer = await run(() => call(api.answerPoint, { ...props.base, reviewId: review.id }, answer));
  if (peer !== null) emit('answered', peer);
}
function start(review: ReceivedReview, as: 'answer' | 'report'): void {
  writing.value = { id: review.id, as, words: as === 'answer' ? review.answer : review.reportedWhy };
}
function type(words: string): void {
  if (writing.value === null) return;
  writing.value = { ...writing.value, words };
  kept.keep(writing.value);
}
function leave(): void {
  kept.forget();
  writing.value = null;
}
</script>

<template>
  <h3>What others saw</h3>
  <p v-if="received.length === 0" class="soft">Nobody reviewed your work.</p>
  <p v-else class="label">{{ countOf(received.length, 'review') }}</p>
  <article v-for="r in received" :key="r.id" class="received" :aria-label="r.by">
    <ReviewShown
      :review="r"
      :form="r.form"
      :by="r.by"
      :total="r.total"
      :answered="isRevised && !r.isOwn && !r.isTeacher ? r.answered : null"
      :can-answer="!isLooking"
      @answer="takeUp(r, $event)"
    />
    <template v-if="!r.isOwn && !r.isTeacher">
      <p v-if="r.answer && writing?.id !== r.id" class="answer"><span class="label">Your answer:</span> {{ r.answer }}</p>
      <p v-if="r.reportedWhy && writing?.id !== r.id" class="clay">You reported it: {{ r.reportedWhy }}</p>
      <form
        v-if="writing?.id === r.id"
        @submit.prevent="save(r, writing.as === 'answer' ? { answer: writing.words } : { reportedWhy: writing.words })"
      >
        <TextField
          :model-value="writing.words"
          rows="3"
          :maxlength="writing.as === 'answer' ? 4000 : 2000"
          :aria-label="writing.as === 'answer' ? `Answer to ${r.by}` : `What is wrong with what ${r.by} wrote`"
          takes-focus
          @input="type(($event.target as HTMLTextAreaElement).value)"
        />
        <p v-if="writing.as === 'report'" class="label">Your teacher reads it. Whoever wrote the review does not.</p>
        <ActButton type="submit" look="go" :disabled="isBusy">{{ writing.as === 'answer' ? 'Answer' : 'Report it' }}</ActButton>
        <ActButton look="quiet" @click="leave">Discard</ActButton>
      </form>
      <p v-else-if="!isLooking" class="acts">
        <ActButton look="act" :aria-pressed="r.isThanked" @click="save(r, { isThanked: !r.isThanked })">{{
          r.isThanked ? 'Thanked' : 'Thank'
        }}</ActButton>
        <ActButton look="act" @click="start(r, 'answer')">{{ r.answer ? 'Change the answer' : 'Answer' }}</ActButton>
        <ActButton look="act" @click="start(r, 'report')">{{ r.reportedWhy ? 'Change the report' : 'Report to the teacher' }}</ActButton>
        <ActButton v-if="r.reportedWhy" look="act" @click="save(r, { reportedWhy: '' })">Take the report back</ActButton>
      </p>
    </template>
  </article>
  <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
</template>

<script setup lang="ts">
import { countOf, dayAndTime, unjudgedCriteria, wordCount, type ReviewRole } from '@rosemary/core';
import { computed, onMounted } from 'vue';
import { useRoute } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import DocumentView from '../parts/DocumentView.vue';
import FoldOut from '../parts/FoldOut.vue';
import TwoVersions from '../parts/TwoVersions.vue';
import { usePageTitle } from '../platform/usePageTitle.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useSession } from '../stores/sessionStore.ts';
import ReviewForm from './ReviewForm.vue';
import ReadWork from './ReadWork.vue';
import { useReview } from './useReview.ts';
import { versionsOf } from './versionsOf.ts';

/** A work of somebody else with the form beside it: read, assessed, handed in. */
const route = useRoute();
const course = useCourse();
const session = useSession();
const base = computed(() => ({
  courseId: String(route.params.courseId),
  itemId: String(route.params.itemId),
  reviewId: String(route.params.reviewId),
}));
const held = useReview(base);
const { review, content, saving, other } = held;
usePageTitle(() => review.value?.itemTitle);
onMounted(held.load);
const isLooking = computed(() => session.seeAs !== null);
const isFixed = computed(() => held.isFixed.value || isLooking.value);
const criteria = computed(() => review.value?.form.criteria ?? []);
const open = computed(() => unjudgedCriteria(criteria.value, content.value));
const due = computed(() => {
  const dueAt = review.value?.dueAt ?? null;
  return dueAt === null ? '' : `due ${dayAndTime(Date.parse(dueAt), course.zone, course.now)}`;
});
const WHAT: { readonly [role in ReviewRole]: string } = { peer: 'a work by somebody else', self: 'your own work', sample: 'a sample work' };
const shutWords = computed(() => {
  const door = review.value?.door;
  if (door === undefined || door.isOpen) return '';
  return review.value?.handedInAt === null
    ? 'It was due, and late reviews are not taken: it stays as it is.'
    : 'It was due: what you gave stays as it is.';
});
const receipt = computed(() =>
  review.value?.handedInAt === null || review.value === null
    ? ''
    : `Handed in ${dayAndTime(Date.parse(review.value.handedInAt), course.zone, course.now)}`,
);
const countWords = (text: string): string => countOf(wordCount(text), 'word');
const versions = computed(() => (other.value === null ? [] : versionsOf(criteria.value, other.value, content.value)));
</script>

<template>
  <div class="review-page">
    <div v-if="held.fault.value" class="pad">
      <h1>This review cannot be opened</h1>
      <p class="soft">{{ held.fault.value }}</p>
      <p><router-link class="act" :to="{ name: 'study-item', params: base }">Back to the assignment</router-link></p>
    </div>
    <div v-else-if="!review" class="pad"><div v-for="n in 8" :key="n" class="skeleton" style="height: 18px; margin-top: 10px" /></div>
    <template v-else>
      <main class="work" aria-label="The work">
        <p class="label">
          <router-link :to="{ name: 'study-item', params: base }">{{ review.itemTitle }}</router-link> · {{ WHAT[review.role] }} ·
          {{ countOf(review.work.wordCount, 'word') }}
        </p>
        <h1>{{ review.title }}</h1>
        <ReadWork :work="review.work" :notes="review.notes" :is-fixed="isFixed" :put="held.putNote" :draft-key="review.id" />
      </main>
      <aside class="inspector" aria-label="Your review">
        <h2>Your review</h2>
        <p class="soft">{{ due }}{{ review.door.isOpen && review.door.isLate ? ', so it is late' : '' }}</p>
        <FoldOut open>
          <template #summary><span class="label">What to look for</span></template>
          <DocumentView :document="review.prompt" />
        </FoldOut>
        <p v-if="shutWords" class="clay" role="status">{{ shutWords }}</p>
        <TwoVersions
          v-if="other"
          says="Another window saved this review too. Which one holds?"
          :lines="versions"
          their-word="The other window"
          my-word="This one"
          @theirs="held.settle('other')"
          @mine="held.settle('mine')"
        />
        <ReviewForm :form="review.form" :content="content" :is-fixed="isFixed" takes-keys @change="held.change" />
        <p class="label">
          {{ countWords(content.words) }}{{ review.leastWords > 0 ? `; ${review.leastWords} are asked for in each comment in words` : '' }}
        </p>
        <p class="label saved" role="status">{{ saving.words.value }}</p>
        <p v-if="held.handFault.value" class="fault" role="alert">{{ held.handFault.value }}</p>
        <p v-if="receipt" class="receipt" role="status">
          <b>{{ receipt }}</b><span v-if="!isFixed" class="soft"
            >. You can change it until it is due; what you change counts as it stands.</span
          >
        </p>
        <template v-if="!isFixed && !receipt">
          <ActButton look="go" :disabled="held.isHanding.value || open.length > 0" @click="held.handIn">Hand in the review</ActButton>
          <p v-if="open.length > 0" class="label">Still to judge: {{ open.map((c) => c.title).join(', ') }}.</p>
        </template>
        <p v-if="receipt"><router-link class="act" :to="{ name: 'study-item', params: base }">Back to the others</router-link></p>
        <p class="label keys">1 to 9 choose a level and go on to the next criterion.</p>
      </aside>
    </template>
  </div>
</template>

<style src="./peer.css"></style>

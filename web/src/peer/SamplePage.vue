<script setup lang="ts">
import { countOf, unjudgedCriteria } from '@rosemary/core';
import { computed, onMounted } from 'vue';
import { useRoute } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import DocumentView from '../parts/DocumentView.vue';
import FoldOut from '../parts/FoldOut.vue';
import TwoVersions from '../parts/TwoVersions.vue';
import { usePageTitle } from '../platform/usePageTitle.ts';
import { useSession } from '../stores/sessionStore.ts';
import PracticeCompared from './PracticeCompared.vue';
import ReviewForm from './ReviewForm.vue';
import { useOwnSample } from './useOwnSample.ts';
import { versionsOf } from './versionsOf.ts';

/** A sample work: assessed by the student as any work, then held against what the teacher saw in it. */
const route = useRoute();
const session = useSession();
const base = computed(() => ({
  courseId: String(route.params.courseId),
  itemId: String(route.params.itemId),
  sampleId: String(route.params.sampleId),
}));
const practice = useOwnSample(base);
const { held: sample, content, other, saving } = practice;
usePageTitle(() => sample.value?.itemTitle);
onMounted(practice.load);
const isFixed = computed(() => practice.isFixed.value || session.seeAs !== null);
const criteria = computed(() => sample.value?.form.criteria ?? []);
const open = computed(() => unjudgedCriteria(criteria.value, content.value));
const versions = computed(() => (other.value === null ? [] : versionsOf(criteria.value, other.value, content.value)));
</script>

<template>
  <div class="review-page">
    <div v-if="practice.fault.value" class="pad">
      <h1>This sample work cannot be opened</h1>
      <p class="soft">{{ practice.fault.value }}</p>
      <p><router-link class="act" :to="{ name: 'study-item', params: base }">Back to the assignment</router-link></p>
    </div>
    <div v-else-if="!sample" class="pad"><div v-for="n in 8" :key="n" class="skeleton" style="height: 18px; margin-top: 10px" /></div>
    <template v-else>
      <main class="work" aria-label="The work">
        <p class="label">
          <router-link :to="{ name: 'study-item', params: base }">{{ sample.itemTitle }}</router-link> · a sample work ·
          {{ countOf(sample.wordCount, 'word') }}
        </p>
        <h1>{{ sample.title }}</h1>
        <div class="sample-text"><DocumentView :document="sample.document" /></div>
      </main>
      <aside class="inspector" aria-label="Your assessment">
        <template v-if="sample.teacher">
          <h2>You and the teacher</h2>
          <PracticeCompared :form="sample.form" :mine="content" :teacher="sample.teacher" />
          <p><router-link class="act" :to="{ name: 'study-item', params: base }">Back to the reviews</router-link></p>
        </template>
        <template v-else>
          <h2>For practice</h2>
          <p class="soft">Assess it as you would a work of your class. Then you see what your teacher saw in it. It counts nothing.</p>
          <FoldOut open>
            <template #summary><span class="label">What to look for</span></template>
            <DocumentView :document="sample.prompt" />
          </FoldOut>
          <TwoVersions
            v-if="other"
            says="Another window saved this assessment too. Which one holds?"
            :lines="versions"
            their-word="The other window"
            my-word="This one"
            @theirs="practice.settle('other')"
            @mine="practice.settle('mine')"
          />
          <ReviewForm :form="sample.form" :content="content" :is-fixed="isFixed" takes-keys is-for-oneself @change="practice.change" />
          <p class="label saved" role="status">{{ saving.words.value }}</p>
          <p v-if="practice.compareFault.value" class="fault" role="alert">{{ practice.compareFault.value }}</p>
          <template v-if="!isFixed">
            <ActButton look="go" :disabled="practice.isComparing.value || open.length > 0" @click="practice.compare"
              >Compare with the teacher’s</ActButton
            >
            <p v-if="open.length > 0" class="label">Still to judge: {{ open.map((c) => c.title).join(', ') }}.</p>
            <p v-else class="label">Once compared, yours stays as it is.</p>
          </template>
          <p class="label keys">1 to 9 choose a level and go on to the next criterion.</p>
        </template>
      </aside>
    </template>
  </div>
</template>

<style src="./peer.css"></style>

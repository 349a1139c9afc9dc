<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { PeerSample, ReviewContent } from '@rosemary/api';
import { countOf, type DocumentNode, unjudgedCriteria } from '@rosemary/core';
import { computed, onMounted } from 'vue';
import { useRoute } from 'vue-router';
import DocumentEditor from '../parts/DocumentEditor.vue';
import LineInput from '../parts/LineInput.vue';
import TwoVersions from '../parts/TwoVersions.vue';
import { call } from '../platform/call.ts';
import { usePageTitle } from '../platform/usePageTitle.ts';
import { useCourse } from '../stores/courseStore.ts';
import ReviewForm from './ReviewForm.vue';
import { contentOfReview, NOTHING_WRITTEN } from './useReview.ts';
import { useWritten } from './useWritten.ts';
import { versionsOf } from './versionsOf.ts';

/** A sample work as the teacher writes and assesses it: the text, and beside it the form that students use. */
const route = useRoute();
const course = useCourse();
const base = computed(() => ({
  courseId: String(route.params.courseId),
  itemId: String(route.params.itemId),
  sampleId: String(route.params.sampleId),
}));
interface SampleContent extends ReviewContent {
  readonly title: string;
  readonly document: DocumentNode;
}
const canEdit = computed(() => course.head?.role === 'instructor' && course.head.isArchived !== true);
const written = useWritten<PeerSample, SampleContent>({
  key: () => `sample work ${base.value.sampleId}`,
  read: () => call(api.getPeerSample, base.value),
  save: async (content, version) => {
    const saved = await call(api.changePeerSample, base.value, { ...content, version });
    return { version: saved.version, savedAt: null };
  },
  contentOf: (s) => ({ ...contentOfReview(s), title: s.title, document: s.document }),
  isOpen: () => canEdit.value,
  nothing: { ...NOTHING_WRITTEN, title: '', document: { type: 'doc', content: [{ type: 'paragraph' }] } },
});
const { held: sample, content, other, saving } = written;
usePageTitle(() => sample.value?.itemTitle);
onMounted(written.load);
const criteria = computed(() => sample.value?.form.criteria ?? []);
const open = computed(() => unjudgedCriteria(criteria.value, content.value));
const versions = computed(() => (other.value === null ? [] : versionsOf(criteria.value, other.value, content.value)));
const retitle = (title: string): void => {
  if (title.trim() !== '') written.change({ title: title.trim() });
};
</script>

<template>
  <div class="review-page">
    <div v-if="written.fault.value" class="pad">
      <h1>This sample work cannot be opened</h1>
      <p class="soft">{{ written.fault.value }}</p>
      <p><router-link class="act" :to="{ name: 'peer-setting', params: base }">How it is reviewed</router-link></p>
    </div>
    <div v-else-if="!sample" class="pad"><div v-for="n in 8" :key="n" class="skeleton" style="height: 18px; margin-top: 10px" /></div>
    <template v-else>
      <main class="work" aria-label="The sample work">
        <p class="label">
          <router-link :to="{ name: 'peer-setting', params: base }">{{ sample.itemTitle }}</router-link> · sample work ·
          {{ sample.origin }}
        </p>
        <label class="field"
          ><span class="label">Title, as students see it</span
          ><LineInput :value="content.title" maxlength="200" :disabled="!canEdit" @commit="retitle"
        /></label>
        <p v-if="sample.origin !== 'written here'" class="soft">
          Files carry no name any more. Read the text itself for names, and delete what tells whose it is.
        </p>
        <DocumentEditor
          :key="other ? 'two' : 'one'"
          :model-value="content.document"
          label="The sample work"
          :course-id="base.courseId"
          :is-fixed="!canEdit"
          @change="written.change({ document: $event })"
        />
      </main>
      <aside class="inspector" aria-label="Your assessment">
        <h2>Your assessment</h2>
        <p class="soft">Students see it, with your words, once they have assessed the work themselves.</p>
        <TwoVersions
          v-if="other"
          says="Another window saved this sample work too. Which one holds?"
          :lines="versions"
          their-word="The other window"
          my-word="This one"
          @theirs="written.settle('other')"
          @mine="written.settle('mine')"
        />
        <ReviewForm :form="sample.form" :content="content" :is-fixed="!canEdit" is-for-oneself @change="written.change" />
        <p class="label saved" role="status">{{ saving.words.value }}</p>
        <p v-if="open.length > 0" class="clay" role="status">
          Students do not see it yet. Still to judge: {{ open.map((c) => c.title).join(', ') }}.
        </p>
        <p v-else class="soft" role="status">
          It is assessed: students can practise on it{{
            sample.practised > 0 ? `, and ${countOf(sample.practised, 'student has', 'students have')}` : ''
          }}.
        </p>
      </aside>
    </template>
  </div>
</template>

<style src="./peer.css"></style>

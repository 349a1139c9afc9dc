<script setup lang="ts">
import type { AttemptView } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { defineAsyncComponent } from 'vue';
import DocumentView from '../parts/DocumentView.vue';
import FileWork from '../parts/FileWork.vue';
import { useCourse } from '../stores/courseStore.ts';

const PdfWork = defineAsyncComponent(() => import('../parts/media/PdfWork.vue'));
/** Work handed in as a link: where it leads, whether it can be opened, and what stood there when it came in. */
defineProps<{ attempt: AttemptView }>();
const course = useCourse();
</script>

<template>
  <div class="sheet-paper head">
    <p>
      <span class="label">Handed in as a link</span>
      <a :href="attempt.link" target="_blank" rel="noreferrer noopener">{{ attempt.link }}</a>
    </p>
    <p v-if="!attempt.linkCopy" class="soft">It is being looked at; what stands there now is kept in a moment.</p>
    <p v-else :class="attempt.linkCopy.state === 'kept' ? 'soft' : 'fault'">
      {{ attempt.linkCopy.said }}
      <template v-if="attempt.linkCopy.file">
        Below is what stood there{{
          attempt.linkCopy.triedAt ? ` ${dayAndTime(Date.parse(attempt.linkCopy.triedAt), course.zone, course.now)}` : ' when it came in'
        }}; it may have changed since.
        <a :href="`${attempt.linkCopy.file.url}?download`">As it was sent</a>
      </template>
    </p>
  </div>
  <article v-if="attempt.linkCopy?.document" class="sheet-paper" aria-label="Copy of the page">
    <h2 v-if="attempt.linkCopy.title">{{ attempt.linkCopy.title }}</h2>
    <DocumentView :document="attempt.linkCopy.document" />
  </article>
  <div v-else-if="attempt.linkCopy?.file?.mediaType === 'application/pdf'" class="pdf-holder">
    <PdfWork :url="attempt.linkCopy.file.url" :notes="[]" :chosen="null" />
  </div>
  <div v-else-if="attempt.linkCopy?.file" class="sheet-paper"><FileWork :file="attempt.linkCopy.file" /></div>
</template>

<style scoped>
.head {
  padding-top: 8px;
  padding-bottom: 8px;
}
.head p {
  margin: 4px 0;
}
</style>

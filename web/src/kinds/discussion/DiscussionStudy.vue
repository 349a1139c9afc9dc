<script setup lang="ts">
import type { DiscussionView } from '@rosemary/api';
import { plainText } from '@rosemary/core';
import { shallowRef } from 'vue';
import DocumentView from '../../parts/DocumentView.vue';
import DiscussionBody from '../../talk/DiscussionBody.vue';
import type { StudyEmits, StudyProps } from '../shownKind.ts';
import StudyPaper from '../StudyPaper.vue';

defineProps<StudyProps>();
defineEmits<StudyEmits>();
const talk = shallowRef<DiscussionView | null>(null);
</script>

<template>
  <template v-if="item.visibility !== 'announced'">
    <StudyPaper v-if="talk && plainText(talk.document) !== ''"><DocumentView :document="talk.document" /></StudyPaper>
    <DiscussionBody :course-id="base.courseId" :item-id="item.id" style="margin-top: 14px" @shown="talk = $event" />
  </template>
  <slot name="returned" />
  <slot name="reviews" />
</template>

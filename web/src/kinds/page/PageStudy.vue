<script setup lang="ts">
import { provide } from 'vue';
import { ANSWER_HERE } from '../../parts/blocks/answerHere.ts';
import DocumentView from '../../parts/DocumentView.vue';
import AnswerHere from '../assignment/AnswerHere.vue';
import type { StudyEmits, StudyProps } from '../shownKind.ts';
import StudyPaper from '../StudyPaper.vue';

/** A page as its student reads it; what is handed in inside it is an assignment of the course. */
defineProps<StudyProps>();
defineEmits<StudyEmits>();
provide(ANSWER_HERE, AnswerHere);
</script>

<template>
  <StudyPaper v-if="item.page"><DocumentView :document="item.page" /></StudyPaper>
  <slot name="returned" />
</template>

<script setup lang="ts">
import DocumentView from '../../parts/DocumentView.vue';
import type { StudyEmits, StudyProps } from '../shownKind.ts';
import StudyPaper from '../StudyPaper.vue';

defineProps<StudyProps>();
defineEmits<StudyEmits>();
</script>

<template>
  <StudyPaper v-if="item.page"><DocumentView :document="item.page" /></StudyPaper>
  <slot name="returned" />
</template>

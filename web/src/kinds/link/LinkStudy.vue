<script setup lang="ts">
import type { StudyEmits, StudyProps } from '../shownKind.ts';
import StudyPaper from '../StudyPaper.vue';

defineProps<StudyProps>();
defineEmits<StudyEmits>();
</script>

<template>
  <StudyPaper v-if="item.link">
    <p v-if="item.link.note">{{ item.link.note }}</p>
    <a v-if="item.link.address" :href="item.link.address" target="_blank" rel="noreferrer noopener">{{ item.link.address }}</a>
    <p v-else class="soft">Its address is not set yet. Ask your instructor.</p>
  </StudyPaper>
  <slot name="returned" />
</template>

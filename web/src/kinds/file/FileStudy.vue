<script setup lang="ts">
import FileInPlace from '../../parts/blocks/FileInPlace.vue';
import type { StudyEmits, StudyProps } from '../shownKind.ts';
import StudyPaper from '../StudyPaper.vue';

defineProps<StudyProps>();
defineEmits<StudyEmits>();
</script>

<template>
  <StudyPaper v-if="item.file">
    <p v-if="item.file.note">{{ item.file.note }}</p>
    <FileInPlace
      v-if="item.file.file"
      :file="{ fileId: item.file.file.id, src: item.file.file.url, name: item.file.file.name, mediaType: item.file.file.mediaType }"
      is-open-at-first
    />
    <p v-else class="soft">There is no file here yet. Ask your instructor.</p>
  </StudyPaper>
  <slot name="returned" />
</template>

<script setup lang="ts">
import type { StudyEmits, StudyProps } from '../shownKind.ts';

defineProps<StudyProps>();
defineEmits<StudyEmits>();
</script>

<template>
  <slot name="returned" />
</template>

<script setup lang="ts">
import type { StudyProps } from '../shownKind.ts';

defineProps<StudyProps>();
</script>

<template>
  <slot name="returned" />
</template>

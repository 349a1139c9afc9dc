<script setup lang="ts">
import type { QuestionKey } from '@rosemary/core';

defineProps<{ value: QuestionKey }>();
</script>

<template>
  <p class="soft">{{ value.kind === 'file' ? 'A file is given' : 'Written at length' }}; somebody marks it.</p>
</template>

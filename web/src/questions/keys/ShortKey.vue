<script setup lang="ts">
import type { KeyOf } from '@rosemary/core';
import TextRulesKey from './TextRulesKey.vue';

defineProps<{ value: KeyOf<'short'> }>();
const emit = defineEmits<{ change: [key: KeyOf<'short'>] }>();
</script>

<template>
  <TextRulesKey :rules="value.rules" what="Accepted answers" @change="emit('change', { kind: 'short', rules: $event })" />
</template>

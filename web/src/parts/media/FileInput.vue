<script setup lang="ts">
import { ref } from 'vue';

/** The window in which a file is chosen, opened by whoever holds this by `open()`; the same file may be chosen again. */
defineProps<{ accept?: string; label: string; isMany?: boolean }>();
const emit = defineEmits<{ choose: [files: readonly File[]] }>();
const input = ref<HTMLInputElement | null>(null);
function onChange(): void {
  const files = [...(input.value?.files ?? [])];
  if (input.value) input.value.value = '';
  if (files.length > 0) emit('choose', files);
}
defineExpose({ open: () => input.value?.click() });
</script>

<template>
  <input ref="input" type="file" class="away" tabindex="-1" :accept="accept" :multiple="isMany" :aria-label="label" @change="onChange" />
</template>

<style scoped>
.away {
  position: absolute;
  width: 1px;
  height: 1px;
  opacity: 0;
  pointer-events: none;
}
</style>

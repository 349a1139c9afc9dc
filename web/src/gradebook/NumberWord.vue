<script setup lang="ts">
import LineInput from '../parts/LineInput.vue';
defineProps<{ value: string; label: string; was?: string | null }>();
const emit = defineEmits<{ set: [text: string] }>();
</script>

<template>
  <span
    ><LineInput
      :value="value"
      :size="Math.max(2, value.length)"
      inputmode="decimal"
      :aria-label="label"
      :class="{ changed: was }"
      is-word
      @commit="emit('set', $event)"
      @keydown.enter="($event.target as HTMLInputElement).blur()"
    /><s v-if="was" class="soft"> {{ was }}</s></span
  >
</template>

<style scoped>
.changed {
  background: var(--bloom-wash);
}
</style>

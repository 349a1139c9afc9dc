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
      :class="['number', { changed: was }]"
      @commit="emit('set', $event)"
      @keydown.enter="($event.target as HTMLInputElement).blur()"
    /><s v-if="was" class="soft"> {{ was }}</s></span
  >
</template>

<style scoped>
.number {
  width: auto;
  field-sizing: content;
  min-width: 18px;
  border: 0;
  border-bottom: 1px solid var(--ink);
  background: transparent;
  color: var(--bloom);
  font: inherit;
  line-height: 24px;
  padding: 0 3px;
  text-align: center;
  border-radius: 0;
}
.changed {
  background: var(--bloom-wash);
}
</style>

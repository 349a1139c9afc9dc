<script setup lang="ts">
import { ref, watch } from 'vue';
import LineField from './fields/LineField.vue';

/** A field that keeps what is being typed: a save that comes back meanwhile draws the page again, but not this. */
const props = defineProps<{ value: string | number }>();
const emit = defineEmits<{ commit: [text: string] }>();
const text = ref(String(props.value));
const isFocused = ref(false);
watch(
  () => props.value,
  (next) => {
    if (!isFocused.value) text.value = String(next);
  },
);
</script>

<template>
  <LineField v-model="text" @focus="isFocused = true" @blur="isFocused = false" @change="emit('commit', text)" />
</template>

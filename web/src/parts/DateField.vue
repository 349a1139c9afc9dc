<script setup lang="ts">
import { DateTime } from 'luxon';
import { computed, ref, watch } from 'vue';
const props = withDefaults(
  defineProps<{ modelValue: string | null; label: string; zone: string; fault?: string | null; hint?: string | null; isFixed?: boolean }>(),
  { fault: null, hint: null, isFixed: false },
);
const emit = defineEmits<{ change: [value: string | null] }>();
/** The wall clock of the course's zone, whatever the zone of this browser. */
const local = computed(() =>
  props.modelValue === null ? '' : DateTime.fromISO(props.modelValue, { zone: props.zone }).toFormat("yyyy-LL-dd'T'HH:mm"),
);
const text = ref(local.value);
const isFocused = ref(false);
// A date half typed is not taken away by a save that comes back meanwhile.
watch(local, (next) => {
  if (!isFocused.value) text.value = next;
});
function set(event: Event): void {
  const { value } = event.target as HTMLInputElement;
  text.value = value;
  const at = value === '' ? null : DateTime.fromISO(value, { zone: props.zone });
  emit('change', at === null || !at.isValid ? null : at.toUTC().toISO());
}
</script>

<template>
  <label class="field"
    ><span class="label">{{ label }}</span
    ><input
      class="line-input"
      type="datetime-local"
      :value="text"
      :disabled="isFixed"
      :aria-invalid="fault !== null"
      @change="set"
      @focus="isFocused = true"
      @blur="isFocused = false"
    /><span v-if="fault" class="fault" role="alert">{{ fault }}</span
    ><span v-else-if="hint" class="label">{{ hint }}</span></label
  >
</template>

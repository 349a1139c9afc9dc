<script setup lang="ts" generic="T">
import { defineAsyncComponent, h, nextTick, shallowRef, useSlots, watch } from 'vue';
import { keyOf, readChoices } from './choices.ts';

/** One of a list, which opens under it. The lines of the list stand in it as `<option>`. */
const props = defineProps<{
  modelValue?: T;
  /** A word in a sentence. */
  isWord?: boolean;
  /** Told of a choice. Where it saves and gives its promise, what is kept shows again once that is through: also after a refusal. */
  onChange?: (value: T) => unknown;
}>();
const emit = defineEmits<{ 'update:modelValue': [value: T] }>();
const shown = shallowRef(props.modelValue);
watch(
  () => props.modelValue,
  (kept) => {
    shown.value = kept;
  },
);
const slots = useSlots();
const Select = defineAsyncComponent({
  loader: () => import('vuetify/components/VSelect').then((m) => m.VSelect),
  // Its place, so that nothing moves when it comes.
  loadingComponent: () => h('span', { class: 'choice-waits' }, '\u00a0'),
  delay: 0,
});
/** Read anew whenever this is drawn: what stands in a page may hang on what its own loop goes over. */
const items = (): object[] =>
  readChoices(slots.default?.() as Parameters<typeof readChoices>[0]).map((choice) =>
    choice.isHeading
      ? { type: 'subheader', title: choice.title }
      : { title: choice.title, value: choice.value, props: { disabled: choice.isOff, 'data-value': keyOf(choice.value) } },
  );
const isSame = (a: unknown, b: unknown): boolean => keyOf(a) === keyOf(b);
async function choose(value: unknown): Promise<void> {
  if (isSame(value, shown.value)) return;
  shown.value = value as T;
  emit('update:modelValue', value as T);
  const saving = props.onChange?.(value as T);
  if (!(saving instanceof Promise)) return;
  await saving;
  await nextTick();
  shown.value = props.modelValue;
}
</script>

<template>
  <component
    :is="Select"
    :class="['choice-field', { 'word-field': isWord }]"
    :model-value="shown"
    :items="items()"
    :value-comparator="isSame"
    @update:model-value="choose"
  />
</template>

<style src="./fields.css"></style>

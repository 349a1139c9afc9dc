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

<style>
.choice-field .v-field__input {
  cursor: pointer;
  flex-wrap: nowrap;
}
/* All of the field can be pressed, not the one line of its words alone. */
.choice-field.v-select .v-field__input > input {
  top: 0;
  height: 100%;
}
.choice-field .v-select__selection {
  margin: 0;
  height: auto;
  letter-spacing: inherit;
}
.choice-field .v-field__append-inner {
  align-items: center;
  padding: 0;
}
.choice-field .v-field__append-inner > .v-icon {
  font-size: 18px;
  margin: 0;
  color: var(--soft);
  opacity: 1;
}
.choice-waits {
  display: inline-block;
  padding: 3px 0;
}
/* What opens: one sheet for every list. */
.choices.v-overlay__content > .v-sheet,
.choices.v-overlay__content > .v-list {
  background: var(--paper);
  color: var(--ink);
  border: 1px solid var(--frost);
  border-radius: 4px;
  box-shadow: 0 8px 28px rgb(20 32 26 / 0.18);
}
.choices .v-list {
  padding: 6px 0;
  background: var(--paper);
}
.choices .v-list-item {
  min-height: 30px;
  padding: 5px 14px;
}
.choices .v-list-item-title {
  font: inherit;
  white-space: normal;
}
.choices .v-list-item:hover,
.choices .v-list-item--active {
  background: var(--bloom-wash);
}
.choices .v-list-item__overlay {
  display: none;
}
.choices .v-list-item:focus-visible {
  outline: 2px solid var(--bloom);
  outline-offset: -2px;
}
.choices .v-list-item:focus-visible::after {
  display: none;
}
.choices .v-list-subheader {
  min-height: 26px;
  padding-inline: 14px !important;
  font-size: 12.5px;
  color: var(--soft);
}
</style>

<script setup lang="ts" generic="T extends string | number | null | undefined">
import { computed, onMounted, ref } from 'vue';
import type { Typing } from './typing.ts';

/**
 * A line to type in, ruled below. What is typed is its model; a change (Enter, or leaving it) is heard on it as on any field.
 * With `isWord` it is a word in a sentence, as wide as what stands in it.
 * `takesFocus` puts the caret into it as soon as it is there, with `all` of what stands in it selected.
 */
const [model, modifiers] = defineModel<T, 'number'>();
const props = defineProps<{ takesFocus?: boolean | 'all'; inputRole?: string; isWord?: boolean }>();
const root = ref<{ $el: HTMLElement } | null>(null);
const input = (): HTMLInputElement | null => root.value?.$el.querySelector('input') ?? null;
const text = computed({
  get: () => model.value,
  set: (typed) => {
    const asNumber = Number.parseFloat(String(typed));
    model.value = (modifiers.number && !Number.isNaN(asNumber) ? asNumber : typed) as T;
  },
});
const focus = (): void => input()?.focus();
const blur = (): void => input()?.blur();
const select = (): void => input()?.select();
onMounted(() => {
  // A role given to the component would be given to its frame too.
  if (props.inputRole !== undefined) input()?.setAttribute('role', props.inputRole);
  if (props.takesFocus) focus();
  if (props.takesFocus === 'all') select();
});
defineExpose({ focus, blur, select } satisfies Typing);
</script>

<template>
  <v-text-field ref="root" v-model="text" :class="['line-field', { 'word-field': isWord }]" />
</template>

<style>
:where(.line-field.v-input, .text-field.v-input, .choice-field.v-input) {
  display: inline-grid;
  flex: 0 1 auto;
  width: 100%;
  vertical-align: baseline;
  font: inherit;
  color: inherit;
  text-align: inherit;
}
:where(.line-field, .text-field, .choice-field) .v-field {
  --v-field-padding-top: 0px;
  --v-field-padding-bottom: 0px;
  --v-field-padding-start: 0px;
  --v-field-padding-end: 0px;
  font: inherit;
  letter-spacing: inherit;
  color: inherit;
  border-radius: 0;
}
:where(.line-field, .text-field, .choice-field) .v-field__input,
:where(.line-field, .text-field, .choice-field) .v-field__input > input {
  min-height: 0;
  font: inherit;
  letter-spacing: inherit;
  text-align: inherit;
  color: inherit;
}
:where(.line-field, .text-field, .choice-field) .v-field__input {
  opacity: 1;
  padding: 3px 0;
  -webkit-mask-image: none;
  mask-image: none;
}
:where(.line-field, .text-field, .choice-field) .v-field__input::placeholder {
  color: var(--soft);
  opacity: 1;
}
:where(.line-field, .text-field, .choice-field) .v-field__outline::before {
  border-color: var(--frost);
  opacity: 1;
}
:where(.line-field, .text-field, .choice-field) .v-field:hover .v-field__outline::before {
  border-color: var(--leaf);
}
:where(.line-field, .text-field, .choice-field) .v-field__outline::after {
  border-color: var(--bloom);
}
/* A word in a sentence that can be changed. */
.word-field.v-input {
  width: auto;
  color: var(--bloom);
}
.word-field .v-field__input {
  padding: 0 3px;
}
.word-field .v-field__input,
.word-field .v-field__input > input {
  field-sizing: content;
  min-width: 18px;
}
.word-field .v-field__outline::before {
  border-color: currentColor;
}
</style>

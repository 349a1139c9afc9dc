<script setup lang="ts" generic="T extends string | number | null | undefined">
import { computed, onMounted, ref } from 'vue';
import type { Typing } from './typing.ts';

/**
 * A line to type in, ruled below. What is typed is its model; a change (Enter, or leaving it) is heard on it as on any field.
 * With `isWord` it is a word in a sentence, as wide as what stands in it.
 * With `isQuiet` its rule shows only under the hand or the caret.
 * `takesFocus` puts the caret into it as soon as it is there, with `all` of what stands in it selected.
 */
const [model, modifiers] = defineModel<T, 'number'>();
const props = defineProps<{ takesFocus?: boolean | 'all'; inputRole?: string; isWord?: boolean; isQuiet?: boolean }>();
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
  <v-text-field ref="root" v-model="text" :class="['line-field', { 'word-field': isWord, 'quiet-field': isQuiet }]" />
</template>

<style src="./fields.css"></style>

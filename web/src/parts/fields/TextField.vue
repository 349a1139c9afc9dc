<script setup lang="ts" generic="T extends string | null | undefined">
import { onMounted, ref } from 'vue';
import type { Typing } from './typing.ts';

/** Several lines to type in, as plain words. */
const model = defineModel<T>();
const props = defineProps<{ takesFocus?: boolean }>();
const root = ref<{ $el: HTMLElement } | null>(null);
const input = (): HTMLTextAreaElement | null => root.value?.$el.querySelector('textarea:not([aria-hidden])') ?? null;
const focus = (): void => input()?.focus();
const blur = (): void => input()?.blur();
const select = (): void => input()?.select();
onMounted(() => {
  if (props.takesFocus) focus();
});
defineExpose({ focus, blur, select } satisfies Typing);
</script>

<template>
  <v-textarea ref="root" v-model="model" class="text-field" />
</template>

<style src="./fields.css"></style>

<script setup lang="ts" generic="T extends { readonly id: string }">
import { defineAsyncComponent, h, ref, shallowRef, useId } from 'vue';

/**
 * One of many that no list could show, found by some letters of it. `find` asks for those that have the letters, the best of them;
 * `wordsOf` says how one is shown.
 */
const model = defineModel<string>({ required: true });
const props = withDefaults(
  defineProps<{
    label: string;
    placeholder: string;
    find: (letters: string) => Promise<readonly T[]>;
    wordsOf: (one: T) => string;
    /** Said where none has the letters. */
    nothing?: string;
  }>(),
  { nothing: 'Nobody has these letters.' },
);
const Field = defineAsyncComponent({
  loader: () => import('vuetify/components/VAutocomplete').then((m) => m.VAutocomplete),
  // Its place, so that nothing moves when it comes.
  loadingComponent: () => h('span', { class: 'choice-waits' }, '\u00a0'),
  delay: 0,
});
const LETTERS_MS = 150;
const id = useId();
const found = shallowRef<readonly T[]>([]);
const letters = ref('');
const isAsking = ref(false);
const fault = ref('');
let timer: ReturnType<typeof setTimeout> | undefined;
async function ask(text: string): Promise<void> {
  try {
    const list = await props.find(text);
    // What was typed meanwhile is asked for by itself.
    if (letters.value.trim() === text) found.value = list;
    fault.value = '';
  } catch {
    fault.value = 'The search did not answer. Type again.';
  } finally {
    if (letters.value.trim() === text) isAsking.value = false;
  }
}
function search(text: string): void {
  letters.value = text;
  clearTimeout(timer);
  // Once one is chosen, its own words stand in the field: they are not searched for.
  if (found.value.some((one) => one.id === model.value && props.wordsOf(one) === text)) return;
  isAsking.value = true;
  timer = setTimeout(() => void ask(text.trim()), LETTERS_MS);
}
/** What stands is selected, so that the next letters take its place. */
function begin(event: FocusEvent): void {
  (event.target as HTMLInputElement).select();
  search(letters.value);
}
const items = (): object[] => found.value.map((one) => ({ value: one.id, title: props.wordsOf(one), props: { 'data-value': one.id } }));
const nothing = (): string =>
  fault.value !== '' ? fault.value : isAsking.value ? 'Searching…' : letters.value.trim() === '' ? 'Type some letters.' : props.nothing;
</script>

<template>
  <div class="search-choice">
    <label :for="id" class="label">{{ label }}</label>
    <component
      :is="Field"
      :id="id"
      class="choice-field"
      :model-value="model === '' ? null : model"
      :items="items()"
      :placeholder="placeholder"
      :no-data-text="nothing()"
      no-filter
      @focus="begin"
      @update:search="search"
      @update:model-value="model = $event ?? ''"
    />
  </div>
</template>

<style src="./fields.css"></style>

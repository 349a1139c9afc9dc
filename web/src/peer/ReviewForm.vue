<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import type { ReviewContent, RubricView } from '@rosemary/api';
import { ref } from 'vue';
import CriterionStep from '../marking/CriterionStep.vue';
import TextField from '../parts/fields/TextField.vue';

/** The form of a review as it is filled in: each criterion, and words to the author. */
const props = defineProps<{
  form: RubricView;
  content: ReviewContent;
  isFixed?: boolean;
  /** A digit chooses the level of the criterion at hand and goes on to the next. */
  takesKeys?: boolean;
  /** Nobody else reads the words. */
  isForOneself?: boolean;
}>();
const emit = defineEmits<{ change: [next: Partial<ReviewContent>] }>();
const at = ref(0);
function choose(n: number, digit: number): void {
  const criterion = props.form.criteria[n];
  const level = criterion?.levels[digit - 1];
  if (criterion === undefined || level === undefined || props.isFixed) return;
  emit('change', { choices: { ...props.content.choices, [criterion.id]: level.id } });
  at.value = n;
}
function give(criterionId: string, value: number | null): void {
  const { [criterionId]: _, ...rest } = props.content.given;
  emit('change', { given: value === null ? rest : { ...rest, [criterionId]: value } });
}
function onKey(event: KeyboardEvent): void {
  const isTyping =
    event.target instanceof HTMLElement && event.target.closest('input, textarea, [contenteditable="true"], select') !== null;
  if (!props.takesKeys || isTyping || event.ctrlKey || event.metaKey || event.altKey || props.isFixed || !/^[1-9]$/.test(event.key)) return;
  event.preventDefault();
  choose(at.value, Number(event.key));
  at.value = Math.min(props.form.criteria.length - 1, at.value + 1);
}
useEventListener(document, 'keydown', onKey);
</script>

<template>
  <fieldset :disabled="isFixed" class="review-form">
    <CriterionStep
      v-for="(c, n) in form.criteria"
      :key="c.id"
      :criterion="c"
      :choice="content.choices[c.id]"
      :given="content.given[c.id]"
      :comment="content.comments[c.id] ?? ''"
      :is-now="at === n && !isFixed"
      :notes="0"
      is-worded
      class="step"
      @now="at = n"
      @choose="choose(n, $event)"
      @give="give(c.id, $event)"
      @comment="emit('change', { comments: { ...content.comments, [c.id]: $event } })"
    />
    <label class="field"
      ><span class="label">{{ isForOneself ? 'Words' : 'Words to the author' }}</span
      ><TextField
        :model-value="content.words"
        rows="4"
        auto-grow
        maxlength="20000"
        @input="emit('change', { words: ($event.target as HTMLTextAreaElement).value })"
    /></label>
  </fieldset>
</template>

<script setup lang="ts">
import type { QuizQuestions } from '@rosemary/api';
import { pointsInWords, fromPasted, KIND_WORDS, readPasted } from '@rosemary/core';
import { computed } from 'vue';
import { useKeptLine } from '../platform/kept.ts';
import { newId } from '../questions/keys/shares.ts';
import ActButton from '../parts/ActButton.vue';
import TextField from '../parts/fields/TextField.vue';

/** A list of questions as it is typed or pasted, recognised as one types, looked at before anything is made. */
const emit = defineEmits<{ make: [questions: QuizQuestions['questions']]; leave: [] }>();
const text = useKeptLine(() => 'pasted questions');
const found = computed(() => readPasted(text.value));
const whole = computed(() => found.value.filter((q) => q.faults.length === 0));
function make(): void {
  emit(
    'make',
    found.value.map((q) => ({ ...fromPasted(q, newId), ...(q.points === null ? {} : { points: q.points }) })),
  );
  text.value = '';
}
const EXAMPLE = `1. Which part locks the wheel? (2 points)
a) the roller
b) the pallet *
c) the barrel

2. A movement beats 8 times a second. How many times an hour?
→ 28800

3. The [lever] is moved by the [roller jewel].`;
</script>

<template>
  <div class="sheet paste" role="dialog" aria-label="Paste a list of questions">
    <h2>A list of questions</h2>
    <div class="halves">
      <div>
        <TextField v-model="text" rows="18" aria-label="The list" :placeholder="EXAMPLE" />
        <p class="label">
          A number begins a question; letters or dashes its answers, a * the right one; → an answer to write, ± a tolerance; ↔ pairs;
          [brackets] a blank; (2 points) its points.
        </p>
      </div>
      <ol class="found" aria-label="What was recognised" aria-live="polite">
        <li v-for="q in found" :key="q.line">
          <p>
            <b>{{ KIND_WORDS[q.key.kind] }}</b>
            <span class="soft">{{ pointsInWords(q.points ?? 1000) }}</span>
          </p>
          <p>{{ q.words }}</p>
          <ul v-if="'choices' in q.key">
            <li v-for="(c, n) in q.key.choices" :key="n" :class="{ right: c.isRight }">{{ c.words }}</li>
          </ul>
          <p v-for="f in q.faults" :key="f" class="clay">{{ f }}</p>
        </li>
        <li v-if="found.length === 0" class="soft none">What is recognised stands here.</li>
      </ol>
    </div>
    <p>
      <ActButton look="go" :disabled="found.length === 0" @click="make">
        Make {{ found.length === 1 ? 'one question' : `${found.length} questions` }}
      </ActButton>
      <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
      <span v-if="whole.length < found.length" class="clay"
        >{{ found.length - whole.length }} of them still lack something; that can be added on the paper.</span
      >
    </p>
  </div>
</template>

<style scoped>
.paste {
  padding: 20px 26px;
}
.halves {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 24px;
  margin: 10px 0;
}
.text-field {
  width: 100%;
  box-sizing: border-box;
  border: 1px solid var(--frost);
  border-radius: 4px;
  padding: 10px 12px;
  background: var(--paper);
}
.found {
  max-height: 420px;
  overflow: auto;
  margin: 0;
  padding-left: 22px;
}
.found > li {
  padding-bottom: 10px;
}
.found ul {
  padding-left: 18px;
}
.right {
  color: var(--needle);
  font-weight: 600;
}
.none {
  list-style: none;
}
</style>

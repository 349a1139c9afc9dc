<script setup lang="ts">
import type { QuizQuestions } from '@rosemary/api';
import { countOf, fromPasted, pointsInWords, type PastedQuestion, readPasted } from '@rosemary/core';
import { computed, nextTick, ref } from 'vue';
import { useChosen, useKeptLine } from '../platform/kept.ts';
import { newId } from '../questions/keys/shares.ts';
import ActButton from '../parts/ActButton.vue';
import TextField from '../parts/fields/TextField.vue';
import { listFromHtml } from './pastedList.ts';
import PastedLine from './PastedLine.vue';

/** A list of questions as teachers have it, typed or pasted: recognised as one types, looked at and mended before anything is made. */
const props = defineProps<{ make: (questions: QuizQuestions['questions']) => Promise<boolean> }>();
const emit = defineEmits<{ leave: [] }>();
const text = useKeptLine(() => 'pasted questions');
/** What was changed beside the list, by what the list says of it: a question that is typed anew begins afresh. */
const changes = useChosen<Record<string, PastedQuestion>>(() => 'changes of pasted questions', {});
const MOST = 200;
const list = computed(() => readPasted(text.value));
const found = computed(() => {
  const seen = new Map<string, number>();
  return list.value.questions.map((asRead) => {
    const said = JSON.stringify([asRead.words, asRead.key, asRead.points]);
    const times = (seen.get(said) ?? 0) + 1;
    seen.set(said, times);
    const id = `${times} ${said}`;
    return { id, question: changes.value[id] ?? asRead };
  });
});
const lacking = computed(() => found.value.filter((f) => f.question.faults.length > 0).length);
const doubted = computed(() => found.value.filter((f) => f.question.faults.length === 0 && f.question.doubts.length > 0).length);
const points = computed(() => found.value.reduce((sum, f) => sum + (f.question.points ?? 1000), 0));
const summary = computed(() =>
  [
    `${countOf(found.value.length, 'question')}, ${pointsInWords(points.value)}`,
    lacking.value === 0 ? '' : `${lacking.value} ${lacking.value === 1 ? 'lacks' : 'lack'} something`,
    doubted.value === 0 ? '' : `${doubted.value} to look at`,
  ]
    .filter(Boolean)
    .join(' · '),
);
function change(id: string, question: PastedQuestion): void {
  changes.value = { ...changes.value, [id]: question };
}
/** Goes from one question that lacks something or is doubted to the next. */
const at = ref(-1);
async function next(): Promise<void> {
  const all = found.value.flatMap(({ question }, n) => (question.faults.length + question.doubts.length > 0 ? [n] : []));
  at.value = all.find((n) => n > at.value) ?? all[0] ?? -1;
  await nextTick();
  document.getElementById(`pasted-${at.value}`)?.querySelector<HTMLElement>('input')?.focus();
}
const isMaking = ref(false);
async function makeAll(): Promise<void> {
  isMaking.value = true;
  const questions = found.value.map(({ question: q }) => ({ ...fromPasted(q, newId), ...(q.points === null ? {} : { points: q.points }) }));
  // What was typed stays until all of it is made.
  if (await props.make(questions)) {
    text.value = '';
    changes.value = {};
  }
  isMaking.value = false;
}
/** What comes with its styles keeps those that say something: bold keys, lists that are only drawn, tables. */
function onPaste(event: ClipboardEvent): void {
  const html = event.clipboardData?.getData('text/html') ?? '';
  const plain = html === '' ? null : listFromHtml(html);
  const field = event.target;
  if (plain === null || !(field instanceof HTMLTextAreaElement)) return;
  event.preventDefault();
  field.setRangeText(plain, field.selectionStart, field.selectionEnd, 'end');
  text.value = field.value;
}
const EXAMPLE = `1. Which part locks the wheel? [2 marks]
A. the roller
B. the pallet
C. the barrel
Answer: B

2. The roller drives the train. (F)

3. How many beats an hour at 8 a second?
Answer: 28800`;
</script>

<template>
  <div class="sheet paste" role="dialog" aria-label="Paste a list of questions">
    <h2>A list of questions</h2>
    <div class="halves">
      <div @paste.capture="onPaste">
        <TextField v-model="text" rows="22" aria-label="The list" :placeholder="EXAMPLE" />
        <p class="label">
          As you have it, typed or from a document: numbered or not, answers with letters, dashes or boxes, a key by a star, bold, “Answer:
          B” or a list at the end, blanks as ____, pairs in two columns, points in brackets, “Feedback:” on a line.
        </p>
      </div>
      <div>
        <p v-if="found.length > 0" class="sum spread" role="status">
          {{ summary }}
          <ActButton v-if="lacking + doubted > 0" look="act" @click="next">Next to look at</ActButton>
        </p>
        <ol class="found" aria-label="What was recognised">
          <li v-for="({ id, question }, n) in found" :id="`pasted-${n}`" :key="id">
            <PastedLine :question="question" :number="n + 1" @change="change(id, $event)" />
          </li>
          <li v-if="found.length === 0" class="soft none">Each question stands here with its key as soon as it is typed.</li>
        </ol>
        <p v-if="list.leftOut.length > 0" class="soft">
          Left out as {{ list.leftOut.length === 1 ? 'a title' : 'titles' }}:
          {{ list.leftOut.map((line) => `“${line.words}”`).join(', ') }}
        </p>
      </div>
    </div>
    <p>
      <ActButton look="go" :disabled="found.length === 0 || found.length > MOST || isMaking" @click="makeAll">
        {{ isMaking ? 'Making…' : `Make ${found.length === 1 ? 'one question' : `${found.length} questions`}` }}
      </ActButton>
      <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
      <span v-if="found.length > MOST" class="clay"
        >At most {{ MOST }} are made at once. Take the rest out of the list for a second time.</span
      >
      <span v-else-if="lacking > 0" class="clay">{{
        `${lacking === 1 ? 'One still lacks' : `${lacking} still lack`} something; that can also be added on the paper.`
      }}</span>
    </p>
  </div>
</template>

<style scoped>
.paste {
  padding: 20px 26px;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 24px;
  margin: 10px 0;
}
.found {
  height: 470px;
  overflow: auto;
  margin: 0;
  padding-left: 26px;
}
.found > li {
  padding: 8px 4px 10px 0;
  border-top: 1px solid var(--frost2);
}
</style>

<script setup lang="ts">
import {
  asKind,
  formatPoints,
  KIND_WORDS,
  parsePoints,
  PASTED_KINDS,
  type PastedKind,
  type PastedQuestion,
  pastedRuns,
  turnRight,
  withAnswer,
  withPoints,
} from '@rosemary/core';
import { computed, ref } from 'vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import LineField from '../parts/fields/LineField.vue';
import PickMark from '../parts/fields/PickMark.vue';

/** A question as it was recognised, with its key; kind, key and points are changed here, before it is made. */
const props = defineProps<{ question: PastedQuestion; number: number }>();
const emit = defineEmits<{ change: [question: PastedQuestion] }>();
const fault = ref('');
const key = computed(() => props.question.key);
const points = computed(() => formatPoints(props.question.points ?? 1000));
const answer = computed(() =>
  key.value.kind === 'short'
    ? key.value.accepted.join('; ')
    : key.value.kind === 'numeric'
      ? [
          key.value.value,
          key.value.tolerance.kind === 'relative'
            ? ` ± ${key.value.tolerance.percent} %`
            : key.value.tolerance.kind === 'absolute' && key.value.tolerance.amount !== '0'
              ? ` ± ${key.value.tolerance.amount}`
              : '',
          key.value.unit === null ? '' : ` ${key.value.unit}`,
        ].join('')
      : '',
);
const blanks = computed(() =>
  key.value.kind === 'blanks' ? key.value.parts.flatMap((p) => (typeof p === 'string' ? [] : [p.answer])) : [],
);
const setKind = (kind: unknown): void => {
  emit('change', asKind(props.question, kind as PastedKind));
};
function setPoints(text: string): void {
  const read = parsePoints(text);
  fault.value = read.ok ? '' : read.reason;
  if (read.ok) emit('change', withPoints(props.question, read.value));
}
const typed = (event: Event): string => (event.target as HTMLInputElement).value;
const name = (what: string): string => `${what} of question ${props.number}`;
</script>

<template>
  <div class="of">
    <ChoiceField class="kind" :model-value="key.kind" :aria-label="name('Kind')" @update:model-value="setKind">
      <option v-for="kind in PASTED_KINDS" :key="kind" :value="kind">{{ KIND_WORDS[kind] }}</option>
    </ChoiceField>
    <LineField class="points" :model-value="points" inputmode="decimal" :aria-label="name('Points')" @change="setPoints(typed($event))" />
    <span class="soft">{{ points === '1' ? 'point' : 'points' }}</span>
  </div>
  <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  <p v-for="(line, n) in question.words.split('\n')" :key="n">
    <component :is="run.styles[0] ?? 'span'" v-for="(run, at) in pastedRuns(line)" :key="at">{{ run.text }}</component>
  </p>
  <div v-if="'choices' in key" role="group" :aria-label="name('Key')">
    <div v-for="(c, n) in key.choices" :key="n" :class="['tick-line', { right: c.isRight }]">
      <PickMark
        :name="`key of ${number}`"
        :value="n"
        :model-value="c.isRight ? n : null"
        :is-several="key.kind === 'several'"
        :aria-label="`Right: ${c.words}`"
        @update:model-value="emit('change', turnRight(question, n))"
      />
      <span
        ><component :is="run.styles[0] ?? 'span'" v-for="(run, at) in pastedRuns(c.words)" :key="at">{{ run.text }}</component></span
      >
    </div>
  </div>
  <label v-else-if="key.kind === 'short' || key.kind === 'numeric'" class="field answer"
    ><span class="label">{{ key.kind === 'short' ? 'Accepted answers, parted by ;' : 'Answer, with ± and a tolerance' }}</span
    ><LineField :model-value="answer" @change="emit('change', withAnswer(question, typed($event)))"
  /></label>
  <div v-else-if="key.kind === 'blanks'" class="blanks">
    <label v-for="(blank, n) in blanks" :key="n" class="field"
      ><span class="label">Blank {{ n + 1 }}</span
      ><LineField :model-value="blank" @change="emit('change', withAnswer(question, typed($event), n))"
    /></label>
  </div>
  <ul v-else-if="key.kind === 'matching'" class="bare-list">
    <li v-for="(pair, n) in key.pairs" :key="n">
      <span>{{ pair.left }} <span class="soft">with</span> {{ pair.right || '…' }}</span>
    </li>
  </ul>
  <p v-if="question.feedback.general" class="soft">Feedback: {{ question.feedback.general }}</p>
  <p v-if="question.feedback.right" class="soft">Feedback when correct: {{ question.feedback.right }}</p>
  <p v-if="question.feedback.wrong" class="soft">Feedback when incorrect: {{ question.feedback.wrong }}</p>
  <p v-for="f in question.faults" :key="f" class="clay">{{ f }}</p>
  <p v-for="d in question.doubts" :key="d" class="doubt">Please look: {{ d }}</p>
</template>

<style scoped>
.of {
  display: grid;
  grid-template-columns: minmax(120px, 190px) 60px auto;
  gap: 10px;
  align-items: center;
}
.right {
  color: var(--needle);
  font-weight: 600;
}
.blanks {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(130px, 1fr));
  gap: 8px;
}
.doubt {
  border-left: 2px solid var(--straw);
  padding-left: 8px;
}
</style>

<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { QuestionView } from '@rosemary/api';
import { isMarkedByPerson, keyInWords, questionFilesAt, type QuestionKey } from '@rosemary/core';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import DocumentView from '../parts/DocumentView.vue';
import { shareWords } from './keys/shares.ts';

/** A question as it will be printed, its key marked. */
const props = defineProps<{ question: QuestionView }>();
const route = useRoute();
/** Its pictures may be of another course: they are fetched through the bank of the one it is looked at from. */
const shown = computed(() => {
  const at = { courseId: String(route.params.courseId), questionId: props.question.id };
  return questionFilesAt(props.question, (fileId) => urlOf(api.getQuestionFile, { ...at, fileId }));
});
const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';
const choices = computed(() => ('choices' in shown.value.key ? shown.value.key.choices : []));
const isOdd = (share: number): boolean => share !== 0 && share !== 100_000;
const calculated = computed(() => (props.question.key.kind === 'calculated' ? props.question.key.question : null));
const lines = computed(() => {
  const { key } = props.question;
  if (key.kind === 'hotspot') return [`${key.regions.length} ${key.regions.length === 1 ? 'place' : 'places'} in the picture`];
  if (key.kind === 'short') return [keyInWords(key, undefined).join(' or ')];
  return keyInWords(key, undefined);
});
/** As it is written by hand: × and ÷. */
const asFormula = (text: string): string => text.replace(/\*/g, '×').replace(/\//g, '÷').replace(/-/g, '−');
const units = (key: QuestionKey): string => ('rules' in key && 'units' in key.rules ? key.rules.units.map((u) => u.name).join(' or ') : '');
</script>

<template>
  <div>
    <DocumentView :document="shown.words" />
    <img v-if="shown.picture" :src="shown.picture.src" :alt="shown.picture.alt" class="picture" />
    <ol v-if="choices.length > 0" class="answers">
      <li v-for="(c, n) in choices" :key="c.id" :class="{ key: c.share > 0 }">
        <b>{{ LETTERS.charAt(n) }}</b>
        <DocumentView :document="c.words" class="words" />
        <span v-if="c.share > 0" class="hidden">right</span>
        <span v-if="isOdd(c.share)" class="soft">{{ shareWords(c.share) }} %</span>
      </li>
    </ol>
    <template v-else-if="calculated">
      <p class="under">
        <span class="box">{{ asFormula(lines[0] ?? '') || 'no formula yet' }}</span> <span class="soft">{{ units(question.key) }}</span>
      </p>
      <p class="soft small">
        <template v-for="(p, n) in calculated.parameters" :key="p.name"
          >{{ n > 0 ? ' · ' : '' }}<i>{{ p.name }}</i> {{ p.from === p.to ? `= ${p.from}` : `${p.from}…${p.to} step ${p.step}` }}</template
        >
      </p>
    </template>
    <p v-else-if="isMarkedByPerson(question.key.kind)" class="soft small">
      {{ question.key.kind === 'file' ? 'a file is given, marked by a person' : 'written at length, marked by a person' }}
    </p>
    <ul v-else class="lines">
      <li v-for="l in lines" :key="l">
        <span class="box">{{ l || 'no key yet' }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.answers,
.lines {
  list-style: none;
  margin: 0;
  padding: 0;
  font: 15px/25px var(--sans);
}
.answers li {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.answers b {
  width: 16px;
  color: var(--soft);
  font-weight: 400;
}
.answers .key,
.answers .key b {
  color: var(--needle);
}
.answers .key b {
  font-weight: 700;
}
.words {
  font: inherit;
}
.words :deep(p) {
  margin: 0;
}
.under,
.small {
  font: 14px/22px var(--sans);
}
.box {
  border-bottom: 1px solid var(--ink);
  color: var(--needle);
  font: 15px/24px var(--sans);
}
.picture {
  max-width: 60%;
  display: block;
  margin-bottom: 6px;
}
</style>

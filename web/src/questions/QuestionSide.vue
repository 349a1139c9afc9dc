<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import type { GivenAnswer, QuestionChange, QuestionView, Rehearsal, TryResult } from '@rosemary/api';
import {
  askQuestion,
  formatPoints,
  KIND_WORDS,
  newKey,
  parsePoints,
  type AskedQuestion,
  type DocumentNode,
  type QuestionKind,
  clockTime,
  countOf,
} from '@rosemary/core';
import { ref, shallowRef, watch } from 'vue';
import DocumentEditor from '../parts/DocumentEditor.vue';
import LineInput from '../parts/LineInput.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import AnswerField from './AnswerField.vue';
import { newId } from './keys/shares.ts';
import StimulusField from './StimulusField.vue';
import FoldOut from '../parts/FoldOut.vue';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';

/** What stands beside a question: its kind and points, what it is aligned to, what is said to students, and the ways to try it. */
const props = defineProps<{
  question: QuestionView;
  courseId: string;
  objectives: readonly { readonly code: string; readonly statement: string }[];
  points: number | null;
  floor: number | null;
  canEdit: boolean;
  save: (change: Omit<QuestionChange, 'version'>) => Promise<void>;
  setFeedback: (feedback: QuestionView['feedback']) => void;
}>();
const emit = defineEmits<{ points: [points: number]; floor: [floor: number | null]; reopened: [] }>();
const KINDS = Object.entries(KIND_WORDS) as [QuestionKind, string][];
const fault = ref('');
const savedAt = ref('');
async function attempt(work: () => Promise<void>): Promise<void> {
  fault.value = '';
  try {
    await work();
    savedAt.value = clockTime(new Date());
  } catch (error) {
    fault.value = error instanceof HttpProblem ? error.message : 'Not saved.';
  }
}
async function setKind(kind: QuestionKind): Promise<void> {
  await attempt(async () => {
    await props.save({ key: newKey(kind, newId, props.question.key) });
    emit('reopened');
  });
}
function setPoints(text: string): void {
  const read = parsePoints(text);
  if (read.ok) emit('points', read.value);
  else fault.value = read.reason;
}
const words = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((w) => w.trim())
      .filter((w) => w !== ''),
  ),
];
const feedback = shallowRef(props.question.feedback);
function say(which: 'right' | 'wrong' | 'general', document: DocumentNode): void {
  feedback.value = { ...feedback.value, [which]: document };
  props.setFeedback(feedback.value);
}
const SAID = [
  ['right', 'Feedback when correct'],
  ['wrong', 'Feedback when incorrect'],
  ['general', 'Feedback in any case'],
] as const;

/** Trying it, as a student would. */
const asked = shallowRef<AskedQuestion | null>(null);
const answer = shallowRef<GivenAnswer | null>(null);
const result = shallowRef<TryResult | null>(null);
const seed = ref('try 1');
function openTry(): void {
  result.value = null;
  answer.value = null;
  try {
    asked.value = askQuestion(props.question, props.question.id, seed.value, true);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
function another(): void {
  seed.value = `try ${Number(seed.value.split(' ')[1]) + 1}`;
  openTry();
}
const score = (): Promise<void> =>
  attempt(async () => {
    result.value = await call(
      api.tryQuestion,
      { courseId: props.courseId, questionId: props.question.id },
      { answer: answer.value, seed: seed.value },
    );
  });
const rehearsal = shallowRef<Rehearsal | null>(null);
const rehearse = (): Promise<void> =>
  attempt(async () => {
    rehearsal.value = await call(
      api.rehearseQuestion,
      { courseId: props.courseId, questionId: props.question.id },
      { answer: null, seed: 'rehearsal' },
    );
  });
const uses = shallowRef<readonly { courseId: string; itemId: string; title: string; course: string }[] | null>(null);
async function loadUses(): Promise<void> {
  uses.value = (await call(api.getQuestion, { courseId: props.courseId, questionId: props.question.id }).catch(() => ({ uses: [] }))).uses;
}
watch(
  () => props.question.id,
  () => {
    asked.value = null;
    rehearsal.value = null;
    uses.value = null;
    feedback.value = props.question.feedback;
  },
);
const figure = (value: number | null): string => (value === null ? '–' : value.toFixed(2).replace('0.', '.').replace('-', '−'));
</script>

<template>
  <div>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p class="label" role="status">{{ savedAt ? `Saved ${savedAt}` : '' }}</p>
    <ul v-if="question.faults.length > 0" class="faults">
      <li v-for="f in question.faults" :key="f" class="clay">{{ f }}</li>
    </ul>
    <fieldset :disabled="!canEdit || !question.canEdit" class="bare-fieldset">
      <label class="field"
        ><span class="label">Kind</span>
        <ChoiceField :model-value="question.key.kind" :disabled="question.isFixed" @change="setKind">
          <option v-for="[kind, word] in KINDS" :key="kind" :value="kind">{{ word }}</option>
        </ChoiceField></label
      >
      <div v-if="points !== null" class="two-columns">
        <label class="field"><span class="label">Points</span><LineInput :value="formatPoints(points)" @commit="setPoints" /></label>
        <label class="field"
          ><span class="label">Lowest score</span>
          <ChoiceField :model-value="floor === null ? 'below' : 'zero'" @change="emit('floor', $event === 'zero' ? 0 : null)">
            <option value="zero">nothing</option>
            <option value="below">less than nothing</option>
          </ChoiceField></label
        >
      </div>
      <div class="two-columns">
        <label class="field"
          ><span class="label">Level</span>
          <ChoiceField
            :model-value="question.level ?? ''"
            @change="attempt(() => save({ level: ($event || null) as QuestionView['level'] }))"
          >
            <option value="">not said</option>
            <option value="easy">easy</option>
            <option value="medium">medium</option>
            <option value="hard">hard</option>
          </ChoiceField></label
        >
        <label class="field"
          ><span class="label">Objectives, by code</span
          ><LineInput
            :value="question.objectives.join(', ')"
            :list="`codes-${question.id}`"
            @commit="attempt(() => save({ objectives: words($event) }))"
          />
          <datalist :id="`codes-${question.id}`">
            <option v-for="o in objectives" :key="o.code" :value="o.code">{{ o.statement }}</option>
          </datalist></label
        >
      </div>
      <label class="field"
        ><span class="label">Tags</span><LineInput :value="question.tags.join(', ')" @commit="attempt(() => save({ tags: words($event) }))"
      /></label>
      <label class="field"
        ><span class="label">Title, if its words are not to serve</span
        ><LineInput :value="question.ownTitle" maxlength="160" @commit="attempt(() => save({ title: $event }))"
      /></label>
      <StimulusField
        :question="question"
        :course-id="courseId"
        :can-edit="canEdit && question.canEdit"
        :set="(stimulusId) => attempt(() => save({ stimulusId }))"
      />
      <FoldOut v-for="[which, word] in SAID" :key="`${question.id} ${which}`" :open="question.feedback[which] !== null">
        <template #summary
          ><span class="label">{{ word }}</span></template
        >
        <DocumentEditor :model-value="question.feedback[which]" :label="word" is-small @change="say(which, $event)" />
      </FoldOut>
    </fieldset>
    <section class="part">
      <p>
        <ActButton look="act" @click="openTry">try it</ActButton> · <ActButton look="act" @click="rehearse">rehearse the key</ActButton> ·
        <ActButton look="act" @click="loadUses">where it is used</ActButton>
      </p>
      <div v-if="asked" class="try">
        <AnswerField :asked="asked" :answer="answer" label="Try" @answer="answer = $event" @typing="answer = $event" />
        <p>
          <ActButton look="quiet" @click="score">Score it</ActButton>
          <ActButton look="act" @click="another">another paper</ActButton>
        </p>
        <p v-if="result" role="status">
          <b>{{ result.share === null ? 'Waits for a person' : `${result.share} %` }}</b> <span class="soft">{{ result.rule }}</span>
        </p>
      </div>
      <div v-if="rehearsal" class="try" role="status">
        <p v-for="w in rehearsal.warnings" :key="w" class="clay">{{ w }}</p>
        <p v-if="rehearsal.byGuessing !== null" class="soft">Whoever guesses can expect {{ rehearsal.byGuessing }} %.</p>
        <template v-if="rehearsal.samples">
          <p v-for="w in [...rehearsal.samples.faults, ...rehearsal.samples.warnings]" :key="w" class="clay">{{ w }}</p>
          <PlainTable>
            <tbody>
              <tr v-for="(r, n) in rehearsal.samples.rows" :key="n">
                <td>
                  {{
                    Object.entries(r.values)
                      .map(([name, value]) => `${name} ${value}`)
                      .join(', ')
                  }}
                </td>
                <td class="num">{{ r.answer }}</td>
              </tr>
            </tbody>
          </PlainTable>
        </template>
        <PlainTable v-if="rehearsal.rows.length > 0">
          <thead>
            <tr>
              <th>answer</th>
              <th class="num">%</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in rehearsal.rows" :key="`${r.answer} ${r.isNearMiss}`" :title="r.rule">
              <td>
                {{ r.answer }} <span class="soft">{{ r.isNearMiss ? 'near miss' : `${r.times} ×` }}</span>
              </td>
              <td class="num">{{ r.share ?? '–' }}</td>
            </tr>
          </tbody>
        </PlainTable>
        <p v-else-if="!rehearsal.samples && rehearsal.byGuessing === null" class="soft">No answer has come yet to rehearse it against.</p>
      </div>
      <ul v-if="uses" class="uses">
        <li v-for="u in uses" :key="u.itemId">
          <router-link :to="{ name: 'quiz', params: { courseId: u.courseId, itemId: u.itemId } }">{{ u.title }}</router-link>
          <span class="soft">{{ u.course }}</span>
        </li>
        <li v-if="uses.length === 0" class="soft">In no quiz.</li>
      </ul>
      <p class="label">
        by {{ question.author }} · version {{ question.number
        }}<template v-if="question.newest > question.number"> of {{ question.newest }}</template>
        <template v-if="question.use.attempts > 0">
          · over {{ countOf(question.use.attempts, 'answer') }} in every quiz: share correct {{ figure(question.use.shareRight) }} (the mean
          share of its points), item–rest {{ figure(question.use.itemRest) }} (how its points go with the rest of the paper)</template
        >
      </p>
    </section>
  </div>
</template>

<style scoped>
.part {
  border-top: 1px solid var(--frost);
  margin-top: 12px;
  padding-top: 10px;
}
.try {
  background: var(--sub);
  padding: 10px 12px;
  margin: 8px 0;
}
.try :deep(.words),
.try :deep(.document) {
  font-size: 14.5px;
  line-height: 21px;
}
.try .plain td {
  padding: 3px 6px 3px 0;
}
.faults {
  margin: 0 0 12px;
  padding-left: 18px;
  font-size: 13.5px;
}
.uses {
  padding-left: 18px;
  margin: 6px 0;
}
</style>

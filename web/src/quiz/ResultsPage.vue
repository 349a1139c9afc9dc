<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { AttemptAct, AttemptLine, OutdatedScores, QuizPerson, QuizResults } from '@rosemary/api';
import { dayAndTime, formatPoints } from '@rosemary/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRoute } from 'vue-router';
import FollowUpsPart from '../followUp/FollowUpsPart.vue';
import { call } from '../platform/call.ts';
import { HttpProblem } from '../platform/http.ts';
import { useFresh } from '../platform/useEvents.ts';
import { useCourse } from '../stores/courseStore.ts';
import { useNotices } from '../stores/noticeStore.ts';
import { useQuiz } from '../stores/quizStore.ts';
import ToMark from './ToMark.vue';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';
import LineField from '../parts/fields/LineField.vue';
import ActionMenu from '../parts/ActionMenu.vue';

/** Everybody at a quiz: who has not begun, who is in the middle of it, who handed in; and what waits to be marked. */
const route = useRoute();
const course = useCourse();
const quiz = useQuiz();
const notices = useNotices();
const results = shallowRef<QuizResults | null>(null);
const fault = ref('');
const only = ref<QuizPerson['state'] | ''>('');
const acting = ref<{ line: AttemptLine; name: string; action: AttemptAct['action']; minutes: number; reason: string } | null>(null);
const actFault = ref('');
const courseId = computed(() => String(route.params.courseId));
/** Questions whose answers were scored by a rule that holds no longer. */
const outdated = ref<OutdatedScores['questions']>([]);
async function readOutdated(): Promise<void> {
  if (course.head?.role === 'instructor') outdated.value = (await call(api.getOutdatedScores, quiz.base)).questions;
}
async function scoreAgain(one: OutdatedScores['questions'][number]): Promise<void> {
  try {
    const left = await call(api.scoreAgain, quiz.base, { questionId: one.questionId }, `“${one.title}” scored again`);
    if (left === null) return;
    outdated.value = left.questions;
    notices.say(`The answers to “${one.title}” are scored again.`);
    await load();
  } catch (error) {
    notices.sayFault(error);
  }
}
async function load(): Promise<void> {
  try {
    results.value = await call(api.getQuizResults, quiz.base);
    await readOutdated();
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
useFresh(courseId, ['work', 'marks', 'grades'], load);
const STATES: readonly (readonly [QuizPerson['state'], string])[] = [
  ['under way', 'under way'],
  ['waiting', 'waits to be marked'],
  ['scored', 'scored'],
  ['not begun', 'not begun'],
  ['set aside', 'set aside'],
];
const WORDS = Object.fromEntries(STATES) as Record<string, string>;
const inSection = computed(() => results.value?.people.filter((p) => course.sectionId === null || p.sectionId === course.sectionId) ?? []);
const counts = computed(() =>
  STATES.map(([state, word]) => ({ state, word, many: inSection.value.filter((p) => p.state === state).length })).filter((c) => c.many > 0),
);
const shown = computed(() => inSection.value.filter((p) => only.value === '' || p.state === only.value));
const when = (at: string | null): string => (at === null ? '' : dayAndTime(Date.parse(at), course.zone, course.now));
const canCorrect = computed(() => course.head?.role === 'instructor');
const HOW = { time: 'handed in by the clock', instructor: 'handed in by staff', paper: 'on paper' } as const;
function about(l: AttemptLine): string {
  return [
    l.state === 'open' ? `${l.answered} of ${l.questions} answered${l.lastSavedAt ? `, last ${when(l.lastSavedAt)}` : ''}` : '',
    l.how === null || l.how === 'student' ? '' : HOW[l.how],
    l.addedMinutes > 0 ? `${l.addedMinutes} min added` : '',
    l.overSeconds > 0 ? `${Math.ceil(l.overSeconds / 60)} min over` : '',
    l.left > 0 ? `left the page ${l.left === 1 ? 'once' : `${l.left} times`}` : '',
    l.cameLate > 0 ? `${l.cameLate === 1 ? 'one answer' : `${l.cameLate} answers`} came after time` : '',
    l.state === 'set aside' ? 'set aside' : '',
  ]
    .filter((w) => w !== '')
    .join(' · ');
}
const ACTS: Readonly<Record<AttemptAct['action'], string>> = {
  extend: 'Give more time',
  resume: 'Open it again',
  'hand in': 'Hand it in',
  'set aside': 'Set it aside',
  'take late': 'Take the late answers',
};
const actsFor = (l: AttemptLine): AttemptAct['action'][] => [
  ...(l.state === 'open' ? (['extend', 'hand in'] as const) : (['resume'] as const)),
  ...(l.cameLate > 0 && l.state === 'handed in' ? (['take late'] as const) : []),
  ...(l.state === 'set aside' ? [] : (['set aside'] as const)),
];
function begin(line: AttemptLine, name: string, action: AttemptAct['action']): void {
  actFault.value = '';
  acting.value = { line, name, action, minutes: action === 'extend' || action === 'resume' ? 10 : 0, reason: '' };
}
async function act(): Promise<void> {
  const a = acting.value;
  if (a === null) return;
  actFault.value = '';
  try {
    const body = { action: a.action, minutes: a.minutes, reason: a.reason };
    if ((await call(api.changeAttempt, { ...quiz.base, attemptId: a.line.id }, body, a.name)) === null) return;
    acting.value = null;
    notices.say(`${a.name}: done.`);
    await load();
  } catch (error) {
    actFault.value = error instanceof HttpProblem ? error.message : 'Not done.';
  }
}
async function setUndone(id: string, isUndone: boolean): Promise<void> {
  try {
    const at = { ...quiz.base, correctionId: id };
    const done = isUndone
      ? await call(api.takeBackCorrection, at, undefined, 'Without the correction')
      : await call(api.restoreCorrection, at, undefined, 'The correction holds again');
    if (done === null) return;
    await load();
    notices.say(isUndone ? 'The correction is taken back, and every attempt marked again.' : 'The correction holds again.', () =>
      setUndone(id, !isUndone),
    );
  } catch (error) {
    notices.sayFault(error);
  }
}
const CORRECTED = { key: 'other key', drop: 'left out', credit: 'all its points to everybody', points: 'other points' } as const;
</script>

<template>
  <section class="page">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <template v-if="!results && !fault"><div v-for="n in 8" :key="n" class="skeleton" style="height: 22px; margin-top: 12px" /></template>
    <template v-else-if="results">
      <ToMark :results="results" :can-share="canCorrect" :reload="load" />
      <p v-for="o in outdated" :key="o.questionId" class="outdated">
        {{ o.answers === 1 ? 'One answer' : `${o.answers} answers` }} to “{{ o.title }}” {{ o.answers === 1 ? 'was' : 'were' }} scored when
        a right side without a partner still counted against whoever had every pair right.
        <ActButton look="act" @click="scoreAgain(o)">Score them again</ActButton>
      </p>
      <p class="chips" role="group" aria-label="Only those">
        <ActButton :class="['chip', { on: only === '' }]" :aria-pressed="only === ''" @click="only = ''"
          >All {{ inSection.length }}</ActButton
        >
        <ActButton
          v-for="c in counts"
          :key="c.state"
          :class="['chip', { on: only === c.state }]"
          :aria-pressed="only === c.state"
          @click="only = c.state"
        >
          {{ c.word }} {{ c.many }}
        </ActButton>
        <a class="end" :href="urlOf(api.getResultsTable, quiz.base)" download>Download CSV</a>
      </p>
      <PlainTable>
        <thead>
          <tr>
            <th>Student</th>
            <th>Section</th>
            <th>State</th>
            <th>Begun</th>
            <th>Handed in</th>
            <th class="num">Score</th>
            <th />
            <th />
          </tr>
        </thead>
        <tbody>
          <template v-for="p in shown" :key="p.enrolmentId">
            <tr v-if="p.attempts.length === 0">
              <td>{{ p.name }}</td>
              <td class="soft">{{ p.section }}</td>
              <td class="soft">{{ WORDS[p.state] }}</td>
              <td colspan="5" />
            </tr>
            <tr v-for="(l, n) in p.attempts" :key="l.id">
              <td>{{ n === 0 ? p.name : '' }}</td>
              <td class="soft">{{ n === 0 ? p.section : '' }}</td>
              <td>
                {{
                  l.state === 'open'
                    ? WORDS['under way']
                    : l.state === 'set aside'
                      ? 'set aside'
                      : l.score === null
                        ? WORDS.waiting
                        : `attempt ${l.number}`
                }}
              </td>
              <td class="soft">{{ when(l.begunAt) }}</td>
              <td class="soft">{{ when(l.handedInAt) }}</td>
              <td class="num">
                <router-link v-if="l.state !== 'open'" :to="{ name: 'quiz-attempt', params: { ...route.params, attemptId: l.id } }">{{
                  l.score === null ? `${formatPoints(l.soFar ?? 0)} + …` : formatPoints(l.score)
                }}</router-link>
                <span v-if="l.isCounted && p.attempts.length > 1" class="soft"> counts</span>
              </td>
              <td class="soft small">{{ about(l) }}</td>
              <td>
                <ActionMenu
                  words="more"
                  :label="`What can be done with attempt ${l.number} of ${p.name}`"
                  @choose="begin(l, p.name, $event as AttemptAct['action'])"
                >
                  <option v-for="a in actsFor(l)" :key="a" :value="a">{{ ACTS[a] }}</option>
                </ActionMenu>
              </td>
            </tr>
          </template>
        </tbody>
      </PlainTable>
      <p v-if="shown.length === 0" class="soft">Nobody here.</p>
      <FollowUpsPart :base="quiz.base" :can-edit="canCorrect" />
      <div v-if="results.corrections.length > 0" class="corrections">
        <h2>Corrections</h2>
        <ul>
          <li v-for="c in results.corrections" :key="c.id" :class="{ soft: c.isUndone }">
            {{ c.question }}: {{ CORRECTED[c.kind] }}{{ c.points === null ? '' : ` (${formatPoints(c.points)})` }}. {{ c.reason }}
            <span class="soft"
              >{{ c.by }}, {{ when(c.at) }}{{ c.isUndone ? ', taken back' : c.isApplied ? '' : ', being marked again' }}</span
            >
            <ActButton v-if="canCorrect" look="act" @click="setUndone(c.id, !c.isUndone)">
              {{ c.isUndone ? 'let it hold again' : 'take it back' }}
            </ActButton>
          </li>
        </ul>
      </div>
    </template>
    <v-dialog :model-value="acting !== null" max-width="460" @update:model-value="acting = null">
      <form v-if="acting" class="sheet act-form" @submit.prevent="act">
        <h2>{{ ACTS[acting.action] }}</h2>
        <p>{{ acting.name }}, attempt {{ acting.line.number }}</p>
        <label v-if="acting.action === 'extend' || acting.action === 'resume'" class="field"
          ><span class="label">Minutes</span><LineField v-model.number="acting.minutes" type="number" min="0" max="1440"
        /></label>
        <label class="field"
          ><span class="label">Why</span><LineField v-model="acting.reason" maxlength="600" :required="acting.action === 'set aside'"
        /></label>
        <p v-if="actFault" class="fault" role="alert">{{ actFault }}</p>
        <p>
          <ActButton type="submit" look="go">{{ ACTS[acting.action] }}</ActButton>
          <ActButton look="quiet" @click="acting = null">Leave it</ActButton>
        </p>
      </form>
    </v-dialog>
  </section>
</template>

<style scoped>
.outdated {
  border-left: 3px solid var(--clay);
  padding: 2px 0 2px 12px;
  margin-bottom: 12px;
}
.page {
  padding: 16px 26px 60px;
}

.corrections {
  margin-bottom: 16px;
}
.corrections ul {
  padding-left: 18px;
  margin: 4px 0;
}
.corrections {
  margin-top: 24px;
}
.chips {
  display: flex;
  gap: 4px;
  align-items: baseline;
  margin-bottom: 8px;
}
.plain td {
  padding: 5px 12px 5px 0;
}
.small {
  font-size: 13px;
}
.acts {
  width: 46px;
}
.act-form {
  padding: 20px 26px;
}
.act-form p {
  margin: 8px 0;
}
</style>

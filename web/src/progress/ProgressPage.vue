<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { ProgressRhythm } from '@rosemary/api';
import { countOf, dayAndTime } from '@rosemary/core';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import ActButton from '../parts/ActButton.vue';
import ChoiceField from '../parts/fields/ChoiceField.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import HowFarSheet from './HowFarSheet.vue';
import ObjectivesSheet from './ObjectivesSheet.vue';
import ResultsSheet from './ResultsSheet.vue';
import RhythmSheet from './RhythmSheet.vue';
import VisitsSheet from './VisitsSheet.vue';
import WordsSheet from './WordsSheet.vue';
import { useReport } from './useReport.ts';

/** The report of a course, sheet under sheet: who needs a word, how far, results, objectives, rhythm, visits against results. */
const route = useRoute();
const router = useRouter();
const course = useCourse();
const courseId = computed(() => String(route.params.courseId));
const { report, fault, groupId, periodId, looked, load } = useReport(courseId);
/** What stands further down follows a frame after what is on the screen, so that a choice is answered at once. */
const following = shallowRef(looked.value);
watch(looked, (now) => {
  requestAnimationFrame(() => {
    setTimeout(() => {
      following.value = now;
    });
  });
});
const rhythm = shallowRef<ProgressRhythm | null>(null);
const rhythmFault = ref('');
onMounted(async () => {
  await load();
  try {
    rhythm.value = await call(api.getProgressRhythm, { courseId: courseId.value });
  } catch (error) {
    rhythmFault.value = error instanceof Error ? error.message : '';
  }
});
const person = computed({
  get: () => (typeof route.query.person === 'string' ? route.query.person : null),
  set: (id) => {
    void router.replace({ query: id === null ? {} : { person: id } });
  },
});
const SHEETS = [
  ['words-sheet', 'Who needs a word'],
  ['how-far-sheet', 'How far'],
  ['results-sheet', 'Results'],
  ['objectives-sheet', 'Objectives'],
  ['rhythm-sheet', 'Rhythm'],
  ['visits-sheet', 'Visits and results'],
] as const;
const sheets = computed(() => SHEETS.filter(([id]) => id !== 'visits-sheet' || report.value?.showsVisitsAgainstResults === true));
function goTo(id: string): void {
  document.getElementById(id)?.scrollIntoView({ block: 'start' });
}
const print = (): void => {
  window.print();
};
const weekWords = computed(() =>
  course.weeks === null
    ? ''
    : course.weeks[0] === course.weeks[1]
      ? `week ${course.weeks[0]}`
      : `weeks ${course.weeks[0]} to ${course.weeks[1]}`,
);
/** What is looked at, over the printed report. */
const about = computed(() =>
  [
    course.head?.about,
    course.head?.sections.find((s) => s.id === course.sectionId)?.title,
    report.value?.groups.find((g) => g.id === groupId.value)?.title,
    report.value?.periods.find((p) => p.id === periodId.value)?.title,
    weekWords.value,
    dayAndTime(course.now, course.zone, course.now),
  ]
    .filter(Boolean)
    .join(' · '),
);
/** What does not count, once for the whole report. */
const left = computed(() => {
  const l = report.value?.left;
  if (l === undefined) return '';
  const parts = [
    l.withdrawn > 0 ? countOf(l.withdrawn, 'student who has withdrawn', 'students who have withdrawn') : '',
    l.samples > 0 ? countOf(l.samples, 'sample student') : '',
    l.drafts > 0 ? countOf(l.drafts, 'draft') : '',
  ].filter(Boolean);
  return parts.length === 0 ? '' : `Left out: ${parts.join(', ')}. `;
});
</script>

<template>
  <div class="report">
    <header class="print-only">
      <h1>{{ course.head?.title }}</h1>
      <p>{{ about }}</p>
    </header>
    <p v-if="fault" class="fault" role="alert">{{ fault }} <ActButton look="act" @click="load">Try again</ActButton></p>
    <div v-else-if="!report"><div v-for="n in 14" :key="n" class="skeleton" style="height: 18px; margin-top: 8px" /></div>
    <template v-else>
      <nav class="bar-line no-print" aria-label="Sheets of the report">
        <ActButton v-for="[id, word] in sheets" :key="id" look="act" @click="goTo(id)">{{ word }}</ActButton>
        <label v-if="report.groups.length > 0"
          >group
          <ChoiceField v-model="groupId" is-word>
            <option value="">all</option>
            <option v-for="g in report.groups" :key="g.id" :value="g.id">{{ g.title }}</option>
          </ChoiceField></label
        >
        <label v-if="report.periods.length > 0"
          >period
          <ChoiceField v-model="periodId" is-word>
            <option value="">all</option>
            <option v-for="p in report.periods" :key="p.id" :value="p.id">{{ p.title }}</option>
          </ChoiceField></label
        >
        <span v-if="weekWords" class="soft"
          >{{ weekWords }} only · <ActButton look="act" @click="course.weeks = null">all weeks</ActButton></span
        >
        <span class="end"
          ><a :href="urlOf(api.getStatements, { courseId })" download>Everything recorded, as xAPI</a
          ><ActButton look="act" @click="print">Print, or save as PDF</ActButton></span
        >
      </nav>
      <WordsSheet id="words-sheet" :report="report" :looked="looked" :course-id="courseId" />
      <HowFarSheet id="how-far-sheet" v-model:person="person" :report="report" :looked="looked" />
      <ResultsSheet id="results-sheet" :report="report" :looked="following" />
      <ObjectivesSheet id="objectives-sheet" :report="report" :looked="following" :course-id="courseId" />
      <p v-if="rhythmFault" class="fault" role="alert">{{ rhythmFault }}</p>
      <RhythmSheet v-if="rhythm" id="rhythm-sheet" :report="report" :looked="following" :rhythm="rhythm" />
      <VisitsSheet v-if="report.showsVisitsAgainstResults" id="visits-sheet" :report="report" :looked="following" :course-id="courseId" />
      <p class="foot">
        As of {{ dayAndTime(course.now, course.zone, course.now) }}. {{ left }}Shares count required items that are open or past for a
        student. Results are finished marks, released or not, as shares of the points; who is exempt, missing or not marked is in no plot.
        Results of work that is marked without names count once the names are told.
      </p>
    </template>
  </div>
</template>

<style src="./report.css"></style>

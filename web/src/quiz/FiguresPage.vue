<script setup lang="ts">
import * as api from '@rosemary/api/endpoints';
import { urlOf } from '@rosemary/api/endpoints';
import type { QuizStatistics } from '@rosemary/api';
import { formatPoints, KIND_WORDS, workingOfItem, workingOfReliability } from '@rosemary/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRoute } from 'vue-router';
import WorkingLines from '../parts/WorkingLines.vue';
import { call } from '../platform/call.ts';
import { useCourse } from '../stores/courseStore.ts';
import CorrectionForm from './CorrectionForm.vue';
import OptionBars from './OptionBars.vue';
import { useQuiz } from '../stores/quizStore.ts';
import ScoreBars from './ScoreBars.vue';
import ShareAgainstRest from './ShareAgainstRest.vue';
import ActButton from '../parts/ActButton.vue';
import PlainTable from '../parts/PlainTable.vue';

/** What the figures of a quiz tell of its questions, and what they give to think about, in words. */
const route = useRoute();
const course = useCourse();
const quiz = useQuiz();
const figures = shallowRef<QuizStatistics | null>(null);
const fault = ref('');
const chosen = ref<string | null>(null);
const correcting = ref<{ id: string; title: string; points: number } | null>(null);
const courseId = computed(() => String(route.params.courseId));
const canCorrect = computed(() => course.head?.role === 'instructor');
async function load(): Promise<void> {
  try {
    figures.value = await call(api.getQuizStatistics, quiz.base);
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  }
}
onMounted(load);
const two = (value: number | null): string => (value === null ? '–' : value.toFixed(2).replace('-', '−'));
const current = computed(() => figures.value?.questions.find((q) => q.id === chosen.value) ?? null);
const isWorking = ref(false);
const isFew = computed(() => (figures.value?.attempts ?? 0) < 30);
const flagged = computed(() => (isFew.value ? [] : (figures.value?.questions.filter((q) => q.flags.length > 0) ?? [])));
</script>

<template>
  <section class="page">
    <p v-if="fault" class="fault">{{ fault }}</p>
    <template v-if="!figures && !fault"><div v-for="n in 6" :key="n" class="skeleton" style="height: 24px; margin-top: 14px" /></template>
    <p v-else-if="figures && figures.attempts === 0" class="soft">
      Nobody’s attempt is scored yet. The figures of each question stand here as soon as some are.
    </p>
    <template v-else-if="figures">
      <p class="whole">
        <span
          ><b>{{ figures.attempts }}</b> first attempts</span
        >
        <span v-if="figures.medianMinutes !== null"
          >median <b>{{ figures.medianMinutes }}</b> min</span
        >
        <span v-if="figures.reliability">
          reliability (alpha)
          <ActButton look="act" class="num" :aria-expanded="isWorking" @click="isWorking = !isWorking">{{
            two(figures.reliability.alpha)
          }}</ActButton>
          <template v-if="figures.reliability.low !== null">
            between {{ two(figures.reliability.low) }} and {{ two(figures.reliability.high) }}</template
          >, error of a score
          <ActButton look="act" class="num" :aria-expanded="isWorking" @click="isWorking = !isWorking">{{
            two(figures.reliability.sem)
          }}</ActButton>
          points
        </span>
        <span v-else class="soft">{{ figures.whyNoReliability }}</span>
        <a :href="urlOf(api.getStatisticsTable, quiz.base)" download>Download CSV</a>
      </p>
      <WorkingLines v-if="isWorking && figures.reliability" class="working" :lines="workingOfReliability(figures.reliability)" />
      <p v-if="isFew" class="straw">Fewer than thirty attempts: figures of single questions are hints at best.</p>
      <div v-if="flagged.length > 0" class="flags">
        <h2>To think about</h2>
        <ul>
          <li v-for="q in flagged" :key="q.id">
            <ActButton look="act" @click="chosen = q.id">Question {{ q.number }}</ActButton> {{ q.flags[0] }}
          </li>
        </ul>
      </div>
      <div class="charts">
        <ShareAgainstRest :questions="figures.questions" :chosen="chosen" @choose="chosen = $event" />
        <ScoreBars :scores="figures.scores" :possible="figures.possible" />
      </div>
      <PlainTable>
        <thead>
          <tr>
            <th />
            <th>Question</th>
            <th>Kind</th>
            <th class="num">Points</th>
            <th class="num">Answers</th>
            <th class="num" title="mean share of its points">Share correct</th>
            <th class="num" title="correlation with the total less this question">Item–rest</th>
            <th class="num" title="share correct of the upper 27 % less that of the lower 27 %">Discrimination</th>
            <th class="num" title="median of the seconds spent on it">Seconds</th>
          </tr>
        </thead>
        <tbody>
          <template v-for="q in figures.questions" :key="q.id">
            <tr :class="{ on: chosen === q.id }">
              <td class="soft">{{ q.number }}</td>
              <td>
                <ActButton look="act" class="title" :aria-expanded="chosen === q.id" @click="chosen = chosen === q.id ? null : q.id">
                  {{ q.title }}
                </ActButton>
                <span v-if="q.flags.length > 0 && !isFew" class="clay label"> think about it</span>
              </td>
              <td class="soft">{{ KIND_WORDS[q.kind] }}</td>
              <td class="num">{{ formatPoints(q.points) }}</td>
              <td class="num">{{ q.attempts }}</td>
              <td class="num">{{ two(q.shareRight) }}</td>
              <td class="num">{{ two(q.itemRest) }}</td>
              <td class="num">{{ two(q.upperLower) }}</td>
              <td class="num">{{ q.medianSeconds ?? '–' }}</td>
            </tr>
            <tr v-if="current && chosen === q.id" class="more">
              <td />
              <td colspan="8">
                <WorkingLines class="working" :lines="workingOfItem(current)" />
                <div class="detail">
                  <OptionBars v-if="current.options.length > 0" :options="current.options" :letters="current.letters" />
                  <div>
                    <ol v-if="current.options.length > 0" class="words">
                      <li v-for="o in current.options" :key="o.id" :class="{ right: o.isRight }">
                        {{ current.letters[o.id] }} {{ current.optionWords[o.id] }}
                      </li>
                    </ol>
                    <p v-if="current.options.length > 0" class="label">
                      From above: the best, the middle and the last third of the class by their totals.
                    </p>
                    <ul v-if="current.flags.length > 0">
                      <li v-for="f in current.flags" :key="f">{{ f }}</li>
                    </ul>
                    <p v-if="canCorrect">
                      <ActButton look="quiet" @click="correcting = { id: q.id, title: q.title, points: q.points }">
                        Correct this question
                      </ActButton>
                    </p>
                  </div>
                </div>
              </td>
            </tr>
          </template>
        </tbody>
      </PlainTable>
    </template>
    <v-dialog :model-value="correcting !== null" max-width="640" @update:model-value="correcting = null">
      <CorrectionForm
        v-if="correcting"
        :course-id="courseId"
        :base="quiz.base"
        :question-id="correcting.id"
        :title="correcting.title"
        :points="correcting.points"
        :reload="load"
        @leave="correcting = null"
      />
    </v-dialog>
  </section>
</template>

<style scoped>
.page {
  padding: 16px 26px 60px;
  max-width: 1180px;
  width: 100%;
  box-sizing: border-box;
}
.whole {
  display: flex;
  gap: 8px 26px;
  flex-wrap: wrap;
  align-items: baseline;
}
.working {
  max-width: 640px;
  margin: 8px 0 12px;
}
.whole .num {
  font-weight: 600;
  font-variant-numeric: tabular-nums;
}
.whole a {
  margin-left: auto;
}
.flags {
  margin: 16px 0;
}
.flags ul {
  padding-left: 18px;
  margin: 4px 0 0;
}
.charts {
  display: flex;
  gap: 30px;
  align-items: flex-start;
  margin: 16px 0;
  flex-wrap: wrap;
}
.plain td {
  padding: 5px 10px 5px 0;
}
.title {
  color: var(--ink);
}
.on td {
  background: var(--bloom-wash);
}
.more td {
  border-top: 0;
}
.detail {
  display: flex;
  gap: 30px;
  padding: 6px 0 14px;
}
.words {
  list-style: none;
  padding: 0;
  margin: 0 0 8px;
}
.right {
  color: var(--needle);
  font-weight: 600;
}
</style>

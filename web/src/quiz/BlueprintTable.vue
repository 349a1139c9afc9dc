<script setup lang="ts">
import type { QuizDetail } from '@rosemary/api';
import { blueprint, formatPoints, workingOfExpected, type PlannedQuestion } from '@rosemary/core';
import { computed, ref } from 'vue';
import WorkingLines from '../parts/WorkingLines.vue';
import PlainTable from '../parts/PlainTable.vue';
import ActButton from '../parts/ActButton.vue';

/** What a paper asks: objectives against levels, with counts and points; and what can be expected of it. */
const props = defineProps<{ quiz: QuizDetail }>();
const planned = computed(() =>
  props.quiz.sections
    .flatMap((s) => s.parts)
    .flatMap((p): PlannedQuestion[] => {
      if (p.question !== null)
        return [
          {
            kind: p.question.key.kind,
            level: p.question.level,
            objectives: p.question.objectives,
            points: p.points,
            shareRight: p.question.use.shareRight,
            itemRest: p.question.use.itemRest,
          },
        ];
      if (p.draw === null) return [];
      const { draw } = p;
      // A draw is known by what it asks for, where it asks for one thing.
      return Array.from({ length: draw.count }, () => ({
        kind: draw.kinds[0] ?? ('single' as const),
        level: draw.levels.length === 1 ? (draw.levels[0] ?? null) : null,
        objectives: draw.objectives,
        points: p.points,
        shareRight: null,
        itemRest: null,
      }));
    }),
);
const isWorking = ref(false);
const table = computed(() => blueprint(planned.value));
const hasUnsaid = computed(() => table.value.together.unsaid > 0);
const statementOf = (code: string): string =>
  props.quiz.objectives.find((o) => o.code.toLowerCase() === code.toLowerCase())?.statement ?? '';
const near = (value: number): string => value.toFixed(2).replace('0.', '.');
const dot = (n: number): string | number => (n === 0 ? '·' : n);
</script>

<template>
  <div>
    <p class="label">Test blueprint</p>
    <PlainTable look="bare" class="blueprint">
      <thead>
        <tr>
          <th>Objective</th>
          <th>easy</th>
          <th>medium</th>
          <th>hard</th>
          <th v-if="hasUnsaid" title="level not said">?</th>
          <th>points</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in table.rows" :key="r.code">
          <td :title="statementOf(r.code)">
            {{ r.code === '' ? 'none' : r.code }} <span class="soft">{{ statementOf(r.code) }}</span>
          </td>
          <td>{{ dot(r.counts.easy) }}</td>
          <td>{{ dot(r.counts.medium) }}</td>
          <td>{{ dot(r.counts.hard) }}</td>
          <td v-if="hasUnsaid">{{ dot(r.unsaid) }}</td>
          <td>{{ formatPoints(r.points) }}</td>
        </tr>
        <tr class="together">
          <td>together</td>
          <td>{{ dot(table.together.counts.easy) }}</td>
          <td>{{ dot(table.together.counts.medium) }}</td>
          <td>{{ dot(table.together.counts.hard) }}</td>
          <td v-if="hasUnsaid">{{ dot(table.together.unsaid) }}</td>
          <td>{{ formatPoints(table.together.points) }}</td>
        </tr>
      </tbody>
    </PlainTable>
    <p class="label">Expected</p>
    <p>
      about
      <ActButton look="act" :aria-expanded="isWorking" @click="isWorking = !isWorking">{{ quiz.expected.minutes }} min</ActButton> for
      most<template v-if="quiz.expected.reliability !== null">
        · reliability near
        <ActButton look="act" :aria-expanded="isWorking" @click="isWorking = !isWorking">
          {{ near(quiz.expected.reliability) }}
        </ActButton></template
      >
    </p>
    <WorkingLines v-if="isWorking" class="working" :lines="workingOfExpected(quiz.expected)" />
    <p v-if="quiz.expected.withFourMore !== null" class="soft">
      four more questions like these would bring {{ near(quiz.expected.withFourMore) }}
    </p>
    <p v-if="quiz.expected.reliability === null" class="soft">Three questions at least, before its reliability can be told.</p>
  </div>
</template>

<style scoped>
.working {
  font-size: 13px;
  margin: 6px 0;
}
.blueprint {
  font-size: 13px;
  margin: 6px 0 14px;
}
.blueprint :deep(table) {
  width: 100%;
}
.blueprint td,
.blueprint th {
  padding: 4px 6px 4px 0;
  border-top: 1px solid var(--frost2);
  text-align: right;
  font-weight: 400;
}
.blueprint td:first-child,
.blueprint th:first-child {
  text-align: left;
}
.blueprint td:first-child {
  max-width: 116px;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.blueprint th {
  color: var(--soft);
}
.together td:first-child,
.together td:last-child {
  font-weight: 600;
}
</style>

<script setup lang="ts">
import type { MarkView, MarkingPart, RubricView } from '@rosemary/api';
import { criterionPoints, formatPoints, joinMarks } from '@rosemary/core';
import { computed } from 'vue';
import PlainTable from '../parts/PlainTable.vue';
import ActButton from '../parts/ActButton.vue';

/** What two have given on their own, side by side, to agree on the mark that counts. */
const props = defineProps<{ part: MarkingPart; rubric: RubricView | null }>();
const emit = defineEmits<{ take: [mark: MarkView] }>();
const both = computed(() => props.part.marks.flatMap((m) => (m.mark === null ? [] : [{ marker: m.marker, mark: m.mark }])));
const totals = computed(() => both.value.map((m) => m.mark.total ?? 0));
const mean = computed(() => Math.floor(((totals.value[0] ?? 0) + (totals.value[1] ?? 0) + 1) / 2));
/** The mean as one mark, with the levels and the words of both. */
function takeMean(): void {
  const [first, second] = both.value;
  if (first && second) emit('take', { ...first.mark, ...joinMarks(props.rubric?.criteria ?? [], [first.mark, second.mark]) });
}
const isSame = computed(() => totals.value[0] === totals.value[1]);
const rows = computed(() =>
  (props.rubric?.criteria ?? [])
    .filter((c) => c.form !== 'comment')
    .map((c) => ({
      title: c.title,
      points: both.value.map(({ mark }) => criterionPoints(c, { choices: mark.choices, given: mark.given })),
    })),
);
const text = (points: number | null | undefined): string => (points === null || points === undefined ? '–' : formatPoints(points));
</script>

<template>
  <section v-if="part.isOneOfTwo" class="pair" aria-label="Two markers">
    <p v-if="part.kind === 'looks'" class="soft">Two others mark this work, each on their own; you look on.</p>
    <p v-else-if="part.kind === 'marks'" class="soft">
      One of two marks: neither sees the other’s before both are finished.
      <template v-for="m in part.marks" :key="m.marker">
        {{ m.marker }}: {{ m.state === 'finished' ? 'finished' : 'has begun' }}.
      </template>
    </p>
    <template v-else>
      <PlainTable>
        <thead>
          <tr>
            <th>both are finished</th>
            <th v-for="row in rows" :key="row.title" class="num">{{ row.title }}</th>
            <th class="num">total</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(m, n) in both" :key="m.marker">
            <td>{{ m.marker }}</td>
            <td v-for="row in rows" :key="row.title" :class="['num', { apart: row.points[0] !== row.points[1] }]">
              {{ text(row.points[n]) }}
            </td>
            <td class="num">
              <b>{{ text(totals[n]) }}</b>
            </td>
          </tr>
        </tbody>
      </PlainTable>
      <p>
        <template v-if="isSame"><ActButton look="act" @click="emit('take', both[0]!.mark)">Both gave the same: take it</ActButton></template
        ><template v-else
          ><span class="clay">{{ formatPoints(Math.abs((totals[0] ?? 0) - (totals[1] ?? 0))) }} apart.</span> Take
          <template v-for="m in both" :key="m.marker"
            ><ActButton look="act" @click="emit('take', m.mark)">{{ m.marker.split(' ')[0] }}’s</ActButton>, </template
          >or <ActButton look="act" @click="takeMean">the mean, {{ formatPoints(mean) }}, with the words of both</ActButton>; or mark it
          anew below.</template
        >
      </p>
    </template>
  </section>
</template>

<style scoped>
.pair {
  background: var(--paper);
  border-top: 1px solid var(--frost);
  padding: 8px 20px;
  display: flex;
  gap: 24px;
  align-items: center;
  flex: none;
}
.pair .plain {
  width: fit-content;
}
.apart {
  background: var(--bloom-wash);
}
</style>

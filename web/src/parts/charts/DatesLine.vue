<script setup lang="ts">
import type { PeerBoard } from '@rosemary/api';
import { dayAndTime } from '@rosemary/core';
import { computed } from 'vue';

/** When works are due, reviews are open and due, and results come, on one line with now. */
const props = defineProps<{ dates: PeerBoard['dates']; zone: string; now: number }>();
const [WIDTH, EDGE] = [900, 70];
const DAY = 86_400_000;
const of = (at: string | null): number | null => (at === null ? null : Date.parse(at));
const marks = computed(() => {
  const { worksDueAt, reviewsDueAt, resultsAt } = props.dates;
  const all = [
    { at: of(worksDueAt), words: 'works due', isBelow: false },
    { at: of(reviewsDueAt), words: 'reviews due', isBelow: true },
    { at: of(resultsAt), words: 'results', isBelow: false },
  ];
  return all.flatMap(({ at, words, isBelow }) =>
    at === null ? [] : [{ at, isBelow, words: `${words} ${dayAndTime(at, props.zone, props.now)}` }],
  );
});
const range = computed(() => {
  const all = marks.value.map((m) => m.at);
  const [from, to] = [Math.min(...all), Math.max(...all)];
  return { from: from - 2 * DAY, to: Math.max(to, from + DAY) + 2 * DAY };
});
const x = (at: number): number => EDGE + ((WIDTH - 2 * EDGE) * (at - range.value.from)) / (range.value.to - range.value.from);
const opens = computed(() => of(props.dates.reviewsOpenAt) ?? of(props.dates.worksDueAt));
const bar = computed(() => {
  const due = of(props.dates.reviewsDueAt);
  return opens.value === null || due === null || due <= opens.value ? null : { x: x(opens.value), width: x(due) - x(opens.value) };
});
const middle = computed(() => (range.value.from + range.value.to) / 2);
/** Where the due date of the reviews is written to the right of now, the word goes to the left. */
const isNearDue = computed(() => {
  const due = of(props.dates.reviewsDueAt);
  return due !== null && props.now <= due;
});
const isInRange = computed(() => props.now >= range.value.from && props.now <= range.value.to);
const words = computed(() => marks.value.map((m) => m.words).join(', '));
</script>

<template>
  <svg v-if="marks.length > 0" :viewBox="`0 0 ${WIDTH} 64`" class="dates" role="img" :aria-label="words">
    <path :d="`M10 32H${WIDTH - 10}`" class="axis" />
    <rect v-if="bar" :x="bar.x" y="38" :width="bar.width" height="7" class="bar" />
    <g v-for="m in marks" :key="m.words">
      <path :d="`M${x(m.at)} ${m.isBelow ? 32 : 26}v${m.isBelow ? 14 : 12}`" class="mark" />
      <text :x="x(m.at)" :y="m.isBelow ? 60 : 18" :text-anchor="m.isBelow && now > m.at ? 'end' : m.at > middle ? 'end' : 'start'">
        {{ m.words }}
      </text>
    </g>
    <template v-if="isInRange">
      <path :d="`M${x(now)} 24V48`" class="now" />
      <text :x="x(now)" :dx="isNearDue ? -5 : 5" y="60" :text-anchor="isNearDue ? 'end' : 'start'" class="now-word">now</text>
    </template>
  </svg>
</template>

<style scoped>
.dates {
  width: 100%;
  max-width: 900px;
  display: block;
}
.axis {
  stroke: var(--frost);
}
.bar {
  fill: var(--bloom);
  opacity: 0.35;
}
.mark {
  stroke: var(--needle);
  stroke-width: 1.5;
}
.now {
  stroke: var(--clay);
  stroke-width: 1.5;
}
text {
  font-size: 12.5px;
  fill: var(--soft);
}
.now-word {
  fill: var(--clay);
}
</style>

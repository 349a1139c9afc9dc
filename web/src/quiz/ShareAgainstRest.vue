<script setup lang="ts">
import type { QuizStatistics } from '@rosemary/api';
import { axisBottom, axisLeft, forceCollide, forceSimulation, forceX, forceY, scaleLinear, select } from 'd3';
import { computed, onMounted, ref } from 'vue';

/** Every question by how many are right and how far it goes with the rest: the ones to think about lie low or at an edge. */
const props = defineProps<{ questions: QuizStatistics['questions']; chosen: string | null }>();
const emit = defineEmits<{ choose: [id: string] }>();
const [W, H, RADIUS] = [520, 250, 10];
const x = scaleLinear([0, 1], [44, W - 16]);
const y = scaleLinear([-0.4, 0.8], [H - 34, 12]);
const bottom = ref<SVGGElement | null>(null);
const left = ref<SVGGElement | null>(null);
onMounted(() => {
  if (bottom.value)
    select(bottom.value).call(
      axisBottom(x)
        .ticks(5)
        .tickSize(4)
        .tickFormat((v) => Number(v).toFixed(1)),
    );
  if (left.value)
    select(left.value).call(
      axisLeft(y)
        .ticks(6)
        .tickSize(4)
        .tickFormat((v) => Number(v).toFixed(1)),
    );
});
/** Where questions would lie on one another they stand aside, each on a line to its place. */
const dots = computed(() => {
  const placed = props.questions.flatMap((q) => {
    if (q.shareRight === null || q.itemRest === null) return [];
    const [cx, cy] = [x(q.shareRight), y(Math.max(-0.4, Math.min(0.8, q.itemRest)))];
    return [{ ...q, cx, cy, x: cx, y: cy }];
  });
  forceSimulation(placed)
    .force('x', forceX<(typeof placed)[number]>((d) => d.cx).strength(0.5))
    .force('y', forceY<(typeof placed)[number]>((d) => d.cy).strength(0.5))
    .force('apart', forceCollide(RADIUS + 0.5).iterations(4))
    .stop()
    .tick(150);
  return placed.map((d) => ({
    ...d,
    x: Math.max(44 + RADIUS, Math.min(W - RADIUS, d.x)),
    y: Math.max(RADIUS, Math.min(H - 34 - RADIUS / 2, d.y)),
  }));
});
const text = computed(() =>
  dots.value
    .map((d) => `question ${d.number}: share correct ${d.shareRight?.toFixed(2) ?? ''}, with the rest ${d.itemRest?.toFixed(2) ?? ''}`)
    .join('; '),
);
</script>

<template>
  <svg :viewBox="`0 0 ${W} ${H}`" class="chart" role="group" :aria-label="`Share correct against item–rest correlation. ${text}`">
    <rect :x="x(0)" :y="y(0.1)" :width="x(1) - x(0)" :height="y(-0.4) - y(0.1)" class="low" />
    <g ref="bottom" :transform="`translate(0 ${H - 34})`" class="axis" />
    <g ref="left" transform="translate(44 0)" class="axis" />
    <text :x="W - 16" :y="H - 3" text-anchor="end">share correct →</text>
    <text x="50" y="11">item–rest correlation ↑</text>
    <g
      v-for="d in dots"
      :key="d.id"
      role="button"
      tabindex="0"
      :aria-label="`Question ${d.number}, share correct ${d.shareRight?.toFixed(2) ?? ''}, item-rest ${d.itemRest?.toFixed(2) ?? ''}`"
      :aria-pressed="chosen === d.id"
      class="dot"
      :class="{ on: chosen === d.id, flagged: d.flags.length > 0 && d.attempts >= 30 }"
      @click="emit('choose', d.id)"
      @keydown.enter.prevent="emit('choose', d.id)"
    >
      <line :x1="d.cx" :y1="d.cy" :x2="d.x" :y2="d.y" class="way" />
      <circle :cx="d.x" :cy="d.y" :r="RADIUS" />
      <text :x="d.x" :y="d.y + 4" text-anchor="middle">{{ d.number }}</text>
    </g>
  </svg>
</template>

<style scoped>
.chart {
  width: 100%;
  max-width: 560px;
}
text {
  font: 12px var(--sans);
  fill: var(--soft);
}
.axis :deep(path),
.axis :deep(line) {
  stroke: var(--frost);
}
.axis :deep(text) {
  fill: var(--soft);
  font: 11px var(--sans);
}
.way {
  stroke: var(--leaf);
}
.low {
  fill: var(--frost2);
}
.dot {
  cursor: pointer;
}
.dot circle {
  fill: var(--paper);
  stroke: var(--leaf);
  stroke-width: 1.5;
}
.dot text {
  fill: var(--ink);
}
.dot.flagged circle {
  stroke: var(--clay);
  stroke-width: 2.5;
}
.dot.on circle {
  fill: var(--bloom-wash);
  stroke: var(--bloom);
}
</style>

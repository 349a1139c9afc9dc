<script setup lang="ts">
import { bin, max, scaleLinear } from 'd3';
import { formatPoints, pointsInWords } from '@rosemary/core';
import { computed } from 'vue';

/** How the scores of a quiz are spread. */
const props = defineProps<{ scores: readonly number[]; possible: number }>();
const [W, H] = [360, 230];
const bins = computed(() =>
  bin()
    .domain([0, Math.max(1, props.possible)])
    .thresholds(10)([...props.scores]),
);
const x = computed(() => scaleLinear([0, Math.max(1, props.possible)], [10, W - 10]));
const y = computed(() => scaleLinear([0, Math.max(1, max(bins.value, (b) => b.length) ?? 1)], [H - 30, 14]));
const words = computed(() => bins.value.map((b) => `${formatPoints(b.x0 ?? 0)} to ${formatPoints(b.x1 ?? 0)}: ${b.length}`).join('; '));
</script>

<template>
  <svg :viewBox="`0 0 ${W} ${H}`" class="chart" role="img" :aria-label="`Scores, how many in each range. ${words}`">
    <g v-for="b in bins" :key="b.x0">
      <rect :x="x(b.x0 ?? 0) + 1" :y="y(b.length)" :width="Math.max(0, x(b.x1 ?? 0) - x(b.x0 ?? 0) - 2)" :height="H - 30 - y(b.length)" />
      <text v-if="b.length > 0" :x="(x(b.x0 ?? 0) + x(b.x1 ?? 0)) / 2" :y="y(b.length) - 3" text-anchor="middle">{{ b.length }}</text>
    </g>
    <line x1="10" :x2="W - 10" :y1="H - 30" :y2="H - 30" />
    <text x="10" :y="H - 14">0</text>
    <text :x="W - 10" :y="H - 14" text-anchor="end">{{ pointsInWords(possible) }}</text>
  </svg>
</template>

<style scoped>
.chart {
  width: 100%;
  max-width: 380px;
}
rect {
  fill: var(--leaf);
}
line {
  stroke: var(--frost);
}
text {
  font: 12px var(--sans);
  fill: var(--soft);
}
</style>

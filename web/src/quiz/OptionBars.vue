<script setup lang="ts">
import type { OptionCount } from '@rosemary/core';
import { max, scaleLinear } from 'd3';
import { computed } from 'vue';

/** How many of each third of the class picked each answer. */
const props = defineProps<{ options: readonly OptionCount[]; letters: Readonly<Record<string, string>> }>();
const THIRDS = ['upper', 'middle', 'lower'] as const;
const WORDS = { upper: 'best third', middle: 'middle third', lower: 'last third' } as const;
const x = computed(() => scaleLinear([0, Math.max(1, max(props.options.flatMap((o) => THIRDS.map((t) => o[t]))) ?? 1)], [0, 150]));
const whole = (n: number): string => (Math.round(n * 10) / 10).toString();
const text = computed(() =>
  props.options
    .map(
      (o) =>
        `${props.letters[o.id] ?? '?'}${o.isRight ? ', right' : ''}: ${THIRDS.map((t) => `${whole(o[t])} of the ${WORDS[t]}`).join(', ')}`,
    )
    .join('; '),
);
</script>

<template>
  <svg :width="250" :height="options.length * 34 + 4" role="img" :aria-label="`Who picked what. ${text}`">
    <g v-for="(o, n) in options" :key="o.id" :transform="`translate(0 ${n * 34 + 2})`">
      <text x="14" y="19" text-anchor="end" :class="{ right: o.isRight }">{{ letters[o.id] }}</text>
      <g v-for="(t, m) in THIRDS" :key="t">
        <rect x="22" :y="m * 10" :width="x(o[t])" height="8" :class="t" />
        <text :x="26 + x(o[t])" :y="m * 10 + 8" class="n">{{ whole(o[t]) }}</text>
      </g>
    </g>
  </svg>
</template>

<style scoped>
text {
  font: 13px var(--sans);
  fill: var(--ink);
}
.n {
  font-size: 10.5px;
  fill: var(--soft);
}
.right {
  font-weight: 700;
  fill: var(--needle);
}
.upper {
  fill: var(--needle);
}
.middle {
  fill: var(--leaf);
}
.lower {
  fill: var(--frost);
  stroke: var(--leaf);
  stroke-width: 0.8;
}
</style>

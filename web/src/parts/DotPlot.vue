<script setup lang="ts">
import { scaleLinear } from 'd3';
import { computed } from 'vue';

/** Results as dots over a line from 0 to 100 percent; a second list stands below the first, such as results before and after. */
const props = withDefaults(defineProps<{ values: readonly number[]; label: string; then?: readonly number[] | null; width?: number }>(), {
  then: null,
  width: 272,
});
const ROW = 34;
const x = computed(() => scaleLinear([0, Math.max(100, ...props.values, ...(props.then ?? []))], [8, props.width - 12]));
function place(values: readonly number[], base: number): { x: number; y: number }[] {
  const many = new Map<number, number>();
  return values.map((value) => {
    const bin = Math.round(x.value(value) / 4);
    const n = many.get(bin) ?? 0;
    many.set(bin, n + 1);
    return { x: x.value(value), y: base - 4 - Math.min(n, 6) * 4 };
  });
}
const rows = computed(() => (props.then === null ? [props.values] : [props.values, props.then]));
const ticks = [0, 25, 50, 75, 100];
</script>

<template>
  <svg :viewBox="`0 0 ${width} ${rows.length * ROW + 16}`" class="dot-plot" role="img" :aria-label="`${label}: ${values.length} results`">
    <g v-for="(row, r) in rows" :key="r">
      <path :d="`M6 ${(r + 1) * ROW}H${width - 6}`" class="base" />
      <circle v-for="(d, n) in place(row, (r + 1) * ROW)" :key="n" :cx="d.x" :cy="d.y" r="2.2" :class="r === 0 ? 'dot' : 'dot then'" />
    </g>
    <text v-for="t in ticks" :key="t" :x="x(t)" :y="rows.length * ROW + 13" text-anchor="middle">{{ t }}</text>
  </svg>
</template>

<style scoped>
.dot-plot {
  width: 100%;
  display: block;
  font: 11px var(--sans);
  fill: var(--soft);
}
.base {
  stroke: var(--leaf);
  fill: none;
}
.dot {
  fill: var(--needle);
  fill-opacity: 0.55;
}
.then {
  fill: var(--bloom);
}
</style>

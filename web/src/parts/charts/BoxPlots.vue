<script setup lang="ts">
import type { BoxPlot } from '@rosemary/core';
import { extent, scaleBand, scaleLinear } from 'd3';
import { computed, ref, watch } from 'vue';
import { titleLines } from './titleLines.ts';
import { useMarks } from './useMarks.ts';

/** Box plots of shares beside one another; where there are fewer than five values the points themselves. */
export interface DrawnPlot {
  readonly id: string;
  readonly title: string;
  readonly plot: BoxPlot;
  /** All values in the order in which they were given to the plot. */
  readonly values: readonly number[];
  /** In full, for the ear and for the line under the chart. */
  readonly words: string;
}
const props = defineProps<{ plots: readonly DrawnPlot[]; width: number; label: string; chosen?: readonly string[] }>();
const emit = defineEmits<{ choose: [id: string]; told: [words: string] }>();
const root = ref<SVGSVGElement | null>(null);
const [LEFT, TOP, PLOT, LEAST] = [40, 8, 200, 58];
const drawnWidth = computed(() => Math.max(props.width, LEFT + props.plots.length * LEAST));
const x = computed(() =>
  scaleBand(
    props.plots.map((p) => p.id),
    [LEFT, Math.min(drawnWidth.value, LEFT + props.plots.length * 120)],
  ),
);
const y = computed(() => {
  const [least = 0, most = 1] = extent(props.plots.flatMap((p) => [...p.values]));
  return scaleLinear([Math.min(0, least), Math.max(1, most)], [TOP + PLOT, TOP]);
});
const ticks = computed(() => y.value.ticks(5));
const percent = (share: number): string => String(Math.round(share * 100)).replace('-', '−');
const half = computed(() => Math.min(18, x.value.bandwidth() * 0.3));
const middleOf = (id: string): number => (x.value(id) ?? 0) + x.value.bandwidth() / 2;
/** Points that would lie on one another stand beside each other. */
const spread = (values: readonly number[]): { value: number; dx: number }[] => {
  const met = new Map<number, number>();
  return values.map((value) => {
    const at = Math.round(y.value(value) / 5);
    const many = met.get(at) ?? 0;
    met.set(at, many + 1);
    return { value, dx: (many % 2 === 0 ? 1 : -1) * Math.ceil(many / 2) * 6 };
  });
};
const { pointed, markOf } = useMarks(
  () => props.plots,
  root,
  (id) => {
    emit('choose', id);
  },
);
watch(pointed, (id) => {
  emit('told', props.plots.find((p) => p.id === id)?.words ?? '');
});
</script>

<template>
  <svg
    ref="root"
    :viewBox="`0 0 ${drawnWidth} ${TOP + PLOT + 40}`"
    :width="drawnWidth"
    :height="TOP + PLOT + 40"
    class="chart box-plots"
    role="group"
    :aria-label="label"
  >
    <g v-for="t in ticks" :key="t">
      <path :d="`M${LEFT} ${y(t)}H${drawnWidth}`" class="grid" />
      <text :x="LEFT - 8" :y="y(t) + 4" text-anchor="end">{{ percent(t) }}</text>
    </g>
    <g v-for="p in plots" :key="p.id" v-bind="markOf(p)" :transform="`translate(${middleOf(p.id)} 0)`">
      <rect :x="-x.bandwidth() / 2" :y="TOP" :width="x.bandwidth()" :height="PLOT + 36" class="hit" />
      <template v-if="p.plot.kind === 'box'">
        <path
          class="line"
          :d="`M0 ${y(p.plot.highWhisker)}V${y(p.plot.highQuartile)}M0 ${y(p.plot.lowQuartile)}V${y(p.plot.lowWhisker)}M${-half / 2} ${y(p.plot.highWhisker)}H${half / 2}M${-half / 2} ${y(p.plot.lowWhisker)}H${half / 2}`"
        />
        <rect
          class="box"
          :class="{ chosen: chosen?.includes(p.id), pointed: pointed === p.id }"
          :x="-half"
          :y="y(p.plot.highQuartile)"
          :width="2 * half"
          :height="Math.max(1, y(p.plot.lowQuartile) - y(p.plot.highQuartile))"
        />
        <path class="middle" :d="`M${-half} ${y(p.plot.median)}H${half}`" />
        <circle v-for="(at, n) in p.plot.outliers" :key="n" class="outside" :cy="y(p.values[at] ?? 0)" r="3.2" />
      </template>
      <template v-else><circle v-for="(d, n) in spread(p.values)" :key="n" class="dot" :cx="d.dx" :cy="y(d.value)" r="3" /></template>
      <text v-for="(line, n) in titleLines(p.title, x.bandwidth())" :key="n" :y="TOP + PLOT + 17 + n * 14" text-anchor="middle">
        {{ line }}
      </text>
    </g>
  </svg>
</template>

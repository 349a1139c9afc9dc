<script setup lang="ts">
import { extent, line, scaleLinear, scalePoint } from 'd3';
import { computed, ref, watch } from 'vue';
import { titleLines } from './titleLines.ts';
import { useMarks } from './useMarks.ts';

/** Results of one person in order, with the middle half of the class behind each where it may be seen. */
export interface TimePoint {
  readonly id: string;
  readonly title: string;
  readonly share: number;
  readonly class: readonly [low: number, median: number, high: number] | null;
  readonly words: string;
}
const props = defineProps<{ points: readonly TimePoint[]; width: number; label: string }>();
const emit = defineEmits<{ told: [words: string] }>();
const root = ref<SVGSVGElement | null>(null);
const [LEFT, TOP, PLOT, LEAST] = [40, 8, 180, 46];
const drawn = computed(() => Math.max(props.width, LEFT + props.points.length * LEAST));
const x = computed(() =>
  scalePoint(
    props.points.map((p) => p.id),
    [LEFT, Math.min(drawn.value, LEFT + props.points.length * 96)],
  ).padding(0.5),
);
const y = computed(() => {
  const [least = 0, most = 1] = extent(props.points.flatMap((p) => [p.share, ...(p.class ?? [])]));
  return scaleLinear([Math.min(0, least), Math.max(1, most)], [TOP + PLOT, TOP]);
});
const percent = (share: number): string => String(Math.round(share * 100)).replace('-', '−');
const at = (id: string): number => x.value(id) ?? 0;
const path = computed(
  () =>
    line<TimePoint>(
      (p) => at(p.id),
      (p) => y.value(p.share),
    )([...props.points]) ?? '',
);
const { pointed, markOf } = useMarks(() => props.points, root);
watch(pointed, (id) => {
  emit('told', props.points.find((p) => p.id === id)?.words ?? '');
});
</script>

<template>
  <svg
    ref="root"
    :viewBox="`0 0 ${drawn} ${TOP + PLOT + 40}`"
    :width="drawn"
    :height="TOP + PLOT + 40"
    class="chart over-time"
    role="group"
    :aria-label="label"
  >
    <g v-for="t in y.ticks(5)" :key="t">
      <path :d="`M${LEFT} ${y(t)}H${drawn}`" class="grid" />
      <text :x="LEFT - 8" :y="y(t) + 4" text-anchor="end">{{ percent(t) }}</text>
    </g>
    <template v-for="p in points" :key="`class ${p.id}`">
      <g v-if="p.class">
        <rect class="box" :x="at(p.id) - 12" :width="24" :y="y(p.class[2])" :height="Math.max(1, y(p.class[0]) - y(p.class[2]))" />
        <path class="line" :d="`M${at(p.id) - 12} ${y(p.class[1])}h24`" />
      </g>
    </template>
    <path class="own" :d="path" />
    <g v-for="p in points" :key="p.id" v-bind="markOf(p)">
      <rect class="hit" :x="at(p.id) - 18" width="36" :y="TOP" :height="PLOT" />
      <circle class="outside" :cx="at(p.id)" :cy="y(p.share)" :r="pointed === p.id ? 6 : 4.5" />
      <text v-for="(row, n) in titleLines(p.title, x.step())" :key="n" :x="at(p.id)" :y="TOP + PLOT + 18 + n * 14" text-anchor="middle">
        {{ row }}
      </text>
    </g>
  </svg>
</template>

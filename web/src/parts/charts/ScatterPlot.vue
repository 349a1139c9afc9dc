<script setup lang="ts">
import { extent, scaleLinear } from 'd3';
import { computed, ref, watch } from 'vue';
import { useMarks } from './useMarks.ts';

/** Two measures of the same people against one another, a dot for each. */
export interface Dot {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly words: string;
}
const props = defineProps<{ dots: readonly Dot[]; heads: readonly [x: string, y: string]; width: number; label: string }>();
const emit = defineEmits<{ told: [words: string]; choose: [id: string] }>();
const root = ref<SVGSVGElement | null>(null);
const [LEFT, TOP, PLOT] = [46, 24, 270];
const drawn = computed(() => Math.min(props.width, 860));
const range = (values: readonly number[]): [number, number] => {
  const [least = 0, most = 1] = extent(values);
  return [Math.min(0, least), Math.max(most, 1)];
};
const x = computed(() => scaleLinear(range(props.dots.map((d) => d.x)), [LEFT, drawn.value - 20]).nice());
const y = computed(() => scaleLinear(range(props.dots.map((d) => d.y)), [TOP + PLOT, TOP]).nice());
const written = (n: number): string => String(n).replace('-', '−');
/** Walked through from left to right. */
const ordered = computed(() => props.dots.slice().sort((a, b) => a.x - b.x));
const { pointed, markOf } = useMarks(
  () => ordered.value,
  root,
  (id) => {
    emit('choose', id);
  },
);
watch(pointed, (id) => {
  emit('told', props.dots.find((d) => d.id === id)?.words ?? '');
});
</script>

<template>
  <svg
    ref="root"
    :viewBox="`0 0 ${drawn} ${TOP + PLOT + 44}`"
    :width="drawn"
    :height="TOP + PLOT + 44"
    class="chart scatter"
    role="group"
    :aria-label="label"
  >
    <text :x="LEFT" y="12">{{ heads[1] }} ↑</text>
    <text :x="drawn - 20" :y="TOP + PLOT + 38" text-anchor="end">{{ heads[0] }} →</text>
    <g v-for="t in y.ticks(5)" :key="`y ${t}`">
      <path :d="`M${LEFT} ${y(t)}H${drawn - 20}`" class="grid" />
      <text :x="LEFT - 8" :y="y(t) + 4" text-anchor="end">{{ written(t) }}</text>
    </g>
    <text v-for="t in x.ticks(8)" :key="`x ${t}`" :x="x(t)" :y="TOP + PLOT + 18" text-anchor="middle">{{ written(t) }}</text>
    <circle
      v-for="d in ordered"
      :key="d.id"
      v-bind="markOf(d)"
      class="dot"
      :class="{ pointed: pointed === d.id }"
      :cx="x(d.x)"
      :cy="y(d.y)"
      r="5"
    />
  </svg>
</template>

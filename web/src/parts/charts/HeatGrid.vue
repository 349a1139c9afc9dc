<script setup lang="ts">
import { max, scaleSqrt } from 'd3';
import { computed, ref, watch } from 'vue';
import { useMarks } from './useMarks.ts';

/** How much there was, by rows and columns: the darker, the more. A place that does not exist, such as a day before the term, stays empty. */
export interface HeatCell {
  readonly id: string;
  readonly row: number;
  readonly column: number;
  readonly value: number;
  readonly words: string;
}
const props = defineProps<{
  rows: readonly string[];
  /** Empty where a column has no word of its own. */
  columns: readonly string[];
  cells: readonly HeatCell[];
  width: number;
  label: string;
  mostWidth?: number;
}>();
const emit = defineEmits<{ told: [words: string] }>();
const root = ref<SVGSVGElement | null>(null);
const [LEFT, TOP, HEIGHT, GAP] = [40, 18, 19, 2];
const step = computed(() => Math.min(props.mostWidth ?? 34, (props.width - LEFT - 4) / Math.max(1, props.columns.length)));
const shade = computed(() => scaleSqrt([0, Math.max(1, max(props.cells, (c) => c.value) ?? 1)], [0, 1]));
const { pointed, markOf } = useMarks(() => props.cells, root);
watch(pointed, (id) => {
  emit('told', props.cells.find((c) => c.id === id)?.words ?? '');
});
const size = computed(() => ({ width: LEFT + step.value * props.columns.length + 2, height: TOP + HEIGHT * props.rows.length + 2 }));
</script>

<template>
  <svg
    ref="root"
    :viewBox="`0 0 ${size.width} ${size.height}`"
    :width="size.width"
    :height="size.height"
    class="chart heat"
    role="group"
    :aria-label="label"
  >
    <text v-for="(word, c) in columns" :key="`c ${c}`" :x="LEFT + step * (c + 0.5)" :y="TOP - 6" text-anchor="middle">{{ word }}</text>
    <text v-for="(word, r) in rows" :key="`r ${r}`" :x="LEFT - 8" :y="TOP + HEIGHT * r + 13" text-anchor="end">{{ word }}</text>
    <g
      v-for="cell in cells"
      :key="cell.id"
      v-bind="markOf(cell)"
      :transform="`translate(${LEFT + step * cell.column} ${TOP + HEIGHT * cell.row})`"
    >
      <rect class="none" :width="step - GAP" :height="HEIGHT - GAP" />
      <rect v-if="cell.value > 0" class="some" :fill-opacity="0.12 + 0.88 * shade(cell.value)" :width="step - GAP" :height="HEIGHT - GAP" />
    </g>
  </svg>
</template>

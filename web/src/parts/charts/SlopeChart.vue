<script setup lang="ts">
import { extent, scaleLinear } from 'd3';
import { computed, ref, watch } from 'vue';
import { useMarks } from './useMarks.ts';

/** Before and after of the same people: one line for each, solid where it rises, broken where it falls. */
export interface Slope {
  readonly id: string;
  readonly name: string;
  readonly before: number;
  readonly after: number;
  readonly words: string;
}
const props = defineProps<{ slopes: readonly Slope[]; heads: readonly [before: string, after: string]; width: number; label: string }>();
const emit = defineEmits<{ told: [words: string] }>();
const root = ref<SVGSVGElement | null>(null);
const [TOP, PLOT, MOST_NAMED, LINE] = [30, 260, 4, 14];
const left = 70;
const right = computed(() => Math.min(props.width, 760) - 190);
const y = computed(() => {
  const [least = 0, most = 1] = extent(props.slopes.flatMap((s) => [s.before, s.after]));
  return scaleLinear([Math.min(0, least), Math.max(1, most)], [TOP + PLOT, TOP]);
});
const percent = (share: number): string => String(Math.round(share * 100)).replace('-', '−');
/** Those who moved most, up and down, by name at the right, where one does not lie on another. */
const named = computed(() => {
  const byMove = props.slopes.slice().sort((a, b) => b.after - b.before - (a.after - a.before));
  const rise = byMove.filter((s) => s.after > s.before).slice(0, MOST_NAMED);
  const fall = byMove.filter((s) => s.after < s.before).slice(-MOST_NAMED);
  let last = -Infinity;
  return [...rise, ...fall]
    .sort((a, b) => b.after - a.after)
    .map((slope) => {
      const at = Math.max(y.value(slope.after) + 4, last + LINE);
      last = at;
      return { ...slope, at };
    });
});
const { pointed, markOf } = useMarks(() => props.slopes, root);
watch(pointed, (id) => {
  emit('told', props.slopes.find((s) => s.id === id)?.words ?? '');
});
</script>

<template>
  <svg
    ref="root"
    :viewBox="`0 0 ${right + 190} ${TOP + PLOT + 20}`"
    :width="right + 190"
    :height="TOP + PLOT + 20"
    class="chart slopes"
    role="group"
    :aria-label="label"
  >
    <text :x="left" y="14" text-anchor="middle">{{ heads[0] }}</text>
    <text :x="right" y="14" text-anchor="middle">{{ heads[1] }}</text>
    <g v-for="t in y.ticks(5)" :key="t">
      <path :d="`M${left} ${y(t)}H${right}`" class="grid" />
      <text :x="left - 12" :y="y(t) + 4" text-anchor="end">{{ percent(t) }}</text>
    </g>
    <g v-for="s in slopes" :key="s.id" v-bind="markOf(s)" :class="{ pointed: pointed === s.id }">
      <path class="line" :class="{ falls: s.after < s.before }" :d="`M${left} ${y(s.before)}L${right} ${y(s.after)}`" />
      <path class="wide" :d="`M${left} ${y(s.before)}L${right} ${y(s.after)}`" />
      <circle class="dot" :cx="left" :cy="y(s.before)" r="2.5" />
      <circle class="dot" :cx="right" :cy="y(s.after)" r="2.5" />
    </g>
    <text v-for="s in named" :key="s.id" :x="right + 10" :y="s.at">{{ s.name }}</text>
  </svg>
</template>

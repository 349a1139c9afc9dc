<script setup lang="ts">
import { formatPoints, parsePoints } from '@rosemary/core';
import { drag, scaleLinear, select, type D3DragEvent } from 'd3';
import { computed, onMounted, ref, watch } from 'vue';
import LineField from '../parts/fields/LineField.vue';

interface Level {
  label: string;
  cutPoint: number;
}
const props = defineProps<{ levels: readonly Level[]; totals: readonly number[]; isFixed: boolean }>();
const emit = defineEmits<{ change: [levels: Level[]] }>();
const svg = ref<SVGSVGElement | null>(null);
const moving = ref<{ at: number; cutPoint: number } | null>(null);
const x = scaleLinear([0, 100], [12, 628]).clamp(true);
const shown = computed(() => props.levels.map((l, n) => (moving.value?.at === n ? { ...l, cutPoint: moving.value.cutPoint } : l)));
/** Cut-points stay in order: each between its neighbours. */
function fits(at: number, cutPoint: number): boolean {
  const above = props.levels[at - 1]?.cutPoint ?? 1_000_001;
  const below = props.levels[at + 1]?.cutPoint ?? -1;
  return cutPoint < above && cutPoint > below;
}
function put(at: number, cutPoint: number): void {
  if (fits(at, cutPoint))
    emit(
      'change',
      props.levels.map((l, n) => (n === at ? { ...l, cutPoint } : { ...l })),
    );
}
function wire(): void {
  if (svg.value === null || props.isFixed) return;
  const behaviour = drag<SVGGElement, unknown>()
    .on('drag', function onDrag(event: D3DragEvent<SVGGElement, unknown, unknown>) {
      const at = Number(this.dataset.at);
      const cutPoint = Math.round(x.invert(event.x) * 2) * 500;
      if (fits(at, cutPoint)) moving.value = { at, cutPoint };
    })
    .on('end', () => {
      const m = moving.value;
      moving.value = null;
      if (m) put(m.at, m.cutPoint);
    });
  select(svg.value).selectAll<SVGGElement, unknown>('g.cut').call(behaviour);
}
onMounted(wire);
watch(() => props.levels.length, wire, { flush: 'post' });
function onKey(event: KeyboardEvent, at: number): void {
  const step = event.key === 'ArrowRight' ? 500 : event.key === 'ArrowLeft' ? -500 : 0;
  if (step === 0 || props.isFixed) return;
  event.preventDefault();
  put(at, (props.levels[at]?.cutPoint ?? 0) + step);
}
const fault = ref('');
/** What is typed and cannot be is named with its mend, and stays in its field. */
function type(at: number, text: string): void {
  fault.value = '';
  const p = parsePoints(text);
  const [level, above, below] = [props.levels[at], props.levels[at - 1], props.levels[at + 1]];
  if (!p.ok) fault.value = `${level?.label ?? ''} from “${text}”: ${p.reason}`;
  else if (!fits(at, p.value)) {
    const most = above === undefined ? '' : ` below ${formatPoints(above.cutPoint)}, where ${above.label} begins`;
    const least = below === undefined ? '' : ` above ${formatPoints(below.cutPoint)}, where ${below.label} begins`;
    fault.value = `${level?.label ?? ''} from ${text} is out of order. Type a number${[most, least].filter((w) => w !== '').join(' and')}.`;
  } else put(at, p.value);
}
const dots = computed(() => {
  const seen = new Map<number, number>();
  return props.totals.map((t) => {
    const bin = Math.round(x(t) / 5);
    const n = seen.get(bin) ?? 0;
    seen.set(bin, n + 1);
    return { x: x(t), y: 74 - n * 6 };
  });
});
</script>

<template>
  <div class="cuts">
    <svg ref="svg" viewBox="0 0 640 84" role="group" aria-label="Cut-points over the class as it stands">
      <path d="M0 80H640" class="base" />
      <circle v-for="(d, n) in dots" :key="n" :cx="d.x" :cy="d.y" r="2.600" class="dot" />
      <g
        v-for="(l, n) in shown"
        v-show="l.cutPoint > 0"
        :key="n"
        class="cut"
        :data-at="n"
        :transform="`translate(${x(l.cutPoint / 1000)} 0)`"
        tabindex="0"
        role="slider"
        :aria-label="`Cut-point of ${l.label}`"
        :aria-valuenow="l.cutPoint / 1000"
        aria-valuemin="0"
        aria-valuemax="100"
        @keydown="onKey($event, n)"
      >
        <path d="M0 18V80" />
        <rect x="-16" y="0" width="32" height="18" rx="2" />
        <text y="13" text-anchor="middle">{{ l.label }} {{ formatPoints(l.cutPoint) }}</text>
      </g>
    </svg>
    <p class="label">
      Drag a cut-point over the class as it stands, or type:
      <template v-for="(l, n) in levels" :key="n"
        ><label v-if="l.cutPoint > 0" class="typed"
          >{{ l.label }} from
          <LineField
            :model-value="formatPoints(l.cutPoint)"
            size="4"
            inputmode="decimal"
            :disabled="isFixed"
            @change="type(n, ($event.target as HTMLInputElement).value)" /></label
      ></template>
    </p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.cuts {
  padding-top: 12px;
}
svg {
  width: 100%;
  display: block;
  font:
    11.5px 'Source Sans 3 Variable',
    sans-serif;
}
.base {
  stroke: var(--leaf);
  fill: none;
}
.dot {
  fill: var(--needle);
  fill-opacity: 0.5;
}
.cut {
  cursor: ew-resize;
}
.cut path {
  stroke: var(--bloom);
  stroke-width: 1.5;
}
.cut rect {
  fill: var(--bloom);
}
.cut text {
  fill: var(--paper);
}
.label {
  font-family: 'Source Sans 3 Variable', sans-serif;
  font-weight: 400;
}
.typed {
  padding-right: 10px;
}
.typed .line-field {
  width: 40px;
}
</style>

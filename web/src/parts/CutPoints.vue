<script setup lang="ts">
import type { PolicyChange } from '@rosemary/api';
import { formatPoints, parsePoints, valueOfLevel } from '@rosemary/core';
import { drag, pointer, scaleLinear, select, type D3DragEvent } from 'd3';
import { computed, nextTick, onMounted, ref, watch } from 'vue';
import ActButton from './ActButton.vue';
import LineInput from './LineInput.vue';
import PlainTable from './PlainTable.vue';

type Level = PolicyChange['levels'][number];
/** The letters of a course over the class as it stands: dragged, typed, added by a click on the line, taken away. */
const props = defineProps<{ levels: readonly Level[]; totals: readonly number[]; isFixed: boolean }>();
const emit = defineEmits<{ change: [levels: Level[]] }>();
const MOST = 20;
const svg = ref<SVGSVGElement | null>(null);
const table = ref<HTMLElement | null>(null);
const moving = ref<{ at: number; cutPoint: number } | null>(null);
const x = scaleLinear([0, 100], [12, 628]).clamp(true);
const shown = computed(() => props.levels.map((l, n) => (moving.value?.at === n ? { ...l, cutPoint: moving.value.cutPoint } : l)));
/** Cut-points stay in order: each between its neighbours. */
function fits(at: number, cutPoint: number): boolean {
  const above = props.levels[at - 1]?.cutPoint ?? 1_000_001;
  const below = props.levels[at + 1]?.cutPoint ?? -1;
  return cutPoint < above && cutPoint > below;
}
const change = (at: number, next: Partial<Level>): void => {
  emit(
    'change',
    props.levels.map((l, n) => (n === at ? { ...l, ...next } : { ...l })),
  );
};
function put(at: number, cutPoint: number): void {
  if (fits(at, cutPoint)) change(at, { cutPoint });
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
  if (props.isFixed) return;
  if (event.key === 'Delete') {
    event.preventDefault();
    remove(at);
    return;
  }
  const step = event.key === 'ArrowRight' ? 500 : event.key === 'ArrowLeft' ? -500 : 0;
  if (step === 0) return;
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
function rename(at: number, text: string): void {
  const label = text.trim();
  fault.value = '';
  if (label === '' || label.length > 12) fault.value = `A letter or word has 1 to 12 signs; “${text}” has ${label.length}.`;
  else if (props.levels.some((l, n) => n !== at && l.label.toLowerCase() === label.toLowerCase()))
    fault.value = `There is “${label}” already. Give this one another name.`;
  else change(at, { label });
}
function setValue(at: number, text: string): void {
  fault.value = '';
  const p = parsePoints(text);
  if (text.trim() === '') change(at, { value: null });
  else if (p.ok) change(at, { value: p.value });
  else fault.value = `Value of ${props.levels[at]?.label ?? ''}: ${p.reason}`;
}
/** A new one begins where the line is clicked, or halfway below the highest gap; its name is typed next. */
async function add(cutPoint: number): Promise<void> {
  if (props.isFixed || props.levels.length >= MOST || cutPoint <= 0 || props.levels.some((l) => l.cutPoint === cutPoint)) return;
  const taken = new Set(props.levels.map((l) => l.label));
  const label = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'].find((sign) => !taken.has(sign)) ?? 'new';
  const fresh = { label, cutPoint, value: null };
  const next = [...props.levels.map((l) => ({ ...l })), fresh].sort((a, b) => b.cutPoint - a.cutPoint);
  emit('change', next);
  await nextTick();
  const field = table.value?.querySelectorAll<HTMLInputElement>('input[data-field=label]')[next.indexOf(fresh)];
  field?.focus();
  field?.select();
}
function onLine(event: MouseEvent): void {
  if ((event.target as Element).closest('g.cut') !== null || svg.value === null) return;
  const [at] = pointer(event, svg.value);
  void add(Math.round(x.invert(at) * 2) * 500);
}
function addBelow(): void {
  const points = [...props.levels.map((l) => l.cutPoint), 100_000].sort((a, b) => b - a);
  const gaps = points.slice(0, -1).map((p, n) => ({ size: p - (points[n + 1] ?? 0), middle: (p + (points[n + 1] ?? 0)) / 2 }));
  const widest = gaps.sort((a, b) => b.size - a.size)[0];
  void add(widest === undefined ? 50_000 : Math.round(widest.middle / 500) * 500);
}
/** The lowest always begins at 0, so that every total has a letter: where it goes the next one reaches down. */
function remove(at: number): void {
  const rest = props.levels.filter((_, n) => n !== at).map((l) => ({ ...l }));
  const last = rest.at(-1);
  emit('change', last === undefined ? [] : [...rest.slice(0, -1), { ...last, cutPoint: 0 }]);
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
/** How many stand at each letter now. */
const counts = computed(() =>
  shown.value.map((l, n) => {
    const above = shown.value[n - 1]?.cutPoint ?? Infinity;
    return props.totals.filter((t) => t * 1000 >= l.cutPoint && t * 1000 < above).length;
  }),
);
</script>

<template>
  <div class="cuts">
    <svg ref="svg" viewBox="0 0 640 84" role="group" aria-label="Cut-points" @click="onLine">
      <rect x="12" y="18" width="616" height="64" class="ground" />
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
        <rect x="-18" y="0" width="36" height="18" rx="2" />
        <text y="13" text-anchor="middle">{{ l.label.slice(0, 3) }} {{ formatPoints(l.cutPoint) }}</text>
      </g>
    </svg>
    <p v-if="!isFixed" class="label">
      Drag a cut-point{{ totals.length > 0 ? ' over the class as it stands' : '' }}, click the line to add one, or type.
      <ActButton look="act" @click="addBelow">Add letter</ActButton>
    </p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-if="levels.length === 0" class="soft">No letters: totals are read in percent alone.</p>
    <div ref="table">
      <PlainTable v-if="levels.length > 0" look="bare" class="letters">
        <thead>
          <tr>
            <th>Letter or word</th>
            <th>From, in %</th>
            <th title="What it stands for where it is given instead of a number">Stands for, in %</th>
            <th v-if="totals.length > 0" class="num">Students now</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr v-for="(l, n) in levels" :key="n">
            <td>
              <LineInput
                :value="l.label"
                data-field="label"
                size="8"
                :disabled="isFixed"
                :aria-label="`Name of ${l.label}`"
                @commit="rename(n, $event)"
              />
            </td>
            <td>
              <LineInput
                v-if="l.cutPoint > 0"
                :value="formatPoints(l.cutPoint)"
                size="5"
                inputmode="decimal"
                :disabled="isFixed"
                :aria-label="`${l.label} from`"
                @commit="type(n, $event)"
              /><span v-else class="soft">0</span>
            </td>
            <td>
              <LineInput
                :value="l.value === null ? '' : formatPoints(l.value)"
                :placeholder="formatPoints(valueOfLevel(levels, l))"
                size="5"
                inputmode="decimal"
                :disabled="isFixed"
                :aria-label="`What ${l.label} stands for in percent`"
                @commit="setValue(n, $event)"
              />
            </td>
            <td v-if="totals.length > 0" class="num">{{ counts[n] }}</td>
            <td><ActButton v-if="!isFixed" look="act" :aria-label="`Remove ${l.label}`" @click="remove(n)">Remove</ActButton></td>
          </tr>
        </tbody>
      </PlainTable>
    </div>
  </div>
</template>

<style scoped>
.cuts {
  padding-top: 12px;
  font: 14px/20px var(--sans);
}
svg {
  width: 100%;
  display: block;
  font: 11.5px var(--sans);
}
.ground {
  fill: transparent;
  cursor: copy;
}
.base {
  stroke: var(--leaf);
  fill: none;
}
.dot {
  fill: var(--needle);
  fill-opacity: 0.5;
  pointer-events: none;
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
.letters :deep(td),
.letters :deep(th) {
  padding-right: 22px;
  text-align: left;
}
</style>

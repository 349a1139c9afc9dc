<script setup lang="ts">
import type { TermLineData } from '@rosemary/api';
import { area, curveLinear, scaleLinear } from 'd3';
import { minutesInWords, countOf, dayNumber, dayNumberAt, instantOfDay, writeDate } from '@rosemary/core';
import { computed, nextTick, onBeforeUnmount, onMounted, ref, useId, watch } from 'vue';
import { KIND_LOOKS } from '../parts/kinds.ts';

const props = defineProps<{
  data: TermLineData;
  weeks?: readonly [number, number] | null;
  isChoosable?: boolean;
  zone?: string;
  now?: number;
  /** The instant of the past that a view shows, which stands on the line. */
  past?: string | null;
  /** A press chooses a day instead of weeks. */
  picksDay?: boolean;
}>();
const emit = defineEmits<{ choose: [weeks: readonly [number, number] | null]; open: [id: string]; day: [at: string | null] }>();
const hatch = useId();
const box = ref<HTMLElement | null>(null);
const width = ref(1240);
const BASE = 59;
const dragFrom = ref<number | null>(null);
const focusWeek = ref<number | null>(null);
let watcher: ResizeObserver | undefined;
onMounted(() => {
  watcher = new ResizeObserver(([entry]) => {
    width.value = Math.max(300, entry?.contentRect.width ?? 1240);
  });
  if (box.value) watcher.observe(box.value);
});
onBeforeUnmount(() => {
  watcher?.disconnect();
});

const x = computed(() => scaleLinear([0, props.data.weeks.length], [0, width.value]));
function shape(of: 'studentMinutes' | 'markingMinutes', height: number): string {
  const most = Math.max(1, ...props.data.loads.map((l) => l[of]));
  const points: [number, number][] = [
    [0, 0],
    ...props.data.loads.map((l): [number, number] => [l.week - 0.5, l[of] / most]),
    [props.data.weeks.length, 0],
  ];
  return (
    area<[number, number]>()
      .x((p) => x.value(p[0]))
      .y0(BASE)
      .y1((p) => BASE - p[1] * height)
      .curve(curveLinear)(points) ?? ''
  );
}
/** Marks that would cover one another stand aside a little. */
const marks = computed(() => {
  let last = -99;
  return props.data.items.map((item) => {
    const at = Math.max(x.value(item.position), last + 11);
    last = at;
    return { ...item, at };
  });
});
const chosen = computed(() => props.weeks ?? null);
const text = computed(() => {
  const now = props.data.loads.find((l) => l.week === props.data.week);
  return `The term, ${countOf(props.data.weeks.length, 'week')}. Today ${props.data.todayText}, week ${props.data.week}. ${countOf(props.data.items.length, 'item is', 'items are')} due in all; this week asks ${minutesInWords(now?.studentMinutes ?? 0)} of a student.`;
});
const weekTitle = (week: number): string => {
  const load = props.data.loads[week - 1];
  const holiday = props.data.weeks[week - 1]?.holiday;
  const many = props.data.items.filter((i) => Math.floor(i.position) + 1 === week).length;
  return `Week ${week}${holiday ? `, ${holiday}` : ''}: ${many} due, ${minutesInWords(load?.studentMinutes ?? 0)} for a student${load && load.markingMinutes > 0 ? `, ${minutesInWords(load.markingMinutes)} to mark` : ''}`;
};
function pick(from: number, to: number): void {
  const range = [Math.min(from, to), Math.max(from, to)] as const;
  const isSame = chosen.value !== null && chosen.value[0] === range[0] && chosen.value[1] === range[1];
  emit('choose', isSame ? null : range);
}
const DAY = 86_400_000;
const firstDay = computed(() => props.data.weeks[0]?.startsOn ?? '2000-01-03');
/** The day under a place on the line, from the first of the term on; what is still to come is today. */
const today = computed(() => Math.floor(props.data.today * 7));
const dayUnder = (left: number): number => Math.min(today.value, Math.max(0, Math.floor(x.value.invert(left) * 7)));
const dayHover = ref<number | null>(null);
const isoOf = (day: number): string => new Date(Date.parse(firstDay.value) + day * DAY).toISOString().slice(0, 10);
/** The last minute of a day; of today, now. */
function pickDay(day: number): void {
  const zone = props.zone ?? 'UTC';
  const end = instantOfDay(isoOf(day), 23, 59, zone);
  dayHover.value = null;
  emit('day', new Date(Math.min(end, props.now ?? end)).toISOString());
}
const pastAt = computed(() => {
  if (props.past === undefined || props.past === null) return null;
  const days = dayNumberAt(Date.parse(props.past), props.zone ?? 'UTC') - dayNumber(firstDay.value);
  return days < 0 || days > props.data.weeks.length * 7 ? null : x.value((days + 0.5) / 7);
});
const placeOf = (event: MouseEvent): number => event.clientX - (box.value?.getBoundingClientRect().left ?? 0);
function onDayKey(event: KeyboardEvent): void {
  const at = dayHover.value ?? today.value;
  const steps: Readonly<Record<string, number>> = { ArrowRight: 1, ArrowLeft: -1, ArrowUp: -7, ArrowDown: 7 };
  const step = steps[event.key];
  if (step !== undefined) dayHover.value = Math.min(today.value, Math.max(0, at + step));
  else if (event.key === 'Enter' || event.key === ' ') pickDay(at);
  else if (event.key === 'Escape') emit('day', null);
  else return;
  event.preventDefault();
}
watch(
  () => props.picksDay,
  async (picks) => {
    dayHover.value = null;
    if (picks !== true) return;
    await nextTick();
    box.value?.querySelector('svg')?.focus();
  },
);
function release(week: number): void {
  if (props.isChoosable && dragFrom.value !== null) pick(dragFrom.value, week);
  dragFrom.value = null;
}
function onKey(event: KeyboardEvent): void {
  if (!props.isChoosable) return;
  if (props.picksDay) {
    onDayKey(event);
    return;
  }
  const at = focusWeek.value ?? Math.min(Math.max(props.data.week, 1), props.data.weeks.length);
  if (event.key === 'ArrowRight' || event.key === 'ArrowLeft') {
    const next = Math.min(props.data.weeks.length, Math.max(1, at + (event.key === 'ArrowRight' ? 1 : -1)));
    focusWeek.value = next;
    if (event.shiftKey) emit('choose', [Math.min(chosen.value?.[0] ?? at, next), Math.max(chosen.value?.[1] ?? at, next)]);
  } else if (event.key === 'Enter' || event.key === ' ') pick(at, at);
  else if (event.key === 'Escape') {
    emit('choose', null);
    focusWeek.value = null;
  } else return;
  event.preventDefault();
}
const color = (category: number): string => (category < 0 ? 'var(--c-none)' : `var(--c${category % 8})`);
</script>

<template>
  <div ref="box" class="line no-print">
    <svg
      :width="width"
      height="76"
      role="group"
      :aria-label="text"
      :tabindex="isChoosable ? 0 : -1"
      @keydown="onKey"
      @mouseleave="dragFrom = null"
    >
      <defs>
        <pattern :id="hatch" width="5" height="5" patternTransform="rotate(45)" patternUnits="userSpaceOnUse">
          <path d="M0 0v5" stroke="var(--bloom)" stroke-width="1.100" />
        </pattern>
      </defs>
      <path :d="shape('studentMinutes', 31)" fill="var(--leaf)" opacity=".24" />
      <path :d="shape('markingMinutes', 22)" :fill="`url(#${hatch})`" opacity=".45" />
      <g v-for="(week, n) in data.weeks" :key="week.number">
        <template v-if="!week.isTeaching">
          <rect :x="x(n)" y="14" :width="x(1)" height="45" fill="var(--mist)" />
          <text :x="x(n + 0.5)" y="50" text-anchor="middle" font-style="italic">{{ week.holiday }}</text>
        </template>
        <text :x="x(n) + 4" y="73" :class="{ now: week.number === data.week }">{{ week.number }}</text>
        <path :d="`M${x(n)} 59v6`" class="tick" />
      </g>
      <path :d="`M0 59H${width}`" class="tick" />
      <path :d="`M${width - 0.5} 59v6`" class="tick" />
      <rect v-if="chosen" :x="x(chosen[0] - 1) + 1" y="13" :width="x(chosen[1] - chosen[0] + 1) - 2" height="62" class="chosen" />
      <rect v-if="focusWeek" :x="x(focusWeek - 1) + 2" y="61" :width="x(1) - 4" height="14" class="focus" />
      <g v-for="(week, n) in data.weeks" :key="`hit${week.number}`">
        <rect
          :x="x(n)"
          y="12"
          :width="x(1)"
          height="64"
          class="hit"
          :class="{ choosable: isChoosable }"
          @mousedown="dragFrom = week.number"
          @mouseup="release(week.number)"
        >
          <title>{{ weekTitle(week.number) }}</title>
        </rect>
      </g>
      <g
        v-for="item in marks"
        :key="item.id"
        :transform="`translate(${item.at} 25)`"
        :fill="color(item.category)"
        class="mark"
        @click="emit('open', item.id)"
      >
        <title>{{ item.title }}</title>
        <path :d="KIND_LOOKS[item.kind].path" transform="scale(0.9)" />
      </g>
      <g v-if="pastAt !== null" class="past">
        <path :d="`M${pastAt} 10V66`" />
        <title>The day that is shown</title>
      </g>
      <g v-if="picksDay">
        <rect
          x="0"
          y="0"
          :width="width"
          height="76"
          class="day-bed"
          @mousemove="dayHover = dayUnder(placeOf($event))"
          @mouseleave="dayHover = null"
          @click="pickDay(dayUnder(placeOf($event)))"
        />
        <rect v-if="dayHover !== null" :x="x(dayHover / 7)" y="10" :width="x(1 / 7)" height="56" class="day" />
        <text :x="width / 2" y="11" text-anchor="middle" class="day-words" aria-live="polite">
          {{
            dayHover === null
              ? 'Press a day, or choose it with the arrow keys and Enter. Esc leaves it.'
              : writeDate(Date.parse(isoOf(dayHover)), 'UTC', true)
          }}
        </text>
      </g>
      <g v-if="data.today >= 0 && data.today <= data.weeks.length" class="pin">
        <path :d="`M${x(data.today)} 10V66`" />
        <path :d="`M${x(data.today)} 10c-4-5 1-8 4-9 2 4 0 8-4 9z`" class="leaf" />
        <text
          :x="x(data.today) + (data.today > data.weeks.length - 1.5 ? -8 : 8)"
          :text-anchor="data.today > data.weeks.length - 1.5 ? 'end' : 'start'"
          y="11"
        >
          {{ data.todayText }}
        </text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.line {
  width: 100%;
  overflow: hidden;
  height: 76px;
}
svg {
  display: block;
  font: 12px var(--sans);
  fill: var(--soft);
  user-select: none;
}
.now {
  font-weight: 700;
  fill: var(--ink);
}
.tick {
  stroke: var(--leaf);
  opacity: 0.6;
  fill: none;
}
.hit {
  fill: transparent;
}
.choosable {
  cursor: pointer;
}
.choosable:hover {
  fill: var(--bloom);
  fill-opacity: 0.06;
}
.chosen {
  fill: var(--bloom);
  fill-opacity: 0.07;
  stroke: var(--bloom);
  stroke-width: 1.5;
  pointer-events: none;
}
.focus {
  fill: none;
  stroke: var(--bloom);
  stroke-width: 1.5;
}
.mark {
  cursor: pointer;
}
.pin path {
  stroke: var(--clay);
  stroke-width: 1.5;
  fill: none;
  pointer-events: none;
}
.pin .leaf {
  fill: var(--clay);
  stroke: none;
}
.pin text {
  fill: var(--clay);
  font-size: 12.5px;
}
.past path {
  stroke: var(--bloom);
  stroke-width: 2;
  stroke-dasharray: 3 2;
}
.day-bed {
  fill: var(--lit);
  fill-opacity: 0.35;
  cursor: pointer;
}
.day {
  fill: var(--bloom);
  fill-opacity: 0.35;
  pointer-events: none;
}
.day-words {
  fill: var(--ink);
  font-size: 12.5px;
  pointer-events: none;
}
</style>

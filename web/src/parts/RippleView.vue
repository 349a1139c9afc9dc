<script setup lang="ts">
import type { Ripple, SchemeLevel } from '@rosemary/core';
import { formatPoints } from '@rosemary/core';
import { scaleLinear } from 'd3';
import { computed, ref } from 'vue';
import PlainTable from './PlainTable.vue';
import ActButton from './ActButton.vue';

const props = defineProps<{ ripple: Ripple; levels: readonly SchemeLevel[] }>();
const HEIGHT = 270;
const LEFT = 70;
const RIGHT = 360;
/** As many letters as there is room for beside the chart. */
const MOST_LETTERS = 15;
const showsAll = ref(false);
// The chart is drawn from the numbers as they are read; nothing is computed from these.
const both = computed(() =>
  props.ripple.rows
    .filter((r) => r.before !== null && r.after !== null)
    .map((r) => ({ ...r, from: Number(r.before), to: Number(r.after) })),
);
const y = computed(() => {
  const values = both.value.flatMap((r) => [r.from, r.to]);
  return scaleLinear()
    .domain([Math.max(0, Math.min(...values, 100) - 4), Math.max(...values, 60) + 3])
    .range([HEIGHT - 24, 10]);
});
/** Names stand beside their points; where two would overlap the lower one gives way. */
const named = computed(() => {
  let last = -99;
  return both.value
    .filter((r) => r.crosses)
    .slice(0, 8)
    .sort((a, b) => b.to - a.to)
    .map((r) => {
      const at = Math.max(y.value(r.to) + 4, last + 13);
      last = at;
      return { ...r, at };
    });
});
const crossing = computed(() => props.ripple.rows.filter((r) => r.crosses));
const listed = computed(() =>
  showsAll.value
    ? props.ripple.rows
    : crossing.value.length > 0
      ? crossing.value
      : props.ripple.rows.filter((r) => r.move !== 'stays' || r.floor !== null || r.reach !== null).slice(0, 6),
);
const largest = computed(() =>
  props.ripple.rows
    .filter((r) => r.move === 'rises' || r.move === 'falls')
    .slice()
    .sort((a, b) => Math.abs(Number(b.after) - Number(b.before)) - Math.abs(Number(a.after) - Number(a.before)))
    .slice(0, 2),
);
const signed = (before: string | null, after: string | null): string => {
  const d = Number(after) - Number(before);
  return `${d < 0 ? '−' : '+'} ${Math.abs(d).toFixed(1)}`;
};
const short = (name: string): string => {
  const family = name.split(',')[0] ?? name;
  return family.length > MOST_LETTERS ? `${family.slice(0, MOST_LETTERS - 1)}…` : family;
};
</script>

<template>
  <div>
    <p class="label">Not yet applied</p>
    <h3 aria-live="polite">{{ ripple.sentence }}</h3>
    <p v-if="ripple.others !== ''" class="soft">{{ ripple.others }}.</p>
    <p v-if="largest.length > 0" class="soft">largest: {{ largest.map((r) => `${r.name} ${signed(r.before, r.after)}`).join(' · ') }}</p>
    <svg
      v-if="both.length > 0"
      :viewBox="`0 0 470 ${HEIGHT}`"
      class="chart"
      role="img"
      :aria-label="`Totals before and after: ${ripple.sentence}`"
    >
      <g v-for="level in levels.filter((l) => y(l.cutPoint / 1000) < HEIGHT - 20 && y(l.cutPoint / 1000) > 6)" :key="level.label">
        <path :d="`M${LEFT - 34} ${y(level.cutPoint / 1000)}H${RIGHT + 30}`" class="cut" />
        <text x="0" :y="y(level.cutPoint / 1000) + 4" class="serif">{{ level.label }} {{ formatPoints(level.cutPoint) }}</text>
      </g>
      <path
        v-for="r in both"
        :key="r.id"
        :d="`M${LEFT} ${y(r.from)}L${RIGHT} ${y(r.to)}`"
        :class="['slope', r.crosses ? (r.to < r.from ? 'down' : 'up') : '']"
      />
      <g v-for="r in named" :key="`n${r.id}`" :class="r.to < r.from ? 'down' : 'up'">
        <circle :cx="LEFT" :cy="y(r.from)" r="3" />
        <circle :cx="RIGHT" :cy="y(r.to)" r="3" />
        <text :x="RIGHT + 8" :y="r.at">{{ short(r.name) }}</text>
      </g>
      <text :x="LEFT" :y="HEIGHT - 4" text-anchor="middle">now</text>
      <text :x="RIGHT" :y="HEIGHT - 4" text-anchor="middle">then</text>
    </svg>
    <PlainTable>
      <caption class="hidden">
        Who moves
      </caption>
      <tbody>
        <tr v-for="r in listed" :key="r.id">
          <td>{{ r.name }}</td>
          <td class="num">{{ r.before ?? '—' }}</td>
          <td class="num">{{ r.after ?? '—' }}</td>
          <td class="letters">
            <b v-if="r.crosses">{{ r.letterBefore ?? '—' }} → {{ r.letterAfter ?? '—' }}</b
            ><span v-else class="soft">{{ r.letterAfter }}</span>
          </td>
          <td v-if="ripple.others !== ''" class="num soft">
            <div v-if="r.floor" class="whole">floor {{ r.floor.before ?? '—' }} → {{ r.floor.after ?? '—' }}</div>
            <div v-if="r.reach" class="whole">reach {{ r.reach.before ?? '—' }} → {{ r.reach.after ?? '—' }}</div>
          </td>
        </tr>
      </tbody>
    </PlainTable>
    <p class="soft" style="padding-top: 6px">
      <span v-if="!showsAll">{{ ripple.rows.length - listed.length }} more · </span
      ><ActButton look="act" @click="showsAll = !showsAll">{{ showsAll ? 'only those who cross' : 'all of them' }}</ActButton>
    </p>
    <div class="acts"><slot /></div>
  </div>
</template>

<style scoped>
.whole {
  white-space: nowrap;
}
.acts {
  padding-top: 12px;
}
.chart {
  width: 100%;
  max-width: 470px;
  display: block;
  margin: 12px 0;
  font: 12.5px var(--sans);
  fill: var(--soft);
}
.cut {
  stroke: var(--frost);
  stroke-dasharray: 2 3;
}
.slope {
  fill: none;
  stroke: var(--leaf);
  stroke-width: 1;
  opacity: 0.6;
}
.slope.up {
  stroke: var(--needle);
  stroke-width: 2.2;
  opacity: 1;
}
.slope.down {
  stroke: var(--clay);
  stroke-width: 2.2;
  opacity: 1;
}
.up circle,
.up text {
  fill: var(--needle);
}
.down circle,
.down text {
  fill: var(--clay);
}
.letters {
  width: 70px;
  text-align: right !important;
}
</style>

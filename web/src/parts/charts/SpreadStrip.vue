<script setup lang="ts">
import type { BoardReview } from '@rosemary/api';
import { formatPoints } from '@rosemary/core';
import { computed } from 'vue';

/** What the reviews of one work gave, as dots from nothing to everything; a stroke is what they come to. */
const props = defineProps<{ reviews: readonly BoardReview[]; most: number; value: number | null }>();
const [WIDTH, HEIGHT] = [300, 20];
const at = (points: number): number => 5 + ((WIDTH - 10) * points) / Math.max(1, props.most);
/** Reviews that gave the same lie one above the other. */
const lift = (r: BoardReview): number => {
  const same = props.reviews.filter((o) => o.total === r.total && o.role !== 'self');
  return (same.indexOf(r) - (same.length - 1) / 2) * (same.length > 1 ? 5 : 0);
};
const dots = computed(() =>
  props.reviews.flatMap((r) =>
    r.total === null || r.role === 'self'
      ? []
      : [
          {
            id: r.id,
            x: at(r.total),
            y: 10 + lift(r),
            look:
              r.role === 'teacher'
                ? 'teacher'
                : r.state === 'set aside'
                  ? 'aside'
                  : r.signs.some((s) => s.sign === 'far from the rest')
                    ? 'far'
                    : 'plain',
          },
        ],
  ),
);
const words = computed(() => {
  const given = props.reviews.flatMap((r) =>
    r.total === null || r.role !== 'peer' ? [] : [formatPoints(r.total) + (r.state === 'set aside' ? ', set aside' : '')],
  );
  const most = formatPoints(props.most);
  if (given.length === 0) return 'no review yet';
  return `${given.join(', ')} of ${most}${props.value === null ? '' : `; together ${formatPoints(props.value)}`}`;
});
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" class="strip" role="img" :aria-label="words">
    <title>{{ words }}</title>
    <rect x="0" y="6" :width="WIDTH" height="8" class="rail" />
    <circle v-for="d in dots" :key="d.id" :cx="d.x" :cy="d.y" r="4" :class="['dot', d.look]" />
    <path v-if="value !== null" :d="`M${at(value)} 2V18`" class="stroke" />
  </svg>
</template>

<style scoped>
.strip {
  width: 100%;
  min-width: 160px;
  max-width: 360px;
  height: 20px;
  display: block;
}
.rail {
  fill: var(--frost2);
}
.dot {
  fill: var(--bloom);
  stroke: var(--bloom);
  stroke-width: 1.5;
}
.dot.far,
.dot.aside {
  fill: none;
  stroke: var(--clay);
}
.dot.aside {
  stroke-dasharray: 2 2;
}
.dot.teacher {
  fill: var(--needle);
  stroke: var(--needle);
}
.stroke {
  stroke: var(--ink);
  stroke-width: 1.5;
}
</style>

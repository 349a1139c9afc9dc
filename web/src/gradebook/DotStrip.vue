<script lang="ts">
import { scaleLinear } from 'd3';

const x = scaleLinear([0, 100], [2, 42]).clamp(true);
const HEIGHT = 16;
/** Strips that were drawn before: columns come and go while the grid is scrolled. */
const drawn = new WeakMap<readonly number[], string>();

/** Dots of the same share stand above one another, in a fixed pattern and not at random; all of them are one line of points. */
function draw(shares: readonly number[]): string {
  const many = new Map<number, number>();
  let path = '';
  for (const share of shares) {
    const bin = Math.round(x(share) / 2);
    const n = many.get(bin) ?? 0;
    many.set(bin, n + 1);
    const y = HEIGHT / 2 + (n % 2 === 0 ? 1 : -1) * Math.ceil(n / 2) * 2.1;
    if (y > 0 && y < HEIGHT) path += `M${x(share).toFixed(1)} ${y.toFixed(1)}h0`;
  }
  drawn.set(shares, path);
  return path;
}
</script>

<script setup lang="ts">
defineProps<{ shares: readonly number[] }>();
</script>

<template>
  <svg width="44" height="16" role="img" :aria-label="`${shares.length} results`" class="strip">
    <path :d="drawn.get(shares) ?? draw(shares)" />
  </svg>
</template>

<style scoped>
.strip {
  display: block;
  margin-left: auto;
  opacity: 0.55;
  stroke: var(--needle);
  stroke-width: 2.4;
  stroke-linecap: round;
}
</style>

<script setup lang="ts">
import { scaleLinear } from 'd3';
import { computed } from 'vue';
const props = defineProps<{ shares: readonly number[] }>();
const x = scaleLinear([0, 100], [2, 42]).clamp(true);
/** Dots of the same share stand above one another, in a fixed pattern and not at random. */
const dots = computed(() => {
  const seen = new Map<number, number>();
  return props.shares
    .map((s) => {
      const bin = Math.round(x(s) / 2);
      const n = seen.get(bin) ?? 0;
      seen.set(bin, n + 1);
      return { x: x(s), y: 8 + (n % 2 === 0 ? 1 : -1) * Math.ceil(n / 2) * 2.1 };
    })
    .filter((d) => d.y > 0 && d.y < 16);
});
</script>

<template>
  <svg width="44" height="16" role="img" :aria-label="`${shares.length} results`" class="strip">
    <circle v-for="(d, n) in dots" :key="n" :cx="d.x" :cy="d.y" r="1.200" />
  </svg>
</template>

<style scoped>
.strip {
  display: block;
  margin-left: auto;
  fill: var(--needle);
  fill-opacity: 0.5;
}
</style>

<script setup lang="ts">
import { arrowHead, isLine, isSolid, lineEnds, type Drawing, type Shape } from '@rosemary/core';
import { computed } from 'vue';
import { FONT, linesOf, TONES } from './looks.ts';

/** One shape as it is drawn, on the screen and in the picture made of it: everything is said in the mark-up itself. */
const props = defineProps<{ shape: Shape; drawing: Drawing }>();
const tone = computed(() => TONES[props.shape.tone] ?? TONES[0]!);
const solid = computed(() => (isSolid(props.shape) ? props.shape : null));
const line = computed(() => (isLine(props.shape) ? props.shape : null));
const ends = computed(() => (line.value === null ? null : lineEnds(props.drawing, line.value)));
const points = (places: readonly { readonly x: number; readonly y: number }[]): string => places.map((p) => `${p.x},${p.y}`).join(' ');
const text = computed(() => {
  if (solid.value !== null) {
    const lines = linesOf(solid.value);
    const top = solid.value.y + solid.value.height / 2 - ((lines.length - 1) * FONT.line) / 2;
    return { x: solid.value.x + solid.value.width / 2, lines: lines.map((words, n) => ({ words, y: top + n * FONT.line })) };
  }
  if (line.value === null || ends.value === null || line.value.words === '') return { x: 0, lines: [] };
  const { start, end } = ends.value;
  return { x: (start.x + end.x) / 2, lines: [{ words: line.value.words, y: (start.y + end.y) / 2 - FONT.size * 0.7 }] };
});
</script>

<template>
  <rect
    v-if="solid && solid.kind !== 'oval'"
    :x="solid.x"
    :y="solid.y"
    :width="solid.width"
    :height="solid.height"
    :fill="solid.kind === 'words' ? 'transparent' : tone.fill"
    :stroke="solid.kind === 'words' ? 'none' : tone.ink"
    stroke-width="2"
    rx="3"
  />
  <ellipse
    v-else-if="solid"
    :cx="solid.x + solid.width / 2"
    :cy="solid.y + solid.height / 2"
    :rx="solid.width / 2"
    :ry="solid.height / 2"
    :fill="tone.fill"
    :stroke="tone.ink"
    stroke-width="2"
  />
  <template v-else-if="line && ends">
    <!-- Easier to take hold of than a thin line. -->
    <polyline :points="points([ends.start, ends.end])" stroke="transparent" stroke-width="16" fill="none" />
    <polyline :points="points([ends.start, ends.end])" :stroke="tone.ink" stroke-width="2" fill="none" stroke-linecap="round" />
    <polyline
      v-if="line.kind === 'arrow'"
      :points="points(arrowHead(ends.start, ends.end))"
      :stroke="tone.ink"
      stroke-width="2"
      fill="none"
      stroke-linecap="round"
      stroke-linejoin="round"
    />
  </template>
  <template v-else-if="shape.kind === 'pen'">
    <polyline :points="points(shape.places)" stroke="transparent" stroke-width="16" fill="none" />
    <polyline
      :points="points(shape.places)"
      :stroke="tone.ink"
      stroke-width="2"
      fill="none"
      stroke-linecap="round"
      stroke-linejoin="round"
    />
  </template>
  <text
    v-for="(l, n) in text.lines"
    :key="n"
    :x="text.x"
    :y="l.y"
    :fill="tone.ink"
    :font-family="`'${FONT.family}'`"
    :font-size="FONT.size"
    text-anchor="middle"
    dominant-baseline="central"
  >
    {{ l.words }}
  </text>
</template>

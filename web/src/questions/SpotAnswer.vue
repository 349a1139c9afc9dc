<script setup lang="ts">
import { computed, ref } from 'vue';
import type { AnswerEmits, AnswerProps } from './answerProps.ts';

/** A place in a picture: by the pointer, or by the arrows once the picture has the focus. */
const props = defineProps<AnswerProps>();
const emit = defineEmits<AnswerEmits>();
const spot = computed(() => (props.answer?.kind === 'spot' ? props.answer.spot : null));
const box = ref<HTMLElement | null>(null);
const clamp = (v: number): number => Math.min(1, Math.max(0, Math.round(v * 10_000) / 10_000));
const set = (x: number, y: number): void => emit('answer', { kind: 'spot', spot: { x: clamp(x), y: clamp(y) } });
function point(event: MouseEvent): void {
  const area = box.value?.getBoundingClientRect();
  if (props.isFixed || area === undefined || area.width === 0) return;
  set((event.clientX - area.left) / area.width, (event.clientY - area.top) / area.height);
}
const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
function onKey(event: KeyboardEvent): void {
  const step = STEPS[event.key];
  if (props.isFixed || step === undefined || event.altKey) return;
  event.preventDefault();
  event.stopPropagation();
  const by = event.shiftKey ? 0.05 : 0.01;
  const from = spot.value ?? { x: 0.5, y: 0.5 };
  set(from.x + step[0] * by, from.y + step[1] * by);
}
const where = computed(() =>
  spot.value === null
    ? 'no place chosen'
    : `${Math.round(spot.value.x * 100)} % from the left, ${Math.round(spot.value.y * 100)} % from the top`,
);
</script>

<template>
  <figure v-if="asked.picture" class="spot">
    <div
      ref="box"
      class="holder"
      :tabindex="isFixed ? -1 : 0"
      role="application"
      :aria-label="`${label}: choose a place in the picture, ${asked.picture.alt}. Arrows move it, Shift in larger steps. Now ${where}.`"
      @click="point"
      @keydown="onKey"
    >
      <img :src="asked.picture.src" :alt="asked.picture.alt" draggable="false" />
      <span v-if="spot" class="mark" :style="{ left: `${spot.x * 100}%`, top: `${spot.y * 100}%` }" aria-hidden="true" />
    </div>
    <figcaption class="label" role="status">{{ where }}<template v-if="!isFixed"> · point, or use the arrows</template></figcaption>
  </figure>
</template>

<style scoped>
.spot {
  margin: 10px 0 0;
}
.holder {
  position: relative;
  display: inline-block;
  cursor: crosshair;
  max-width: 100%;
}
.holder img {
  display: block;
  max-width: 100%;
}
.mark {
  position: absolute;
  width: 22px;
  height: 22px;
  margin: -11px 0 0 -11px;
  border: 2px solid var(--bloom);
  border-radius: 50%;
  box-shadow:
    0 0 0 1.5px #fff,
    inset 0 0 0 1.5px #fff;
  pointer-events: none;
}
.mark::after {
  content: '';
  position: absolute;
  left: 8px;
  top: 8px;
  width: 2px;
  height: 2px;
  background: var(--bloom);
  box-shadow: 0 0 0 1px #fff;
}
</style>

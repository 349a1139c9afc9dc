<script setup lang="ts">
import type { Box, CourseFile, NoteView } from '@rosemary/api';
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { boxStyle, useArea } from './useArea.ts';
import ActButton from '../ActButton.vue';

type Numbered = NoteView & { readonly number: number };
/** A picture that was handed in: larger, turned, and noted by areas drawn on it. */
const props = defineProps<{ file: CourseFile; notes?: readonly Numbered[]; chosen?: string | null; canNote?: boolean }>();
const emit = defineEmits<{ choose: [id: string]; select: [box: Box]; placed: [tops: Record<string, number>] }>();
const zoom = ref(1);
const quarter = ref(0);
const natural = ref({ width: 0, height: 0 });
const root = ref<HTMLElement | null>(null);
const sheet = ref<HTMLElement | null>(null);
const area = useArea((box) => {
  emit('select', box);
});
/** Notes are drawn and shown on the picture as it lies by itself. */
const isUpright = computed(() => quarter.value === 0);
const draws = computed(() => props.canNote === true && isUpright.value);
function measured(event: Event): void {
  const image = event.target as HTMLImageElement;
  natural.value = { width: image.naturalWidth, height: image.naturalHeight };
  void nextTick(place);
}
/** A picture on its side is as wide as it is high, and fits the same column. */
const shape = computed(() => {
  const isOnSide = quarter.value % 2 === 1;
  const ratio = natural.value.width === 0 ? 1 : natural.value.height / natural.value.width;
  return {
    frame: { width: `${100 * zoom.value}%`, aspectRatio: isOnSide ? `${ratio} / 1` : `1 / ${ratio}` },
    image: { width: isOnSide ? `${100 / ratio}%` : '100%', transform: `translate(-50%, -50%) rotate(${quarter.value * 90}deg)` },
  };
});
let lastPlaced = '';
function place(): void {
  const [top, frame] = [root.value?.getBoundingClientRect().top ?? 0, sheet.value?.getBoundingClientRect()];
  if (frame === undefined) return;
  const tops: Record<string, number> = {};
  for (const note of props.notes ?? [])
    if (note.anchor.kind === 'picture') tops[note.id] = frame.top - top + (note.anchor.boxes[0]?.y ?? 0) * frame.height;
  const said = JSON.stringify(tops);
  if (said === lastPlaced) return;
  lastPlaced = said;
  emit('placed', tops);
}
watch([() => props.notes, zoom, quarter], () => nextTick(place), { deep: true });
let watcher: ResizeObserver | undefined;
onMounted(() => {
  watcher = new ResizeObserver(place);
  if (root.value) watcher.observe(root.value);
});
onBeforeUnmount(() => watcher?.disconnect());
const boxOf = (note: Numbered): Box => (note.anchor.kind === 'picture' ? (note.anchor.boxes[0] as Box) : { x: 0, y: 0, w: 0, h: 0 });
</script>

<template>
  <div ref="root">
    <p class="label tools no-print">
      <ActButton look="act" :disabled="zoom <= 0.5" aria-label="Smaller" @click="zoom -= 0.5">−</ActButton>
      <ActButton look="act" aria-label="As wide as the column" @click="zoom = 1">{{ Math.round(zoom * 100) }} %</ActButton>
      <ActButton look="act" :disabled="zoom >= 4" aria-label="Larger" @click="zoom += 0.5">+</ActButton>
      <ActButton look="act" @click="quarter = (quarter + 1) % 4">turn</ActButton>
      <template v-if="canNote">
        <span v-if="isUpright">draw an area to note it, or</span>
        <ActButton v-if="isUpright" look="act" @click="emit('select', { x: 0, y: 0, w: 1, h: 1 })"> note the whole picture </ActButton>
        <span v-else>turn it back to note it</span>
      </template>
    </p>
    <div class="picture" tabindex="0" role="region" :aria-label="file.name">
      <div
        ref="sheet"
        :class="['frame', { draws }]"
        :style="shape.frame"
        @pointerdown="draws && area.down($event, $event.currentTarget as HTMLElement)"
        @pointermove="area.move"
        @pointerup="area.up"
        @pointercancel="area.up"
      >
        <img :src="file.url" :alt="file.name" :style="shape.image" draggable="false" @load="measured" />
        <template v-if="isUpright"
          ><ActButton
            v-for="note in (notes ?? []).filter((n) => n.anchor.kind === 'picture')"
            :key="note.id"
            :class="['area', { on: note.id === chosen }]"
            :style="boxStyle(boxOf(note))"
            :aria-label="`Note ${note.number}`"
            @pointerdown.stop
            @click="emit('choose', note.id)"
          >
            <sup>{{ note.number }}</sup>
          </ActButton></template
        >
        <div v-if="area.going.value" class="area going" :style="boxStyle(area.going.value)" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding-bottom: 6px;
}
.tools .act {
  min-width: 24px;
  min-height: 24px;
}
.picture {
  overflow: auto;
  max-height: 76vh;
}
.frame {
  position: relative;
}
.draws {
  cursor: crosshair;
  touch-action: none;
}
.frame img {
  position: absolute;
  left: 50%;
  top: 50%;
  pointer-events: none;
}
.area {
  position: absolute;
  padding: 0;
  border: 1.6px solid #5c5fa8;
  outline: 1px solid #fff;
  background: transparent;
  cursor: pointer;
}
.area.on,
.going {
  background: rgb(92 95 168 / 0.18);
}
.area sup {
  position: absolute;
  right: -2px;
  top: -9px;
  padding: 0 4px;
  background: #5c5fa8;
  color: #fff;
  font: 600 11px/16px var(--sans);
}
</style>

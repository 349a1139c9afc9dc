<script setup lang="ts">
import type { CourseFile } from '@rosemary/api';
import type { PictureSpot, QuestionKey, QuestionPicture, Region } from '@rosemary/core';
import { computed, ref } from 'vue';
import FilePick from '../../parts/media/FilePick.vue';
import LineInput from '../../parts/LineInput.vue';
import { newId, readShare, shareWords } from './shares.ts';
import ActButton from '../../parts/ActButton.vue';
import ChoiceField from '../../parts/fields/ChoiceField.vue';

type Key = Extract<QuestionKey, { kind: 'hotspot' }>;
/** Places in a picture that are right: drawn with the pointer, or set by numbers. */
const props = defineProps<{ value: Key; picture: QuestionPicture | null; courseId: string }>();
const emit = defineEmits<{ change: [key: Key]; picture: [picture: QuestionPicture | null] }>();
const shape = ref<Region['shape']>('rectangle');
const holder = ref<SVGSVGElement | null>(null);
const drawing = ref<{ from: PictureSpot; to: PictureSpot } | null>(null);
const corners = ref<PictureSpot[]>([]);
const put = (regions: Key['regions']): void => emit('change', { kind: 'hotspot', regions });
const clamp = (v: number): number => Math.min(1, Math.max(0, Math.round(v * 10_000) / 10_000));
function spotOf(event: MouseEvent): PictureSpot {
  const area = holder.value?.getBoundingClientRect();
  if (area === undefined || area.width === 0) return { x: 0, y: 0 };
  return { x: clamp((event.clientX - area.left) / area.width), y: clamp((event.clientY - area.top) / area.height) };
}
const add = (region: Region): void => put([...props.value.regions, { id: newId(), region, share: 100_000 }]);
function down(event: PointerEvent): void {
  if (shape.value === 'polygon') corners.value = [...corners.value, spotOf(event)];
  else {
    const at = spotOf(event);
    drawing.value = { from: at, to: at };
    (event.target as Element).setPointerCapture(event.pointerId);
  }
}
function move(event: PointerEvent): void {
  if (drawing.value !== null) drawing.value = { ...drawing.value, to: spotOf(event) };
}
function regionOf({ from, to }: { from: PictureSpot; to: PictureSpot }): Region {
  if (shape.value === 'rectangle') return { shape: 'rectangle', from, to };
  return {
    shape: 'ellipse',
    centre: { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 },
    radius: { x: Math.abs(to.x - from.x) / 2, y: Math.abs(to.y - from.y) / 2 },
  };
}
function up(): void {
  const drawn = drawing.value;
  drawing.value = null;
  if (drawn !== null && Math.abs(drawn.to.x - drawn.from.x) > 0.01 && Math.abs(drawn.to.y - drawn.from.y) > 0.01) add(regionOf(drawn));
}
function closePolygon(): void {
  if (corners.value.length >= 3) add({ shape: 'polygon', corners: corners.value });
  corners.value = [];
}
/** By the keyboard: a rectangle in the middle, whose edges are set by numbers. */
const addMiddle = (): void => add({ shape: 'rectangle', from: { x: 0.4, y: 0.4 }, to: { x: 0.6, y: 0.6 } });
const percent = (v: number): string => String(Math.round(v * 1000) / 10);
function setEdge(at: number, edge: 'from' | 'to', axis: 'x' | 'y', text: string): void {
  const value = Number(text.replace(',', '.')) / 100;
  if (Number.isNaN(value)) return;
  put(
    props.value.regions.map((r, n) =>
      n === at && r.region.shape === 'rectangle'
        ? { ...r, region: { ...r.region, [edge]: { ...r.region[edge], [axis]: clamp(value) } } }
        : r,
    ),
  );
}
function setShare(at: number, text: string): void {
  const share = readShare(text);
  if (share !== null) put(props.value.regions.map((r, n) => (n === at ? { ...r, share } : r)));
}
const pick = (file: CourseFile): void => emit('picture', { fileId: file.id, src: file.url, alt: file.name.replace(/\.[a-z]+$/i, '') });
const shown = computed(() => [...props.value.regions.map((r) => r.region), ...(drawing.value === null ? [] : [regionOf(drawing.value)])]);
const points = (list: readonly PictureSpot[]): string => list.map((s) => `${s.x * 100},${s.y * 100}`).join(' ');
const setAlt = (alt: string): void => {
  if (props.picture !== null && alt.trim() !== '') emit('picture', { ...props.picture, alt: alt.trim() });
};
</script>

<template>
  <div>
    <template v-if="picture">
      <p class="row line-row">
        <ChoiceField v-model="shape" class="shape" aria-label="Shape that is drawn">
          <option value="rectangle">rectangle</option>
          <option value="ellipse">ellipse</option>
          <option value="polygon">corners</option>
        </ChoiceField>
        <span class="soft">{{ shape === 'polygon' ? 'click each corner, then close' : 'draw it on the picture' }}</span>
        <ActButton v-if="corners.length > 2" look="act" @click="closePolygon">close it</ActButton>
        <ActButton look="act" @click="addMiddle">Add rectangle by numbers</ActButton>
      </p>
      <div class="holder">
        <img :src="picture.src" :alt="picture.alt" draggable="false" />
        <svg
          ref="holder"
          viewBox="0 0 100 100"
          preserveAspectRatio="none"
          aria-hidden="true"
          @pointerdown="down"
          @pointermove="move"
          @pointerup="up"
        >
          <template v-for="(r, n) in shown" :key="n">
            <rect
              v-if="r.shape === 'rectangle'"
              :x="Math.min(r.from.x, r.to.x) * 100"
              :y="Math.min(r.from.y, r.to.y) * 100"
              :width="Math.abs(r.to.x - r.from.x) * 100"
              :height="Math.abs(r.to.y - r.from.y) * 100"
            />
            <ellipse
              v-else-if="r.shape === 'ellipse'"
              :cx="r.centre.x * 100"
              :cy="r.centre.y * 100"
              :rx="r.radius.x * 100"
              :ry="r.radius.y * 100"
            />
            <polygon v-else :points="points(r.corners)" />
          </template>
          <polyline v-if="corners.length > 0" :points="points(corners)" />
        </svg>
      </div>
      <p class="row line-row">
        <span class="soft">shows</span><LineInput :value="picture.alt" aria-label="What the picture shows" @commit="setAlt" />
      </p>
      <p v-for="(r, n) in value.regions" :key="r.id" class="row line-row">
        <b>{{ n + 1 }}</b> <span>{{ r.region.shape === 'polygon' ? 'corners' : r.region.shape }}</span>
        <template v-if="r.region.shape === 'rectangle'">
          <LineInput
            class="edge"
            :value="percent(r.region.from.x)"
            :aria-label="`Place ${n + 1}, left edge in percent`"
            @commit="setEdge(n, 'from', 'x', $event)"
          />
          <LineInput
            class="edge"
            :value="percent(r.region.from.y)"
            :aria-label="`Place ${n + 1}, upper edge in percent`"
            @commit="setEdge(n, 'from', 'y', $event)"
          />
          <span class="soft">to</span>
          <LineInput
            class="edge"
            :value="percent(r.region.to.x)"
            :aria-label="`Place ${n + 1}, right edge in percent`"
            @commit="setEdge(n, 'to', 'x', $event)"
          />
          <LineInput
            class="edge"
            :value="percent(r.region.to.y)"
            :aria-label="`Place ${n + 1}, lower edge in percent`"
            @commit="setEdge(n, 'to', 'y', $event)"
          />
        </template>
        <LineInput
          class="edge"
          :value="shareWords(r.share)"
          :aria-label="`Percent of the points for place ${n + 1}`"
          @commit="setShare(n, $event)"
        /><span class="soft">% of the points</span>
        <ActButton look="act" :aria-label="`Take place ${n + 1} away`" @click="put(value.regions.filter((x) => x.id !== r.id))">
          ×
        </ActButton>
      </p>
      <p><ActButton look="act" @click="emit('picture', null)">another picture</ActButton></p>
    </template>
    <FilePick v-else :course-id="courseId" accept="image/png,image/jpeg,image/webp" :kinds="/^image\//" words="a picture" @choose="pick" />
  </div>
</template>

<style scoped>
.holder {
  position: relative;
  display: inline-block;
  max-width: 100%;
  margin: 6px 0;
}
.holder img {
  display: block;
  max-width: 100%;
}
.holder svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: crosshair;
  touch-action: none;
}
.holder svg * {
  fill: rgb(92 95 168 / 0.22);
  stroke: var(--bloom);
  stroke-width: 2px;
  vector-effect: non-scaling-stroke;
}
.holder polyline {
  fill: none !important;
}
.shape {
  width: auto;
}
.edge {
  width: 54px;
  text-align: right;
}
</style>

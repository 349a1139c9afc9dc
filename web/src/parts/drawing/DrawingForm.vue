<script setup lang="ts">
import { DRAWING_LIMITS, EMPTY_DRAWING, isLine, readDrawing, type Spot, type Shape, type ShapeKind } from '@rosemary/core';
import { computed, nextTick, onMounted, ref } from 'vue';
import { drawingPng } from './drawingPng.ts';
import { KIND_WORDS, TONES } from './looks.ts';
import ShapeShown from './ShapeShown.vue';
import { STEP, useDrawing } from './useDrawing.ts';
import ActButton from '../ActButton.vue';
import TextField from '../fields/TextField.vue';
import ChoiceField from '../fields/ChoiceField.vue';

/** A diagram drawn here, by mouse, finger or keys; given back as a picture and as what it was drawn from. */
const props = defineProps<{ kept: string }>();
const emit = defineEmits<{ done: [file: File, kept: string]; leave: [] }>();
const d = useDrawing(readDrawing(props.kept) ?? EMPTY_DRAWING);
const { drawing, chosen, chosenId, solids } = d;
const svg = ref<SVGSVGElement | null>(null);
const armed = ref<ShapeKind | null>(null);
const fault = ref('');
const isBusy = ref(false);
const KINDS = Object.keys(KIND_WORDS) as ShapeKind[];
const words = computed(() => (chosen.value === null || chosen.value.kind === 'pen' ? null : chosen.value.words));
const line = computed(() => (chosen.value !== null && isLine(chosen.value) ? chosen.value : null));
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
};

function nameOf(shape: Shape): string {
  const own = shape.kind === 'pen' || shape.words === '' ? '' : ` “${shape.words}”`;
  return `${KIND_WORDS[shape.kind]}${own}`;
}
function placeOf(event: PointerEvent): Spot {
  const box = svg.value!.getBoundingClientRect();
  const at = (value: number, most: number): number => Math.round(Math.min(Math.max(value, 0), most));
  return {
    x: at(((event.clientX - box.left) / box.width) * drawing.value.width, drawing.value.width),
    y: at(((event.clientY - box.top) / box.height) * drawing.value.height, drawing.value.height),
  };
}
/** A tool chosen by key puts its shape in the middle at once; by hand it waits for where. */
function pick(kind: ShapeKind, event: MouseEvent): void {
  if (event.detail > 0 || kind === 'pen') armed.value = armed.value === kind ? null : kind;
  else {
    d.add(kind, null, null);
    void focusChosen();
  }
}
async function focusChosen(): Promise<void> {
  await nextTick();
  svg.value?.querySelector<SVGElement>(`[data-shape="${chosenId.value}"]`)?.focus();
}
type Hand = { readonly from: Spot; readonly of: 'new' | 'move' | 'size'; readonly shape: Shape | null; readonly key: string };
const hand = ref<Hand | null>(null);
const track = ref<Spot[]>([]);
function down(event: PointerEvent, shape: Shape | null, of: Hand['of']): void {
  if (event.button !== 0) return;
  event.stopPropagation();
  svg.value?.setPointerCapture(event.pointerId);
  if (armed.value === null) chosenId.value = shape?.id ?? null;
  hand.value = { from: placeOf(event), of: armed.value === null ? of : 'new', shape, key: crypto.randomUUID() };
  track.value = [hand.value.from];
}
function drag(event: PointerEvent): void {
  if (hand.value === null) return;
  const at = placeOf(event);
  track.value = [...track.value, at];
  const { from, of, shape, key } = hand.value;
  if (shape === null || of === 'new') return;
  const by = (value: number): number => Math.round(value / STEP) * STEP;
  const [dx, dy] = [by(at.x - from.x), by(at.y - from.y)];
  if (dx === 0 && dy === 0) return;
  if (of === 'move') d.move(shape, dx, dy, key);
  else d.resize(shape, dx, dy, key);
}
function up(event: PointerEvent): void {
  const held = hand.value;
  hand.value = null;
  if (held === null || armed.value === null || held.of !== 'new') return;
  const at = placeOf(event);
  if (armed.value !== 'pen' || track.value.length > 1) d.add(armed.value, held.from, at, track.value);
  if (armed.value !== 'pen') armed.value = null;
}
function onKey(event: KeyboardEvent, shape: Shape): void {
  const by = ARROWS[event.key];
  if (by !== undefined) {
    if (event.shiftKey) d.resize(shape, ...by);
    else d.move(shape, ...by);
  } else if (event.key === 'Delete' || event.key === 'Backspace') d.take(shape);
  else return;
  event.preventDefault();
  chosenId.value = drawing.value.shapes.some((s) => s.id === shape.id) ? shape.id : null;
}
function onFormKey(event: KeyboardEvent): void {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
  if (event.target instanceof HTMLTextAreaElement) return;
  event.preventDefault();
  if (event.shiftKey) d.redo();
  else d.undo();
}
async function finish(): Promise<void> {
  isBusy.value = true;
  fault.value = '';
  chosenId.value = null;
  await nextTick();
  try {
    emit('done', await drawingPng(svg.value!, drawing.value), JSON.stringify(drawing.value));
  } catch (error) {
    fault.value = error instanceof Error ? error.message : '';
  } finally {
    isBusy.value = false;
  }
}
onMounted(() => svg.value?.parentElement?.querySelector('button')?.focus());
</script>

<template>
  <div class="drawing" @keydown="onFormKey">
    <div class="tools" role="toolbar" aria-label="What to draw">
      <ActButton
        v-for="kind in KINDS"
        :key="kind"
        :aria-pressed="armed === kind"
        :class="{ on: armed === kind }"
        :disabled="d.isFull.value"
        @click="pick(kind, $event)"
      >
        {{ KIND_WORDS[kind] }}
      </ActButton>
      <span class="gap" />
      <ActButton :disabled="!d.canUndo.value" @click="d.undo()">Undo</ActButton>
      <ActButton :disabled="!d.canRedo.value" @click="d.redo()">Redo</ActButton>
    </div>
    <div class="sheet-and-side">
      <svg
        ref="svg"
        class="paper"
        :class="{ armed }"
        xmlns="http://www.w3.org/2000/svg"
        :viewBox="`0 0 ${drawing.width} ${drawing.height}`"
        :width="drawing.width"
        :height="drawing.height"
        role="group"
        aria-label="The drawing"
        @pointerdown="down($event, null, 'new')"
        @pointermove="drag"
        @pointerup="up"
      >
        <g
          v-for="shape in drawing.shapes"
          :key="shape.id"
          :data-shape="shape.id"
          tabindex="0"
          role="button"
          :aria-label="nameOf(shape)"
          :aria-pressed="shape.id === chosenId"
          @pointerdown="down($event, shape, 'move')"
          @focus="chosenId = shape.id"
          @keydown="onKey($event, shape)"
        >
          <ShapeShown :shape="shape" :drawing="drawing" />
        </g>
        <g v-if="chosen && 'width' in chosen" class="guide">
          <rect :x="chosen.x - 5" :y="chosen.y - 5" :width="chosen.width + 10" :height="chosen.height + 10" class="chosen" />
          <rect
            :x="chosen.x + chosen.width - 2"
            :y="chosen.y + chosen.height - 2"
            width="14"
            height="14"
            class="corner"
            @pointerdown="down($event, chosen, 'size')"
          />
        </g>
        <polyline
          v-if="hand?.of === 'new' && armed"
          class="guide chosen"
          :points="(armed === 'pen' ? track : [track[0]!, track.at(-1)!]).map((p) => `${p.x},${p.y}`).join(' ')"
        />
      </svg>
      <aside aria-label="What is chosen">
        <template v-if="chosen">
          <h3>{{ KIND_WORDS[chosen.kind] }}</h3>
          <label v-if="words !== null" class="field"
            ><span class="label">Words</span
            ><TextField
              rows="2"
              :maxlength="DRAWING_LIMITS.words"
              :model-value="words"
              @input="d.put({ ...chosen, words: ($event.target as HTMLTextAreaElement).value } as Shape, `words ${chosen.id}`)"
            />
          </label>
          <label class="field"
            ><span class="label">Colour</span
            ><ChoiceField :model-value="chosen.tone" @change="d.put({ ...chosen, tone: Number($event) })">
              <option v-for="(t, n) in TONES" :key="t.name" :value="n">{{ t.name }}</option>
            </ChoiceField></label
          >
          <template v-if="line">
            <label
              v-for="[end, word] in [
                ['startsAt', 'From'],
                ['endsAt', 'To'],
              ] as const"
              :key="end"
              class="field"
              ><span class="label">{{ word }}</span
              ><ChoiceField :model-value="line[end] ?? ''" @change="d.hold(line, end, $event || null)">
                <option value="">where it is</option>
                <option v-for="s in solids" :key="s.id" :value="s.id" :disabled="s.id === line[end === 'startsAt' ? 'endsAt' : 'startsAt']">
                  {{ nameOf(s) }}
                </option>
              </ChoiceField></label
            >
          </template>
          <p>
            <ActButton look="act" @click="d.front(chosen)">To the front</ActButton> ·
            <ActButton look="act" @click="d.take(chosen)">Remove</ActButton>
          </p>
          <p class="label">Arrow keys move it, with <kbd>Shift</kbd> they size it, <kbd>Delete</kbd> takes it away.</p>
        </template>
        <p v-else-if="armed" class="label">
          {{
            armed === 'pen'
              ? 'Draw on the sheet.'
              : armed === 'line' || armed === 'arrow'
                ? 'Draw from one shape to another.'
                : 'Draw it on the sheet.'
          }}
        </p>
        <p v-else-if="drawing.shapes.length === 0" class="label">Choose what to draw, then draw it on the sheet.</p>
        <p v-else class="label">Choose a shape to write in it, colour it or move it.</p>
      </aside>
    </div>
    <p v-if="d.isFull.value" class="label" role="status">A diagram holds {{ DRAWING_LIMITS.shapes }} shapes.</p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p>
      <ActButton look="go" :disabled="drawing.shapes.length === 0 || isBusy" @click="finish">Use this drawing</ActButton>
      <ActButton look="quiet" @click="emit('leave')">Leave it</ActButton>
    </p>
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
  border-bottom: 1px solid var(--frost);
  padding-bottom: 5px;
  margin-bottom: 12px;
}
.tools button {
  border: 0;
  background: none;
  color: var(--soft);
  padding: 2px 9px;
  min-height: 26px;
  border-radius: 3px;
  cursor: pointer;
}
.tools button:disabled {
  opacity: 0.5;
  cursor: default;
}
.tools button:hover {
  background: var(--frost2);
}
.tools button.on {
  background: var(--bloom-wash);
  color: var(--bloom);
}
.gap {
  flex: 1;
}
.sheet-and-side {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 190px;
  gap: 18px;
  margin-bottom: 12px;
}
@media (max-width: 760px) {
  .sheet-and-side {
    grid-template-columns: 1fr;
  }
}
.paper {
  width: 100%;
  height: auto;
  background: #fff;
  border: 1px solid var(--frost);
  touch-action: none;
  user-select: none;
}
.paper.armed {
  cursor: crosshair;
}
.paper [data-shape] {
  cursor: move;
}
.paper [data-shape]:focus-visible {
  outline: 2px dashed #5c5fa8;
  outline-offset: 4px;
}
.chosen {
  fill: none;
  stroke: #5c5fa8;
  stroke-width: 1.5;
  stroke-dasharray: 5 4;
  pointer-events: none;
}
.corner {
  fill: #5c5fa8;
  cursor: nwse-resize;
}
</style>

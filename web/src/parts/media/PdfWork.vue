<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import type { Box, NoteView } from '@rosemary/api';
import { getDocument, GlobalWorkerOptions, TextLayer, type PDFDocumentProxy } from 'pdfjs-dist';
import worker from 'pdfjs-dist/build/pdf.worker.min.mjs?url';
import { nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import { boxStyle, useArea } from './useArea.ts';
import ActButton from '../ActButton.vue';

GlobalWorkerOptions.workerSrc = worker;
type Numbered = NoteView & { readonly number: number };
const props = defineProps<{ url: string; notes: readonly Numbered[]; chosen: string | null; canNote?: boolean }>();
/** Drawing areas takes the place of selecting words, as long as it is switched on. */
const draws = ref(false);
const area = useArea((box, holder) => {
  emit('select', { page: Number(holder.dataset.page), boxes: [box], quote: '' });
});
let lastPlaced = '';
const emit = defineEmits<{
  choose: [id: string];
  select: [place: { page: number; boxes: Box[]; quote: string } | null];
  placed: [tops: Record<string, number>];
}>();
const root = ref<HTMLElement | null>(null);
const pages = ref<{ number: number; width: number; height: number }[]>([]);
const zoom = ref(1);
const fault = ref('');
const pdf = shallowRef<PDFDocumentProxy | null>(null);
let fit = 1;
let drawing = 0;

async function open(): Promise<void> {
  try {
    const task = getDocument({
      url: props.url,
      isEvalSupported: false,
      useSystemFonts: false,
      standardFontDataUrl: '/pdf/fonts/',
      cMapUrl: '/pdf/cmaps/',
      cMapPacked: true,
    });
    task.onPassword = () => {
      fault.value = 'This PDF is closed with a password, so it cannot be shown here.';
      void task.destroy();
    };
    pdf.value = await task.promise;
    await draw();
  } catch {
    if (fault.value === '') fault.value = 'This PDF is broken and cannot be shown here. Download it, or ask for another copy.';
  }
}
async function draw(): Promise<void> {
  const document_ = pdf.value;
  if (document_ === null || root.value === null) return;
  const turn = ++drawing;
  const first = await document_.getPage(1);
  fit = Math.min(1.6, (root.value.clientWidth - 2) / first.getViewport({ scale: 1 }).width);
  const sizes = [];
  for (let n = 1; n <= Math.min(document_.numPages, 200); n += 1) {
    const v = (await document_.getPage(n)).getViewport({ scale: fit * zoom.value });
    sizes.push({ number: n, width: v.width, height: v.height });
  }
  if (turn !== drawing) return;
  pages.value = sizes;
  await nextTick();
  place();
  for (const size of sizes) {
    if (turn !== drawing) return;
    const page = await document_.getPage(size.number);
    const viewport = page.getViewport({ scale: fit * zoom.value });
    const holder = root.value?.querySelector(`[data-page="${size.number}"]`);
    const canvas = holder?.querySelector('canvas');
    const layer = holder?.querySelector<HTMLElement>('.text-layer');
    if (!canvas || !layer) continue;
    const sharp = window.devicePixelRatio || 1;
    canvas.width = Math.floor(viewport.width * sharp);
    canvas.height = Math.floor(viewport.height * sharp);
    await page.render({ canvas, viewport, ...(sharp === 1 ? {} : { transform: [sharp, 0, 0, sharp, 0, 0] }) }).promise;
    layer.replaceChildren();
    layer.style.setProperty('--total-scale-factor', String(viewport.scale));
    await new TextLayer({ textContentSource: page.streamTextContent(), container: layer, viewport }).render();
  }
  place();
}
function place(): void {
  const top = root.value?.getBoundingClientRect().top ?? 0;
  const tops: Record<string, number> = {};
  for (const note of props.notes) {
    if (note.anchor.kind !== 'pdf') continue;
    const page = root.value?.querySelector(`[data-page="${note.anchor.page}"]`)?.getBoundingClientRect();
    if (page) tops[note.id] = page.top - top + (note.anchor.boxes[0]?.y ?? 0) * page.height;
  }
  // Said only when it changed: the parent draws again on every word of it.
  const said = JSON.stringify(tops);
  if (said === lastPlaced) return;
  lastPlaced = said;
  emit('placed', tops);
}
function onSelect(): void {
  const selection = document.getSelection();
  if (selection === null || selection.rangeCount === 0) return;
  const range = selection.getRangeAt(0);
  const holder = (range.startContainer.parentElement ?? root.value)?.closest<HTMLElement>('[data-page]');
  if (!holder || !root.value?.contains(holder)) return;
  if (selection.isCollapsed) {
    emit('select', null);
    return;
  }
  const page = holder.getBoundingClientRect();
  const share = (v: number): number => Math.min(1, Math.max(0, Math.round(v * 10_000) / 10_000));
  const boxes = [...range.getClientRects()]
    .filter((r) => r.width > 1 && r.height > 1 && r.height < page.height / 3 && r.top < page.bottom && r.bottom > page.top)
    .slice(0, 120)
    .map((r) => ({
      x: share((r.left - page.left) / page.width),
      y: share((r.top - page.top) / page.height),
      w: share(r.width / page.width),
      h: share(r.height / page.height),
    }));
  const quote = selection.toString().replace(/\s+/g, ' ').trim().slice(0, 2000);
  if (boxes.length > 0 && quote !== '') emit('select', { page: Number(holder.dataset.page), boxes, quote });
}
watch(zoom, draw);
watch(
  () => props.notes,
  () => {
    void nextTick(place);
  },
  { deep: true },
);
onMounted(open);
useEventListener(document, 'selectionchange', onSelect);
onBeforeUnmount(() => {
  drawing += 1;
  void pdf.value?.loadingTask.destroy();
});
const boxesOf = (note: Numbered): readonly Box[] => (note.anchor.kind === 'pdf' ? note.anchor.boxes : []);
const pageOf = (note: Numbered): number => (note.anchor.kind === 'pdf' ? note.anchor.page : 0);
</script>

<template>
  <div class="pdf">
    <p v-if="fault" class="fault">{{ fault }} <a :href="`${url}?download=1`">Download</a></p>
    <p v-else class="label tools no-print">
      <ActButton look="act" aria-label="Smaller" @click="zoom = Math.max(0.6, zoom - 0.2)">−</ActButton> {{ Math.round(zoom * 100) }} %
      <ActButton look="act" aria-label="Larger" @click="zoom = Math.min(3, zoom + 0.2)">+</ActButton> ·
      {{ pages.length === 1 ? '1 page' : `${pages.length} pages` }} · <a :href="`${url}?download=1`">download</a>
      <template v-if="canNote">
        ·
        <ActButton look="act" :aria-pressed="draws" @click="draws = !draws">{{
          draws ? 'select words' : 'draw an area'
        }}</ActButton></template
      >
    </p>
    <div ref="root" class="pages" :aria-busy="pages.length === 0 && fault === ''">
      <div v-if="pages.length === 0 && !fault" class="skeleton" style="height: 500px" />
      <div
        v-for="p in pages"
        :key="p.number"
        class="pdf-page"
        :data-page="p.number"
        :class="{ draws }"
        @pointerdown="draws && area.down($event, $event.currentTarget as HTMLElement)"
        @pointermove="area.move"
        @pointerup="area.up"
        @pointercancel="area.up"
        :style="{ width: `${p.width}px`, height: `${p.height}px` }"
      >
        <canvas :aria-label="`Page ${p.number}`" />
        <div class="text-layer" />
        <template v-for="note in notes.filter((n) => pageOf(n) === p.number)" :key="note.id"
          ><ActButton
            v-for="(b, n) in boxesOf(note)"
            :key="n"
            class="ink-box"
            :class="{ on: note.id === chosen, area: note.quote === '' }"
            :style="boxStyle(b)"
            :aria-label="`Note ${note.number}`"
            @click="emit('choose', note.id)"
          >
            <sup v-if="n === boxesOf(note).length - 1">{{ note.number }}</sup>
          </ActButton></template
        >
        <div v-if="area.going.value?.of.dataset.page === String(p.number)" class="going" :style="boxStyle(area.going.value)" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.pages {
  overflow-x: auto;
}
.pdf-page {
  position: relative;
  background: #fff;
  margin: 0 auto 14px;
  border: 1px solid var(--frost);
}
canvas {
  width: 100%;
  height: 100%;
  display: block;
}
.tools {
  text-align: right;
  padding: 4px 0;
}
.ink-box {
  position: absolute;
  border: 0;
  border-bottom: 1.6px solid #22302a;
  background: transparent;
  padding: 0;
  pointer-events: none;
}
.ink-box.on {
  background: rgb(92 95 168 / 0.18);
  border-color: #5c5fa8;
}
.ink-box.area {
  border: 1.6px solid #5c5fa8;
}
.draws {
  cursor: crosshair;
  touch-action: none;
}
.draws .text-layer {
  pointer-events: none;
}
.going {
  position: absolute;
  border: 1.6px solid #5c5fa8;
  background: rgb(92 95 168 / 0.18);
}
.ink-box sup {
  position: absolute;
  right: -10px;
  top: -6px;
  font: 600 11px var(--sans);
  color: #22302a;
  pointer-events: auto;
  cursor: pointer;
}
.text-layer {
  position: absolute;
  inset: 0;
  overflow: clip;
  line-height: 1;
  text-size-adjust: none;
  transform-origin: 0 0;
  --scale-round-x: 1px;
  --scale-round-y: 1px;
}
.text-layer :deep(span),
.text-layer :deep(br) {
  color: transparent;
  position: absolute;
  white-space: pre;
  cursor: text;
  transform-origin: 0% 0%;
}
.text-layer {
  --min-font-size: 1;
  --text-scale-factor: calc(var(--total-scale-factor) * var(--min-font-size));
  --min-font-size-inv: calc(1 / var(--min-font-size));
}
.text-layer :deep(:is(span, [role='img']):not(.markedContent)) {
  font-size: calc(var(--text-scale-factor) * var(--font-height, 0px));
  transform: rotate(var(--rotate, 0deg)) scaleX(var(--scale-x, 1)) scale(var(--min-font-size-inv));
}
.text-layer :deep(::selection) {
  background: rgb(92 95 168 / 0.3);
}
</style>

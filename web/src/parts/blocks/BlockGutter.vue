<script setup lang="ts">
import type { Editor } from '@tiptap/core';
import { NodeSelection } from '@tiptap/pm/state';
import { onBeforeUnmount, onMounted, ref } from 'vue';
import { blockAt, insertBeside, moveBlock } from './moveBlocks.ts';
import ActButton from '../ActButton.vue';

/** Beside the block in hand: insert above or below, take it up to drag it, move it by a step. */
const props = defineProps<{ editor: Editor }>();
const top = ref<number | null>(null);
let pos = 0;

function show(at: number): void {
  const block = blockAt(props.editor, at);
  const element = block === null ? null : (props.editor.view.nodeDOM(block.from) as HTMLElement | null);
  if (block === null || !(element instanceof HTMLElement)) return;
  pos = block.from;
  top.value = element.offsetTop;
}
const onSelect = (): void => {
  if (props.editor.isFocused) show(props.editor.state.selection.from);
};
function onMove(event: MouseEvent): void {
  const found = props.editor.view.posAtCoords({ left: event.clientX, top: event.clientY });
  if (found) show(found.inside >= 0 ? found.inside : found.pos);
}
onMounted(() => {
  props.editor.on('selectionUpdate', onSelect);
  props.editor.on('focus', onSelect);
  props.editor.view.dom.addEventListener('mousemove', onMove);
});
onBeforeUnmount(() => {
  props.editor.off('selectionUpdate', onSelect);
  props.editor.off('focus', onSelect);
});
function select(): void {
  const { view, state } = props.editor;
  view.dispatch(state.tr.setSelection(NodeSelection.create(state.doc, pos)));
}
/** The editor carries out the drop itself: it only has to know what is in hand. */
function onDragStart(event: DragEvent): void {
  select();
  const { view } = props.editor;
  const slice = view.state.selection.content();
  const { dom, text } = view.serializeForClipboard(slice);
  event.dataTransfer?.clearData();
  event.dataTransfer?.setData('text/html', dom.innerHTML);
  event.dataTransfer?.setData('text/plain', text);
  if (event.dataTransfer) event.dataTransfer.effectAllowed = 'move';
  view.dragging = { slice, move: true };
}
/** Let go outside the text: what was in hand is put down, so that a later drop is not taken for it. */
function onDragEnd(): void {
  const { view } = props.editor;
  view.dragging = null;
}
function move(by: -1 | 1): void {
  select();
  moveBlock(props.editor, by);
  props.editor.commands.focus();
}
function onKey(event: KeyboardEvent): void {
  if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
  event.preventDefault();
  move(event.key === 'ArrowUp' ? -1 : 1);
}
</script>

<template>
  <div v-if="top !== null" class="gutter" :style="{ top: `${top}px` }" @mousedown.stop>
    <ActButton title="Insert above (Ctrl Shift Enter)" aria-label="Insert above" @click="insertBeside(editor, 'above', pos)">
      <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true">
        <path d="M6 5v6M3 8h6M1 2h10" stroke="currentColor" fill="none" />
      </svg>
    </ActButton>
    <ActButton
      class="grip"
      draggable="true"
      title="Drag, or Alt and arrows"
      aria-label="Move the block"
      @dragstart="onDragStart"
      @dragend="onDragEnd"
      @click="select"
      @keydown="onKey"
    >
      ⠿
    </ActButton>
    <ActButton title="Insert below (Ctrl Enter)" aria-label="Insert below" @click="insertBeside(editor, 'below', pos)">
      <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true">
        <path d="M6 1v6M3 4h6M1 10h10" stroke="currentColor" fill="none" />
      </svg>
    </ActButton>
  </div>
</template>

<style scoped>
.gutter {
  position: absolute;
  left: -40px;
  width: 32px;
  display: flex;
  flex-direction: column;
  align-items: center;
  opacity: 0;
  transition: opacity 0.12s;
}
.editor:hover .gutter,
.editor:focus-within .gutter {
  opacity: 1;
}
.gutter button {
  border: 0;
  background: none;
  color: var(--soft);
  min-width: 24px;
  min-height: 24px;
  padding: 0;
  line-height: 1;
  cursor: pointer;
  border-radius: 3px;
}
.gutter button:hover {
  background: var(--frost2);
  color: var(--bloom);
}
.grip {
  cursor: grab !important;
}
@media (max-width: 900px), print {
  .gutter {
    display: none;
  }
}
</style>

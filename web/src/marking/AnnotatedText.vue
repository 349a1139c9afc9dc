<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { documentSchema, type NoteView } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { EditorState, Plugin, PluginKey } from '@tiptap/pm/state';
import { Decoration, DecorationSet, EditorView } from '@tiptap/pm/view';
import { onBeforeUnmount, onMounted, ref, watch } from 'vue';

type Numbered = NoteView & { readonly number: number };
const props = defineProps<{ document: DocumentNode; notes: readonly Numbered[]; chosen: string | null }>();
let lastPlaced = '';
const emit = defineEmits<{
  choose: [id: string];
  select: [place: { from: number; to: number; quote: string } | null];
  placed: [tops: Record<string, number>];
}>();
const box = ref<HTMLElement | null>(null);
let view: EditorView | null = null;
const key = new PluginKey('notes');

function decorate(state: EditorState): DecorationSet {
  const marks = props.notes.flatMap((note) => {
    if (note.anchor.kind !== 'text' || note.anchor.to > state.doc.content.size) return [];
    const proposed = (): HTMLElement => {
      const ins = document.createElement('ins');
      ins.textContent = note.replacement ?? '';
      ins.className = 'note-proposed';
      return ins;
    };
    const badge = (): HTMLElement => {
      const sup = document.createElement('sup');
      sup.textContent = String(note.number);
      sup.className = 'note-number';
      return sup;
    };
    return [
      Decoration.inline(note.anchor.from, note.anchor.to, {
        class: `note-ink${note.id === props.chosen ? ' note-on' : ''}${note.replacement === null ? '' : ' note-struck'}`,
        'data-note': note.id,
      }),
      ...(note.replacement
        ? [Decoration.widget(note.anchor.to, proposed, { side: 0, ignoreSelection: true, key: `${note.id} ${note.replacement}` })]
        : []),
      Decoration.widget(note.anchor.to, badge, { side: 1, ignoreSelection: true, key: `${note.id} ${note.number}` }),
    ];
  });
  return DecorationSet.create(state.doc, marks);
}

/** The height of each note's words within this text, so that its remark can stand level with them. */
function place(): void {
  if (view === null || box.value === null) return;
  const top = box.value.getBoundingClientRect().top;
  const tops: Record<string, number> = {};
  for (const note of props.notes)
    if (note.anchor.kind === 'text' && note.anchor.to <= view.state.doc.content.size)
      tops[note.id] = view.coordsAtPos(note.anchor.from).top - top;
  // Said only when it changed: the parent draws again on every word of it.
  const said = JSON.stringify(tops);
  if (said === lastPlaced) return;
  lastPlaced = said;
  emit('placed', tops);
}
function redraw(): void {
  if (view !== null) {
    view.updateState(view.state.reconfigure({ plugins: view.state.plugins }));
    requestAnimationFrame(place);
  }
}

function onSelect(): void {
  const selection = document.getSelection();
  if (view === null || selection === null || selection.rangeCount === 0 || box.value === null) return;
  const range = selection.getRangeAt(0);
  if (!box.value.contains(range.commonAncestorContainer)) return;
  if (selection.isCollapsed) {
    emit('select', null);
    return;
  }
  const from = view.posAtDOM(range.startContainer, range.startOffset);
  const to = view.posAtDOM(range.endContainer, range.endOffset);
  if (to > from) emit('select', { from, to, quote: view.state.doc.textBetween(from, to, ' ').slice(0, 2000) });
}
function onClick(event: MouseEvent): void {
  const id = (event.target as HTMLElement).closest('[data-note]')?.getAttribute('data-note');
  if (id) emit('choose', id);
}

let watcher: ResizeObserver | undefined;
onMounted(() => {
  if (box.value === null) return;
  const state = EditorState.create({
    doc: documentSchema.nodeFromJSON(props.document),
    plugins: [new Plugin({ key, props: { decorations: decorate } })],
  });
  view = new EditorView(box.value, {
    state,
    editable: () => false,
    attributes: { role: 'document', 'aria-label': 'The work', tabindex: '0' },
  });
  watcher = new ResizeObserver(place);
  watcher.observe(box.value);
  place();
});
watch(() => [props.notes, props.chosen], redraw, { deep: true });
useEventListener(document, 'selectionchange', onSelect);
onBeforeUnmount(() => {
  watcher?.disconnect();
  view?.destroy();
});
</script>

<template><div ref="box" class="document" @click="onClick" /></template>

<style>
.note-ink {
  border-bottom: 1.5px solid var(--ink);
  cursor: pointer;
}
.note-on {
  background: var(--bloom-wash);
  border-color: var(--bloom);
}
.note-struck {
  text-decoration: line-through;
  border-bottom: 0;
}
.note-proposed {
  color: var(--bloom);
  text-decoration: none;
  font-style: italic;
  padding-left: 3px;
}
.note-number {
  font: 600 11px/1 var(--sans);
  padding-left: 1px;
  vertical-align: super;
}
.document .ProseMirror[contenteditable='false'] {
  white-space: pre-wrap;
}
</style>

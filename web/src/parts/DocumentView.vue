<script setup lang="ts">
import type { BlockAttrs, BlockName } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { defineAsyncComponent, getCurrentInstance, h, inject, onBeforeUnmount, onMounted, ref, render, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useCourse } from '../stores/courseStore.ts';
import { ANSWER_HERE } from './blocks/answerHere.ts';
import { drawDocument } from './drawDocument.ts';

const BlockShown = defineAsyncComponent(() => import('./blocks/BlockShown.vue'));
const props = defineProps<{ document: DocumentNode | null }>();
const box = ref<HTMLElement | null>(null);
const router = useRouter();
const course = useCourse();
const instance = getCurrentInstance();
/** Blocks are drawn outside the tree of this component, so what they need of it is handed to them. */
const answer = inject(ANSWER_HERE, null);
let blocks: HTMLElement[] = [];

function drop(): void {
  for (const block of blocks) render(null, block);
  blocks = [];
}
/** Pieces are drawn from their data by the same component as in the editor. */
function drawBlocks(root: HTMLElement): void {
  for (const block of root.querySelectorAll<HTMLElement>('[data-block]')) {
    const attrs = JSON.parse(block.dataset.attrs ?? '{}') as BlockAttrs[BlockName];
    const node = h(BlockShown, { name: block.dataset.block as BlockName, attrs, answer });
    node.appContext = instance?.appContext ?? null;
    block.replaceChildren();
    render(node, block);
    blocks.push(block);
  }
}
const ITEM = /^\/courses\/([0-9a-f-]{36})\/(?:items|study)\/([0-9a-f-]{36})$/;
/** A link to an item leads each reader to the view that is theirs; links outside open beside. */
function turnLinks(root: HTMLElement): void {
  const view = course.head?.role === 'student' ? 'study' : 'items';
  for (const link of root.querySelectorAll('a')) {
    const href = link.getAttribute('href') ?? '';
    const inside = ITEM.exec(href);
    if (inside !== null) link.setAttribute('href', `/courses/${inside[1]}/${view}/${inside[2]}`);
    else if (/^https?:/.test(href)) {
      link.target = '_blank';
      link.rel = 'noreferrer noopener';
    }
  }
}
/** Drawn element by element: no text of anyone ever becomes HTML on its way. */
function draw(): void {
  if (box.value === null) return;
  drop();
  box.value.replaceChildren();
  if (props.document === null) return;
  box.value.append(drawDocument(props.document));
  turnLinks(box.value);
  drawBlocks(box.value);
}
function follow(event: MouseEvent): void {
  const href = (event.target as HTMLElement).closest('a')?.getAttribute('href') ?? '';
  if (!href.startsWith('/courses/') || event.ctrlKey || event.metaKey || event.shiftKey) return;
  event.preventDefault();
  void router.push(href);
}
onMounted(draw);
onBeforeUnmount(drop);
watch(() => props.document, draw);
</script>

<template><div ref="box" class="document" :lang="course.head?.language" @click="follow" /></template>

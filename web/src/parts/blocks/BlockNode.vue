<script setup lang="ts">
import type { BlockAttrs, BlockName } from '@rosemary/api';
import { NodeViewWrapper, nodeViewProps } from '@tiptap/vue-3';
import { computed, ref } from 'vue';
import BlockShown from './BlockShown.vue';
import ActButton from '../ActButton.vue';

/** A piece inside the editor: as readers see it, with the way to its form. */
const props = defineProps(nodeViewProps);
const root = ref<InstanceType<typeof NodeViewWrapper> | null>(null);
const name = computed(() => props.node.type.name as BlockName);
const isInline = computed(() => name.value === 'formulaInline');
function edit(): void {
  const element = root.value?.$el as HTMLElement | undefined;
  element?.dispatchEvent(new CustomEvent('edit-block', { bubbles: true, detail: { pos: props.getPos() } }));
}
</script>

<template>
  <NodeViewWrapper
    ref="root"
    :as="isInline ? 'span' : 'div'"
    :class="['block-node', { on: selected, inline: isInline }]"
    contenteditable="false"
    @dblclick="edit"
  >
    <BlockShown :key="JSON.stringify(node.attrs)" :name="name" :attrs="node.attrs as BlockAttrs[BlockName]" />
    <ActButton v-if="editor.isEditable && (selected || !isInline)" look="act" class="edit" @click="edit">change</ActButton>
  </NodeViewWrapper>
</template>

<style scoped>
.block-node {
  position: relative;
}
.block-node.on {
  outline: 2px solid var(--bloom);
  outline-offset: 2px;
  border-radius: 3px;
}
.edit {
  font: 13px/24px var(--sans);
  min-height: 24px;
}
.block-node:not(.inline) > .edit {
  position: absolute;
  right: 4px;
  top: 2px;
  background: var(--paper);
  padding: 0 6px;
  opacity: 0;
}
.block-node:hover > .edit,
.block-node.on > .edit,
.edit:focus {
  opacity: 1;
}
</style>

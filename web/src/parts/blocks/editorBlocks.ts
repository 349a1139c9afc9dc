import { pieces, places, textExtensions } from '@rosemary/api';
import { Extension, type Extensions } from '@tiptap/core';
import { VueNodeViewRenderer } from '@tiptap/vue-3';
import BlockNode from './BlockNode.vue';
import { insertBeside, moveBlock } from './moveBlocks.ts';

const BlockKeys = Extension.create({
  name: 'blockKeys',
  addKeyboardShortcuts() {
    return {
      'Alt-ArrowUp': () => moveBlock(this.editor, -1),
      'Alt-ArrowDown': () => moveBlock(this.editor, 1),
      'Mod-Enter': () => insertBeside(this.editor, 'below'),
      'Mod-Shift-Enter': () => insertBeside(this.editor, 'above'),
    };
  },
});

/** The schema of text with, for each piece, a view that can be changed, and the keys of blocks. */
export const editorExtensions: Extensions = [
  ...textExtensions,
  ...pieces.map((piece) => piece.extend({ addNodeView: () => VueNodeViewRenderer(BlockNode) })),
  ...places,
  BlockKeys,
];

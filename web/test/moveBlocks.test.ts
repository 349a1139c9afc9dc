/** @jest-environment jsdom */
import { textExtensions, pieces } from '@rosemary/api';
import { Editor } from '@tiptap/core';
import { NodeSelection } from '@tiptap/pm/state';
import { blockAt, insertBeside, moveBlock } from '../src/parts/blocks/moveBlocks.ts';
import { typeAfterBlock } from '../src/parts/blocks/typeAfterBlock.ts';

const paragraph = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] });
const formula = { type: 'formula', attrs: { tex: 'x' } };
let editor: Editor;
beforeEach(() => {
  editor = new Editor({
    extensions: [...textExtensions, ...pieces],
    content: { type: 'doc', content: [paragraph('one'), formula, paragraph('three')] },
  });
});
afterEach(() => {
  editor.destroy();
});
const shape = (): string[] =>
  (editor.getJSON().content ?? []).map((b) =>
    b.type === 'formula' ? 'formula' : ((b.content?.[0] as { text?: string } | undefined)?.text ?? ''),
  );

describe('moving blocks', () => {
  it('moves the one the cursor is in, and the cursor with it', () => {
    editor.commands.setTextSelection(2);
    expect(moveBlock(editor, 1)).toBe(true);
    expect(shape()).toEqual(['formula', 'one', 'three']);
    expect(editor.state.selection.$from.parent.textContent).toBe('one');
    moveBlock(editor, 1);
    expect(shape()).toEqual(['formula', 'three', 'one']);
    moveBlock(editor, -1);
    moveBlock(editor, -1);
    expect(shape()).toEqual(['one', 'formula', 'three']);
  });

  it('moves a block of one piece that is chosen, and keeps it chosen', () => {
    const at = blockAt(editor, 5);
    editor.view.dispatch(editor.state.tr.setSelection(NodeSelection.create(editor.state.doc, at?.from ?? 0)));
    moveBlock(editor, -1);
    expect(shape()).toEqual(['formula', 'one', 'three']);
    expect(editor.state.selection).toBeInstanceOf(NodeSelection);
    expect((editor.state.selection as NodeSelection).node.type.name).toBe('formula');
  });

  it('stays at the ends: nothing is lost and the key is not passed on', () => {
    editor.commands.setTextSelection(2);
    expect(moveBlock(editor, -1)).toBe(true);
    expect(shape()).toEqual(['one', 'formula', 'three']);
  });

  it('can be undone in one step', () => {
    editor.commands.setTextSelection(2);
    moveBlock(editor, 1);
    editor.commands.undo();
    expect(shape()).toEqual(['one', 'formula', 'three']);
  });
});

describe('opening a line beside a block', () => {
  it('is above or below the one in hand, with the cursor in it', () => {
    editor.commands.setTextSelection(2);
    insertBeside(editor, 'below');
    editor.commands.insertContent('two');
    expect(shape()).toEqual(['one', 'two', 'formula', 'three']);
    editor.commands.setTextSelection(2);
    insertBeside(editor, 'above');
    editor.commands.insertContent('zero');
    expect(shape()).toEqual(['zero', 'one', 'two', 'formula', 'three']);
  });

  it('works beside a piece that takes no cursor, at its place', () => {
    insertBeside(editor, 'below', 5);
    editor.commands.insertContent('after');
    expect(shape()).toEqual(['one', 'formula', 'after', 'three']);
  });

  it('finds blocks by any place in them, and none beyond the end', () => {
    expect(blockAt(editor, 0)).toEqual({ from: 0, size: 5 });
    expect(blockAt(editor, 5)).toEqual({ from: 5, size: 1 });
    expect(blockAt(editor, 999)).toBeNull();
  });
});

describe('a letter typed while a whole block is selected', () => {
  it('begins a paragraph after the block, and never takes its place', () => {
    const at = blockAt(editor, 5)?.from ?? 0;
    editor.view.dispatch(editor.state.tr.setSelection(NodeSelection.create(editor.state.doc, at)));
    expect(typeAfterBlock(editor.view, 'w')).toBe(true);
    expect(shape()).toEqual(['one', 'formula', 'w', 'three']);
    expect(editor.state.selection.$from.parent.textContent).toBe('w');
    expect(typeAfterBlock(editor.view, 'x')).toBe(false);
  });
});

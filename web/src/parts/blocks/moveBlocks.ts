import type { Editor } from '@tiptap/core';
import { NodeSelection, TextSelection } from '@tiptap/pm/state';

/** Where a top-level block begins and how long it is; null where the selection is in none. */
export function blockAt(
  editor: Editor,
  pos: number = editor.state.selection.from,
): { readonly from: number; readonly size: number } | null {
  const { doc } = editor.state;
  let from = 0;
  for (let n = 0; n < doc.childCount; n += 1) {
    const size = doc.child(n).nodeSize;
    if (pos < from + size) return { from, size };
    from += size;
  }
  return null;
}

/** Moves the block the selection is in past its neighbour, with the selection in it. */
export function moveBlock(editor: Editor, by: -1 | 1): boolean {
  const block = blockAt(editor);
  if (block === null) return false;
  const { doc, tr, selection } = editor.state;
  const index = doc.resolve(block.from).index(0);
  const other = index + by;
  if (other < 0 || other >= doc.childCount) return true;
  const node = doc.child(index);
  const target = by < 0 ? block.from - doc.child(other).nodeSize : block.from + doc.child(other).nodeSize;
  tr.delete(block.from, block.from + block.size).insert(target, node);
  const at = target + (selection.from - block.from);
  tr.setSelection(selection instanceof NodeSelection ? NodeSelection.create(tr.doc, target) : TextSelection.near(tr.doc.resolve(at)));
  editor.view.dispatch(tr.scrollIntoView());
  return true;
}

/** Puts an empty paragraph above or below a block and the cursor into it. */
export function insertBeside(editor: Editor, where: 'above' | 'below', pos?: number): boolean {
  const block = blockAt(editor, pos);
  if (block === null) return false;
  const at = where === 'above' ? block.from : block.from + block.size;
  return editor
    .chain()
    .insertContentAt(at, { type: 'paragraph' })
    .setTextSelection(at + 1)
    .focus()
    .run();
}

import { NodeSelection, TextSelection } from '@tiptap/pm/state';
import type { EditorView } from '@tiptap/pm/view';

/**
 * A letter that is typed while a whole block is selected, as after it was dragged, begins a paragraph after it: it never takes the
 * block's place. Whether there was such a block.
 */
export function typeAfterBlock(view: EditorView, text: string): boolean {
  const { selection, schema, tr } = view.state;
  if (!(selection instanceof NodeSelection) || !selection.node.isBlock) return false;
  const paragraph = schema.nodes.paragraph?.create(null, schema.text(text));
  if (paragraph === undefined) return false;
  tr.insert(selection.to, paragraph);
  tr.setSelection(TextSelection.create(tr.doc, selection.to + 1 + text.length));
  view.dispatch(tr.scrollIntoView());
  return true;
}

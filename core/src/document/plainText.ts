/** A document of the editor, as its JSON. */
export interface DocumentNode {
  readonly type: string;
  readonly text?: string;
  readonly attrs?: { readonly [name: string]: unknown };
  readonly content?: readonly DocumentNode[];
  readonly marks?: readonly { readonly type: string; readonly attrs?: { readonly [name: string]: unknown } }[];
}

/** The words of a document, one line a block. Example: two paragraphs `a`, `b` give `a\nb`. */
export function plainText(node: DocumentNode | null): string {
  if (node === null) return '';
  if (node.type === 'text') return node.text ?? '';
  if (node.type === 'hardBreak') return '\n';
  const parts = (node.content ?? []).map(plainText);
  const isLine = node.type === 'paragraph' || node.type === 'heading' || node.type === 'codeBlock';
  return isLine ? parts.join('') : parts.filter((part) => part !== '').join('\n');
}

/** Words are runs with a letter or digit in them, parted by white space. Example: `0.04 mm — fine` has 3. */
export function wordCount(text: string): number {
  return text.split(/\s+/).filter((word) => /[\p{L}\p{N}]/u.test(word)).length;
}

/** Every node of a kind, in reading order: pictures with no alternative, files in use. */
export function nodesOfType(node: DocumentNode | null, type: string): readonly DocumentNode[] {
  if (node === null) return [];
  return [...(node.type === type ? [node] : []), ...(node.content ?? []).flatMap((child) => nodesOfType(child, type))];
}

/**
 * The files of the course that a document shows, each once: pictures, sound and video with their captions, files in place.
 * Example: one picture of file `a` used twice gives `['a']`.
 */
export function filesIn(node: DocumentNode | null): readonly string[] {
  if (node === null) return [];
  const own = [node.attrs?.fileId, node.attrs?.captionsId].filter((id): id is string => typeof id === 'string' && id !== '');
  return [...new Set([...own, ...(node.content ?? []).flatMap(filesIn)])];
}

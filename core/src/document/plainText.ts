/** A document of the editor, as its JSON. */
export interface DocumentNode {
  readonly type: string;
  readonly text?: string;
  readonly attrs?: { readonly [name: string]: unknown };
  readonly content?: readonly DocumentNode[];
  readonly marks?: readonly { readonly type: string; readonly attrs?: { readonly [name: string]: unknown } }[];
}

/** Blocks that are something to read, to look at or to do, without a word beside them. */
export const PIECES = ['picture', 'media', 'embed', 'fileShown', 'question', 'response', 'formula', 'formulaInline'] as const;

/** The words of a document, one line a block; a place to fill in is a line, a drawn number its name. Example: two paragraphs `a`, `b` give `a\nb`. */
export function plainText(node: DocumentNode | null): string {
  if (node === null) return '';
  if (node.type === 'text') return node.text ?? '';
  if (node.type === 'hardBreak') return '\n';
  if (node.type === 'blank') return '____';
  if (node.type === 'value') return `{${String(node.attrs?.name ?? '')}}`;
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

/**
 * A document without the blocks whose file is not there, and the names of what was left out. What loses its last block keeps an
 * empty paragraph. Worked example: a page of one picture whose file did not come is an empty page, and one name.
 */
export function withoutFiles(
  node: DocumentNode,
  isHere: (fileId: string) => boolean,
): { readonly node: DocumentNode; readonly lost: readonly string[] } {
  const lost: string[] = [];
  const keep = (at: DocumentNode): DocumentNode | null => {
    const { fileId, captionsId } = at.attrs ?? {};
    if (typeof fileId === 'string' && fileId !== '' && !isHere(fileId)) {
      lost.push([at.attrs?.name, at.attrs?.alt, at.attrs?.title].find((w): w is string => typeof w === 'string' && w !== '') ?? at.type);
      return null;
    }
    const isBare = typeof captionsId === 'string' && !isHere(captionsId);
    const own = isBare ? { ...at, attrs: { ...at.attrs, captionsId: null, captionsSrc: '' } } : at;
    if (own.content === undefined) return own;
    const content = own.content.flatMap((child) => keep(child) ?? []);
    return { ...own, content: content.length === 0 && own.content.length > 0 ? [{ type: 'paragraph' }] : content };
  };
  return { node: keep(node) ?? { type: 'paragraph' }, lost };
}

/**
 * A document whose files are fetched elsewhere: each address is what `at` says of its file. Example: the pictures of a question that is
 * used in another course are fetched through the quiz they stand in.
 */
export function withFilesAt(node: DocumentNode, at: (fileId: string) => string): DocumentNode {
  const { fileId, captionsId } = node.attrs ?? {};
  const isFile = typeof fileId === 'string' && fileId !== '';
  const hasCaptions = typeof captionsId === 'string' && captionsId !== '';
  const attrs = {
    ...node.attrs,
    ...(isFile ? { src: at(fileId) } : {}),
    ...(hasCaptions ? { captionsSrc: at(captionsId) } : {}),
  };
  return {
    ...node,
    ...(isFile || hasCaptions ? { attrs } : {}),
    ...(node.content === undefined ? {} : { content: node.content.map((child) => withFilesAt(child, at)) }),
  };
}

import { documentFromHtml } from '../document/fromHtml.ts';
import type { DocumentNode } from '../document/plainText.ts';
import { documentToHtml } from '../document/toHtml.ts';

/** How a file of ours is named in a table: it is not in it, but where the file is at hand it is found again. */
const FILE = 'file:';
export type FileAt = (fileId: string) => { readonly src: string; readonly name: string; readonly mediaType: string } | null;

/** Braces mark places in the words of a question; those that are meant as braces are doubled. */
const doubled = (text: string): string => text.replace(/[{}]/g, (c) => c + c);

/** Places to fill in and drawn numbers as text in braces: a place by its number, a drawn number by its name. */
function withBraces(node: DocumentNode, numberOf: (blankId: string) => number): DocumentNode {
  if (node.type === 'blank') return { type: 'text', text: `{${numberOf(String(node.attrs?.id ?? ''))}}` };
  if (node.type === 'value') return { type: 'text', text: `{${String(node.attrs?.name ?? '')}}` };
  if (node.type === 'text') return { ...node, text: doubled(node.text ?? '') };
  return node.content === undefined ? node : { ...node, content: node.content.map((child) => withBraces(child, numberOf)) };
}

/** Text nodes parted at their braces; `placeOf` makes a place of what stands in them, or leaves it as it is. */
function withPlaces(node: DocumentNode, placeOf: (inside: string) => DocumentNode | null): DocumentNode {
  const part = (text: DocumentNode): DocumentNode[] => {
    const marks = text.marks === undefined ? {} : { marks: text.marks };
    const parts: DocumentNode[] = [];
    let plain = '';
    const flush = (): void => {
      if (plain !== '') parts.push({ type: 'text', text: plain, ...marks });
      plain = '';
    };
    for (const [piece, inside] of (text.text ?? '').matchAll(/\{\{|\}\}|\{([^{}]*)\}|[^{}]+|[{}]/g)) {
      const place = inside === undefined ? null : placeOf(inside);
      if (place === null) plain += piece === '{{' || piece === '}}' ? piece.charAt(0) : piece;
      else {
        flush();
        parts.push(place);
      }
    }
    flush();
    return parts;
  };
  if (node.content === undefined) return node;
  return { ...node, content: node.content.flatMap((child) => (child.type === 'text' ? part(child) : [withPlaces(child, placeOf)])) };
}

const isPlain = (node: DocumentNode): boolean =>
  (node.content ?? []).every(
    (block) => block.type === 'paragraph' && (block.content ?? []).every((t) => t.type === 'text' && (t.marks ?? []).length === 0),
  );

/**
 * A document as one cell of a table: words without form as they are, a line for each paragraph; everything else as HTML, which begins with
 * “<”. `isOneLine` keeps it to a single line.
 * Worked example: one paragraph “Name the **part**.” is `<p>Name the <strong>part</strong>.</p>`; without the bold it is `Name the part.`
 */
export function toCell(node: DocumentNode, numberOf: (blankId: string) => number, isOneLine = false): string {
  const braced = withBraces(node, numberOf);
  const text = (braced.content ?? []).map((block) => (block.content ?? []).map((t) => t.text ?? '').join('')).join('\n');
  // A line is read without the spaces at its ends.
  const isSafe = isPlain(braced) && !text.includes('\r') && !(isOneLine && /^\s|\s$|\n/.test(text));
  // Words that begin with “<” are told from HTML by a backslash before them.
  if (isSafe) return /^[<\\]/.test(text) ? `\\${text}` : text;
  const html = documentToHtml(braced, { link: (href) => href, file: (fileId) => `${FILE}${fileId}` });
  return html.replace(/\n/g, '&#10;');
}

export interface CellRead {
  readonly document: DocumentNode;
  readonly problems: readonly string[];
}
/** Reads such a cell again; see {@link toCell}. Files that are not at hand are left out and named. */
export function fromCell(text: string, placeOf: (inside: string) => DocumentNode | null, fileAt: FileAt): CellRead {
  if (!text.startsWith('<')) {
    const content = text
      .replace(/^\\/, '')
      .split(/\r?\n/)
      .map((line): DocumentNode => (line === '' ? { type: 'paragraph' } : { type: 'paragraph', content: [{ type: 'text', text: line }] }));
    return { document: withPlaces({ type: 'doc', content }, placeOf), problems: [] };
  }
  const lost: string[] = [];
  const { document, problems } = documentFromHtml(text, {
    link: (href) => href,
    isEmbeddable: () => false,
    file: (address) => {
      const fileId = address.startsWith(FILE) ? address.slice(FILE.length) : '';
      const file = fileId === '' ? null : fileAt(fileId);
      if (file === null) lost.push(`the file “${address.slice(0, 60)}” is not here`);
      return file === null ? null : { fileId, ...file };
    },
  });
  return { document: withPlaces(document, placeOf), problems: [...problems, ...lost] };
}

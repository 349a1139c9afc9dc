import { getSchema, Node, type Extensions } from '@tiptap/core';
import Image from '@tiptap/extension-image';
import { TableKit } from '@tiptap/extension-table';
import type { Node as ProseNode, Schema } from '@tiptap/pm/model';
import StarterKit from '@tiptap/starter-kit';
import type { DocumentNode } from '@rosemary/core';

/** A passage set apart: a caution, a hint. */
const Callout = Node.create({
  name: 'callout',
  group: 'block',
  content: 'paragraph+',
  defining: true,
  parseHTML: () => [{ tag: 'aside' }],
  renderHTML: () => ['aside', { class: 'callout' }, 0],
});

/** Pictures carry their course file, a text alternative and a caption. */
const Picture = Image.extend({
  name: 'picture',
  addAttributes() {
    return {
      fileId: { default: null, parseHTML: (e) => e.getAttribute('data-file'), renderHTML: (a) => ({ 'data-file': a.fileId }) },
      src: { default: null },
      alt: { default: '' },
      caption: { default: '', parseHTML: (e) => e.getAttribute('data-caption') ?? '', renderHTML: (a) => ({ 'data-caption': a.caption }) },
    };
  },
  renderHTML: ({ HTMLAttributes, node }) => [
    'figure',
    {},
    ['img', HTMLAttributes],
    ...(node.attrs.caption === '' ? [] : [['figcaption', {}, node.attrs.caption] as const]),
  ],
  parseHTML: () => [{ tag: 'img[data-file]' }],
});

/** The one schema of text in Rosemary: the editor, the server's check and every reader use it. */
export const documentExtensions: Extensions = [
  StarterKit.configure({
    heading: { levels: [2, 3, 4] },
    link: { openOnClick: false, protocols: ['http', 'https', 'mailto'], autolink: true },
  }),
  Picture,
  Callout,
  TableKit.configure({ table: { resizable: false } }),
];

export const documentSchema: Schema = getSchema(documentExtensions);

export const emptyDocument: DocumentNode = { type: 'doc', content: [{ type: 'paragraph' }] };

export type DocumentCheck = { readonly ok: true; readonly node: ProseNode } | { readonly ok: false; readonly reason: string };

const SAFE_LINK = /^(https?:|mailto:|\/|#)/i;

/** Checks editor JSON against the schema, the links' addresses and where pictures come from. */
export function checkDocument(json: unknown): DocumentCheck {
  try {
    const node = documentSchema.nodeFromJSON(json as Record<string, unknown>);
    node.check();
    let reason: string | null = null;
    node.descendants((child) => {
      for (const mark of child.marks) {
        if (mark.type.name === 'link' && !SAFE_LINK.test(String(mark.attrs.href ?? '')))
          reason = `The link “${String(mark.attrs.href).slice(0, 80)}” does not lead to the web or to a mail address.`;
      }
      if (child.type.name === 'picture' && !/^\/api\/courses\/[0-9a-f-]{36}\/files\/[0-9a-f-]{36}$/.test(String(child.attrs.src ?? '')))
        reason = 'A picture must be a file of this course.';
    });
    return reason === null ? { ok: true, node } : { ok: false, reason };
  } catch (error) {
    return {
      ok: false,
      reason: `The text has a part that is not known here (${error instanceof Error ? error.message.slice(0, 120) : 'unknown'}).`,
    };
  }
}

/** A document of plain paragraphs, for demo texts and tests. */
export function paragraphs(...texts: readonly string[]): DocumentNode {
  return { type: 'doc', content: texts.map((text) => ({ type: 'paragraph', content: [{ type: 'text', text }] })) };
}

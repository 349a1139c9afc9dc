import type { DocumentNode } from '@rosemary/core';

/** A document with nothing in it yet. It needs no schema, so that a page that shows none loads none. */
export const emptyDocument: DocumentNode = { type: 'doc', content: [{ type: 'paragraph' }] };

/** A document of plain paragraphs. */
export function paragraphs(...texts: readonly string[]): DocumentNode {
  return { type: 'doc', content: texts.map((text) => ({ type: 'paragraph', content: [{ type: 'text', text }] })) };
}

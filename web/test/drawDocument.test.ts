/** @jest-environment jsdom */
import { documentSchema } from '@rosemary/api';
import type { DocumentNode } from '@rosemary/core';
import { DOMSerializer } from '@tiptap/pm/model';
import fc from 'fast-check';
import { drawDocument } from '../src/parts/drawDocument.ts';

/** What a reader sees is what the editor’s schema makes of a document, element by element. */
const t = (text: string, ...marks: object[]) => ({ type: 'text', text, ...(marks.length > 0 ? { marks } : {}) });
const p = (...content: object[]) => ({ type: 'paragraph', content });
const DOCUMENT = {
  type: 'doc',
  content: [
    p(
      t('a', { type: 'bold' }, { type: 'italic' }),
      t('b', { type: 'link', attrs: { href: 'https://x.org' } }, { type: 'bold' }),
      t('c', { type: 'code' }),
      t('d', { type: 'strike' }),
      t('e', { type: 'underline' }),
      { type: 'hardBreak' },
    ),
    { type: 'heading', attrs: { level: 2 }, content: [t('h')] },
    { type: 'bulletList', content: [{ type: 'listItem', content: [p(t('l'))] }] },
    { type: 'orderedList', attrs: { start: 3 }, content: [{ type: 'listItem', content: [p(t('l'))] }] },
    { type: 'orderedList', content: [{ type: 'listItem', content: [p(t('l'))] }] },
    { type: 'blockquote', content: [p(t('q'))] },
    { type: 'codeBlock', attrs: { language: 'js' }, content: [t('x')] },
    { type: 'codeBlock', content: [t('x')] },
    { type: 'horizontalRule' },
    { type: 'callout', content: [p(t('c'))] },
    {
      type: 'table',
      content: [
        {
          type: 'tableRow',
          content: [
            { type: 'tableHeader', content: [p(t('h'))] },
            { type: 'tableCell', attrs: { colspan: 2, rowspan: 1 }, content: [p(t('d'))] },
          ],
        },
      ],
    },
    { type: 'picture', attrs: { fileId: 'f', src: '/s', alt: 'a', size: 'half', source: 's', licence: 'l', caption: 'c' } },
    { type: 'picture', attrs: { fileId: 'f', src: '/s', alt: 'a' } },
    { type: 'formula', attrs: { tex: 'x^2' } },
    p(
      { type: 'formulaInline', attrs: { tex: 'y' } },
      { type: 'blank', attrs: { id: 'b1', answer: 'x' } },
      { type: 'value', attrs: { name: 'n' } },
    ),
    { type: 'media', attrs: {} },
    { type: 'question', attrs: { prompt: 'p', answers: [] } },
    { type: 'embed', attrs: { src: 'https://x', title: 't' } },
    { type: 'fileShown', attrs: { fileId: 'f', src: '/x', name: 'n', mediaType: 'm' } },
    { type: 'response', attrs: { href: '/courses/c/items/i', title: 'r' } },
  ],
};

/** Widths of columns belong to the editor; a reader’s table is as wide as its words. */
const html = (fragment: Node): string => {
  const box = document.createElement('div');
  box.append(fragment);
  for (const columns of box.querySelectorAll('colgroup')) columns.remove();
  for (const table of box.querySelectorAll('table')) table.removeAttribute('style');
  return box.innerHTML;
};
const bySchema = (node: object): string =>
  html(DOMSerializer.fromSchema(documentSchema).serializeFragment(documentSchema.nodeFromJSON(node).content));

describe('a document that is read', () => {
  it('has every node and mark of the schema in its test', () => {
    const text = JSON.stringify(DOCUMENT);
    for (const name of [...Object.keys(documentSchema.nodes), ...Object.keys(documentSchema.marks)])
      expect(text).toContain(`"type":"${name}"`);
  });
  it('is drawn as the schema draws it', () => {
    expect(html(drawDocument(DOCUMENT as DocumentNode))).toBe(bySchema(DOCUMENT));
  });
  it('nests marks of neighbours as the schema does', () => {
    const mark = fc.subarray(['bold', 'italic', 'strike', 'underline'].map((type) => ({ type })));
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.string({ minLength: 1 }), mark), { minLength: 1, maxLength: 6 }), (runs) => {
        const node = { type: 'doc', content: [p(...runs.map(([text, marks]) => t(text, ...marks)))] };
        const checked = documentSchema.nodeFromJSON(node).toJSON() as DocumentNode;
        expect(html(drawDocument(checked))).toBe(bySchema(checked));
      }),
    );
  });
  it('makes nothing of markup in words, and follows no address that runs', () => {
    const node = { type: 'doc', content: [p(t('<img src=x onerror=alert(1)>', { type: 'link', attrs: { href: 'javascript:alert(1)' } }))] };
    const drawn = html(drawDocument(node as DocumentNode));
    expect(drawn).toContain('&lt;img');
    expect(drawn).not.toContain('javascript:');
  });
});

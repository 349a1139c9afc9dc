import fc from 'fast-check';
import { plainText, type DocumentNode } from '@rosemary/core';
import { checkDocument, documentSchema, emptyDocument, paragraphs } from '../src/index.ts';

const COURSE = '7b1c1a34-7a34-4c7e-9a51-2d6a4f2f9a10';
const doc = (...content: DocumentNode[]): DocumentNode => ({ type: 'doc', content });
const text = (words: string, marks: DocumentNode['marks'] = []): DocumentNode => ({
  type: 'text',
  text: words,
  ...(marks.length > 0 ? { marks } : {}),
});
const paragraph = (...content: DocumentNode[]): DocumentNode => ({ type: 'paragraph', content });
const link = (href: string) => [{ type: 'link', attrs: { href } }];
const picture = (src: string): DocumentNode => ({ type: 'picture', attrs: { src, alt: 'a balance wheel', fileId: COURSE, caption: '' } });

describe('a text of the editor', () => {
  it.each([
    ['an empty page', emptyDocument],
    ['paragraphs', paragraphs('one', 'two')],
    [
      'headings of three depths',
      doc(...[2, 3, 4].map((level) => ({ type: 'heading', attrs: { level }, content: [text('What to look for')] }))),
    ],
    ['a list', doc({ type: 'bulletList', content: [{ type: 'listItem', content: [paragraph(text('first'))] }] })],
    ['a caution', doc({ type: 'callout', content: [paragraph(text('Let the power down first.'))] })],
    [
      'a table',
      doc({ type: 'table', content: [{ type: 'tableRow', content: [{ type: 'tableCell', content: [paragraph(text('18 000'))] }] }] }),
    ],
    ['a picture of the course', doc(picture(`/api/courses/${COURSE}/files/${COURSE}`))],
    [
      'links to the web, to mail and inside',
      doc(paragraph(...['https://example.org', 'mailto:a@example.org', '/courses/x', '#top'].map((href) => text(href, link(href))))),
    ],
  ])('takes %s', (_, json) => {
    expect(checkDocument(json)).toMatchObject({ ok: true });
  });

  it.each([
    ['a script', doc({ type: 'script' }), 'not known here'],
    ['a frame from anywhere', doc({ type: 'iframe', attrs: { src: 'https://elsewhere.example' } }), 'not known here'],
    ['a heading of the page’s own depth inside a list item alone', doc({ type: 'listItem', content: [paragraph()] }), 'not known here'],
    ['a link that runs', doc(paragraph(text('x', link('javascript:alert(1)')))), 'does not lead to the web'],
    ['a link with data', doc(paragraph(text('x', link('data:text/html,x')))), 'does not lead to the web'],
    ['a picture from elsewhere', doc(picture('https://elsewhere.example/x.png')), 'must be a file of this course'],
    ['a picture by a longer path', doc(picture(`/api/courses/${COURSE}/files/${COURSE}/../../x`)), 'must be a file of this course'],
    ['text without a paragraph', doc(text('loose')), 'not known here'],
    ['nothing at all', null, 'not known here'],
    ['words instead of a text', 'words', 'not known here'],
  ])('refuses %s', (_, json, reason) => {
    const check = checkDocument(json);
    expect(check.ok).toBe(false);
    if (!check.ok) expect(check.reason).toContain(reason);
  });

  it('comes back from the schema with the same words', () => {
    const anyWords = fc.string({ minLength: 1, maxLength: 30 });
    fc.assert(
      fc.property(fc.array(anyWords, { minLength: 1, maxLength: 5 }), (words) => {
        const check = checkDocument(paragraphs(...words));
        expect(check.ok).toBe(true);
        if (check.ok) expect(plainText(check.node.toJSON() as DocumentNode)).toBe(words.filter((w) => w !== '').join('\n'));
      }),
    );
  });

  it('never throws, whatever comes in', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (json) => {
        expect(typeof checkDocument(json).ok).toBe('boolean');
      }),
    );
  });

  it('has no node that could carry a frame, a script or a style', () => {
    expect(Object.keys(documentSchema.nodes).filter((name) => /script|iframe|html|style/i.test(name))).toEqual([]);
  });
});

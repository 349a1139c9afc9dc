import { PIECES } from '@rosemary/core';
import { BLOCK_DEFAULTS, checkDocument, isEmbeddable, type BlockName } from '../src/index.ts';

const COURSE = '7b1c1a34-7a34-4c7e-9a51-2d6a4f2f9a10';
const FILE = '22222222-7a34-4c7e-9a51-2d6a4f2f9a10';
const own = `/api/courses/${COURSE}/files/${FILE}`;
const block = (name: BlockName | 'picture', attrs: object) => ({
  type: 'doc',
  content: [name === 'formulaInline' ? { type: 'paragraph', content: [{ type: name, attrs }] } : { type: name, attrs }],
});
const faultOf = (name: BlockName | 'picture', attrs: object, hosts: string[] = []): string | null => {
  const check = checkDocument(block(name, name === 'picture' ? attrs : { ...BLOCK_DEFAULTS[name], ...attrs }), hosts);
  return check.ok ? null : check.reason;
};
const answers = [
  { text: 'Yes', isRight: true, feedback: '' },
  { text: 'No', isRight: false, feedback: 'Look again.' },
];

describe('blocks of one piece', () => {
  it.each([
    ['formula', { tex: '\\frac{1}{2}' }],
    ['formulaInline', { tex: 'x^2' }],
    ['question', { prompt: 'Is it so?', answers }],
    ['fileShown', { fileId: FILE, src: own, name: 'Chart.pdf', mediaType: 'application/pdf' }],
    ['media', { fileId: FILE, src: own, title: 'The escapement' }],
    ['media', { src: 'https://media.example.org/a.mp4', title: 'Elsewhere' }],
    ['picture', { fileId: FILE, src: own, alt: 'A wheel' }],
    ['response', { href: `/courses/${COURSE}/items/${FILE}`, title: 'Report' }],
  ] as const)('%s is taken as it is meant', (name, attrs) => {
    expect(faultOf(name, attrs)).toBeNull();
  });

  it.each([
    ['formula', { tex: ' ' }, 'empty'],
    ['formulaInline', { tex: 'x'.repeat(4001) }, '4,000'],
    ['question', { prompt: '', answers }, 'no question'],
    ['question', { prompt: 'Which?', answers: answers.slice(0, 1) }, 'two to eight'],
    ['question', { prompt: 'Which?', answers: [{ ...answers[0], isRight: false }, answers[1]] }, 'no right answer'],
    ['question', { prompt: 'Which?', answers: [answers[0], { ...answers[1], text: ' ' }] }, 'empty answer'],
    ['question', { prompt: 'Which?', answers: [answers[0], { text: 3 }] }, 'empty answer'],
    ['fileShown', { fileId: FILE, src: own.replace('2222', '3333') }, 'must be a file of this course'],
    ['fileShown', { fileId: FILE, src: 'https://elsewhere.example/x.pdf' }, 'must be a file of this course'],
    ['media', { src: 'javascript:alert(1)' }, 'no address of the web'],
    ['media', { src: 'http://media.example.org/a.mp4' }, 'https://'],
    ['media', { fileId: FILE, src: 'https://media.example.org/a.mp4' }, 'a file of this course'],
    ['media', { src: 'https://a.example/a.mp4', captionsId: FILE, captionsSrc: 'https://a.example/c.vtt' }, 'captions must be a file'],
    ['picture', { src: 'https://elsewhere.example/x.png' }, 'must be a file of this course'],
    ['response', { href: 'https://elsewhere.example/items/1', title: 'Report' }, 'names no assignment'],
    ['response', { href: `/courses/${COURSE}/items/${FILE}`, title: ' ' }, 'names no assignment'],
    ['embed', { src: 'https://maps.example.org/x' }, 'maps.example.org'],
  ] as const)('%s %j is refused in words', (name, attrs, words) => {
    expect(faultOf(name, attrs)).toContain(words);
  });

  it('are all known as something a page can consist of', () => {
    expect([...PIECES].sort()).toEqual([...Object.keys(BLOCK_DEFAULTS), 'picture'].sort());
  });

  it('shows pages only of the sites listed, and of those that belong to them', () => {
    const hosts = ['example.org'];
    expect(isEmbeddable('https://example.org/x', hosts)).toBe(true);
    expect(isEmbeddable('https://maps.example.org/x', hosts)).toBe(true);
    for (const address of ['https://badexample.org', 'http://example.org', 'https://example.org.evil.test', 'example.org', 'javascript:1'])
      expect([address, isEmbeddable(address, hosts)]).toEqual([address, false]);
    expect(faultOf('embed', { src: 'https://maps.example.org/x', title: 'Map' }, hosts)).toBeNull();
  });
});

import { markedCopy } from './markedCopy.ts';
import type { MarkedWork } from './setPages.ts';

const work = (body: string): MarkedWork => ({
  ...{
    title: 'Condition report',
    who: 'Tunde Abiola',
    handedIn: 'Wed 18 Nov 10:20',
    hash: 'a'.repeat(64),
    score: '17 of 20',
    scoreReason: '',
  },
  ...{ document: null, link: '', rubric: null, choices: {}, given: {}, comments: {}, feedback: null, feedbackFiles: [], files: [] },
  notes: [
    {
      ...{
        id: 'n',
        attemptId: 'a',
        fileId: null,
        anchor: { kind: 'text', from: 1, to: 4 },
        quote: 'the pallet stone',
        body,
        author: 'Ines Okafor-Lind',
      },
      ...{ replacement: null, points: null, version: 1, isAnswered: false, number: 1 },
    } as MarkedWork['notes'][number],
  ],
});
interface Word {
  readonly str: string;
  readonly left: number;
  readonly right: number;
  readonly y: number;
  readonly size: number;
}
async function wordsOf(pdf: Buffer): Promise<readonly Word[]> {
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const page = await (await getDocument({ data: new Uint8Array(pdf), isEvalSupported: false }).promise).getPage(1);
  const { items } = await page.getTextContent();
  return (items as { str: string; transform: number[]; width: number; height: number }[])
    .filter((item) => item.str.trim() !== '')
    .map(({ str, transform, width, height }) => ({
      str,
      left: transform[4]!,
      right: transform[4]! + width,
      y: transform[5]!,
      size: height,
    }));
}

describe('the marked copy', () => {
  it.each([
    ['short', 'Say how.'],
    ['of several lines', 'Say how the stone was set, and which of the two faces you looked at first. '.repeat(5)],
    ['of several paragraphs', 'First this.\nThen that.'],
  ])('prints no words of a note over others, where it is %s', async (_, body) => {
    const words = await wordsOf(await markedCopy(work(body)));
    expect(words.map((w) => w.str).join(' ')).toContain('Ines Okafor-Lind');
    const over = words.flatMap((a, n) =>
      words
        .slice(n + 1)
        .filter((b) => a.left < b.right - 0.5 && b.left < a.right - 0.5 && Math.abs(a.y - b.y) < 0.7 * Math.min(a.size, b.size))
        .map((b) => `${a.str} / ${b.str}`),
    );
    expect(over).toEqual([]);
  });
});

import fc from 'fast-check';
import { findMentions } from '../index.ts';

const SPRING = { title: 'Spring', startsOn: '2026-02-23', endsOn: '2026-06-07' };
const read = (text: string): string[] => findMentions(text, SPRING).map((m) => m.text);

describe('what in a text belongs to an old term', () => {
  it.each([
    ['Hand in by Friday 13 March, as every Spring.', ['Friday 13 March', 'Spring']],
    ['Due 13 March 2026 at 18:00.', ['13 March 2026']],
    ['On the 3rd of April we meet; on Apr 10th we do not.', ['3rd of April', 'Apr 10th']],
    ['2026-03-13, 13.3.2026 and 13/03/26', ['2026-03-13', '13.3.2026', '13/03/26']],
    ['the spring term 2026', ['spring', '2026']],
    ['Mon 2 Mar and Wednesday, 4 Mar', ['Mon 2 Mar', 'Wednesday, 4 Mar']],
  ])('finds it in %p', (text, expected) => {
    expect(read(text)).toEqual(expected);
  });

  it.each([
    'A mainspring is no Springtime.',
    'You may use 21 jewels and 18 000 beats.',
    'ratio 12.5 to 1',
    'in 1926 and in 2025',
    'Section 3.4 of the book',
    '',
  ])('finds nothing in %p', (text) => {
    expect(read(text)).toEqual([]);
  });

  it('shows what stands around it', () => {
    const [mention] = findMentions('Bring the movement you cleaned to the bench on 13 March, and your own loupe if you have one.', SPRING);
    expect(mention).toEqual({
      kind: 'date',
      text: '13 March',
      around: '…you cleaned to the bench on 13 March, and your own loupe if you…',
    });
  });

  it('tells each place once, in order, and never throws', () => {
    const words = fc.array(fc.constantFrom('13 March', 'Spring', '2026', '2026-03-13', 'wheel', '(', '.', '\n', 'May 4'), {
      maxLength: 12,
    });
    fc.assert(
      fc.property(words, (list) => {
        const text = list.join(' ');
        let at = 0;
        for (const mention of findMentions(text, SPRING)) {
          const next = text.indexOf(mention.text, at);
          expect(next).toBeGreaterThanOrEqual(at);
          at = next + mention.text.length;
        }
      }),
    );
  });

  it('takes a term’s title literally, whatever signs are in it', () => {
    expect(findMentions('see Term (A+B)? here', { ...SPRING, title: 'Term (A+B)?' }).map((m) => m.text)).toEqual(['Term (A+B)?']);
  });
});

import fc from 'fast-check';
import { numberNotes } from './numberNotes.ts';

const text = (id: string, from: number) => ({ id, fileId: null, anchor: { kind: 'text' as const, from } });
const pdf = (id: string, fileId: string, page: number, y: number, x = 0) => ({
  id,
  fileId,
  anchor: { kind: 'pdf' as const, page, boxes: [{ x, y }] },
});
const picture = (id: string, fileId: string, y: number, x = 0) => ({ id, fileId, anchor: { kind: 'picture' as const, boxes: [{ x, y }] } });
const order = (...args: Parameters<typeof numberNotes<ReturnType<typeof text> | ReturnType<typeof pdf> | ReturnType<typeof picture>>>) =>
  numberNotes(...args).map((n) => `${n.number} ${n.id}`);

describe('the numbers of notes', () => {
  it('follow the words they are on, whenever they were written', () => {
    expect(order([text('later', 90), text('earlier', 10)], [])).toEqual(['1 earlier', '2 later']);
  });

  it('go from the text to file after file, and in each by page, down and across', () => {
    const notes = [
      pdf('second file', 'b', 1, 0.1),
      pdf('page 2', 'a', 2, 0.1),
      pdf('right', 'a', 1, 0.5, 0.9),
      pdf('left', 'a', 1, 0.5, 0.1),
      picture('picture', 'c', 0.2),
      text('words', 5),
    ];
    expect(order(notes, ['a', 'b', 'c'])).toEqual(['1 words', '2 left', '3 right', '4 page 2', '5 second file', '6 picture']);
  });

  it('are those of what was given first where the place is the same, and last where the file is not named', () => {
    expect(order([picture('lost', 'x', 0), text('one', 3), text('two', 3)], ['a'])).toEqual(['1 one', '2 two', '3 lost']);
    expect(order([{ id: 'no box', fileId: 'a', anchor: { kind: 'picture', boxes: [] } }, picture('below', 'a', 0.4)], ['a'])).toEqual([
      '1 no box',
      '2 below',
    ]);
  });

  it('are each given once, in whatever order the notes come', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(500), { maxLength: 30 }), (offsets) => {
        const numbered = numberNotes(
          offsets.map((from) => text(String(from), from)),
          [],
        );
        expect(numbered.map((n) => n.number)).toEqual(offsets.map((_, n) => n + 1));
        expect(numbered.map((n) => n.anchor.from)).toEqual([...offsets].sort((a, b) => a - b));
      }),
    );
  });
});

import fc from 'fast-check';
import { splitByMark, type MarkedAnswer } from '../index.ts';

const answer = (id: string, given: number | null, reason = ''): MarkedAnswer => ({ id, given, reason });

describe('like answers parted by what they have', () => {
  it('stand apart where they have other points or another comment', () => {
    const group = [
      ...Array.from({ length: 27 }, (_, n) => answer(`a${n}`, 3000)),
      ...Array.from({ length: 6 }, (_, n) => answer(`b${n}`, 2500, 'Nearly.')),
      answer('c', 3000, 'Well said.'),
      answer('d', null),
    ];
    expect(splitByMark(group).map((p) => [p.isFinished, p.list.length])).toEqual([
      [false, 1],
      [true, 27],
      [true, 6],
      [true, 1],
    ]);
  });
  it('loses none and mixes none', () => {
    const one = fc.record({ id: fc.uuid(), given: fc.option(fc.constantFrom(0, 1000, 2500)), reason: fc.constantFrom('', 'x') });
    fc.assert(
      fc.property(fc.uniqueArray(one, { selector: (a) => a.id }), (group) => {
        const parts = splitByMark(group);
        expect(parts.flatMap((p) => p.list.map((a) => a.id)).sort()).toEqual(group.map((a) => a.id).sort());
        for (const part of parts) {
          expect(new Set(part.list.map((a) => a.given)).size).toBe(1);
          expect(part.isFinished).toBe(part.list[0]?.given !== null);
        }
      }),
    );
  });
});

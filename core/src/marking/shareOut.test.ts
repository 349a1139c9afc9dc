import fc from 'fast-check';
import { shareOut, type Marker, type SharedWork, type ShareWish } from './shareOut.ts';

const all: ShareWish = { within: 'all', each: null, markers: 1 };
const works = (many: number, sectionId: string | null = 'a'): SharedWork[] =>
  Array.from({ length: many }, (_, n) => ({ id: `${sectionId} ${n}`, sectionId }));
const marker = (id: string, ...sectionIds: string[]): Marker => ({ id, sectionIds: sectionIds.length === 0 ? null : sectionIds });
/** Chance from a seed, so that a failure comes again. */
function chance(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return state / 2_147_483_648;
  };
}
const loads = (shared: ReturnType<typeof shareOut>, markers: readonly Marker[]): number[] =>
  markers.map((m) => shared.filter((s) => s.markerIds.includes(m.id)).length);

describe('sharing out', () => {
  it('gives five works to two markers as three and two', () => {
    const markers = [marker('x'), marker('y')];
    expect(loads(shareOut(works(5), markers, all, chance(1)), markers).sort()).toEqual([2, 3]);
  });
  it('keeps to the sections of each where it is asked to', () => {
    const shared = shareOut(
      [...works(4, 'a'), ...works(3, 'b')],
      [marker('x', 'a'), marker('y', 'b')],
      { ...all, within: 'sections' },
      chance(2),
    );
    expect(shared.every((s) => s.markerIds[0] === (s.workId.startsWith('a') ? 'x' : 'y'))).toBe(true);
  });
  it('leaves a work that nobody may have', () => {
    expect(shareOut(works(1, 'c'), [marker('x', 'a')], { ...all, within: 'sections' }, chance(3))).toEqual([
      { workId: 'c 0', markerIds: [] },
    ]);
  });
  it('gives each no more than so many', () => {
    const markers = [marker('x'), marker('y')];
    expect(loads(shareOut(works(9), markers, { ...all, each: 3 }, chance(4)), markers)).toEqual([3, 3]);
  });
  it('without markers shares nothing', () => {
    expect(shareOut(works(1), [], all, chance(5))).toEqual([{ workId: 'a 0', markerIds: [] }]);
  });
  it('is even, and never gives one marker a work twice, however many there are', () => {
    fc.assert(
      fc.property(fc.nat(60), fc.integer({ min: 1, max: 7 }), fc.constantFrom(1, 2), fc.nat(), (many, staff, by, seed) => {
        const markers = Array.from({ length: staff }, (_, n) => marker(`m${n}`));
        const shared = shareOut(works(many), markers, { ...all, markers: by as 1 | 2 }, chance(seed));
        const counts = loads(shared, markers);
        expect(Math.max(...counts) - Math.min(...counts)).toBeLessThanOrEqual(1);
        for (const one of shared) {
          expect(new Set(one.markerIds).size).toBe(one.markerIds.length);
          expect(one.markerIds).toHaveLength(Math.min(by, staff));
        }
      }),
    );
  });
});

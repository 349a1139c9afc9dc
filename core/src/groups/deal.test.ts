import fc from 'fast-check';
import { balanceGroups, dealGroups, type Dealt, sizesOfDeal } from './deal.ts';

const students = (many: number, sections = 1): Dealt[] =>
  Array.from({ length: many }, (_, n) => ({ id: String(n), sectionId: String(n % sections) }));
/** Numbers that repeat for a test: a linear congruence, as good as chance for dealing. */
function numbers(seed: number): () => number {
  let at = seed;
  return () => {
    at = (at * 48_271) % 2_147_483_647;
    return at / 2_147_483_647;
  };
}

describe('dealing students into groups', () => {
  it('seven in groups of three are two groups, of four and three', () => {
    expect(dealGroups(students(7), 3, false, numbers(1)).map((g) => g.length)).toEqual([4, 3]);
  });
  it.each([
    [7, 4, [4, 3]],
    [6, 4, [3, 3]],
    [5, 4, [5]],
    [11, 4, [4, 4, 3]],
    [10, 4, [5, 5]],
    [5, 2, [3, 2]],
    [7, 3, [4, 3]],
    [3, 4, [3]],
    [1, 4, [1]],
    [0, 4, []],
  ])('%d in groups of %d come nearest to that: %j, seen before they are dealt', (many, size, sizes) => {
    expect(sizesOfDeal(students(many), size, false)).toEqual(sizes);
    expect(dealGroups(students(many), size, false, numbers(1)).map((g) => g.length)).toEqual(sizes);
    expect(
      balanceGroups(
        students(many).map((s) => ({ ...s, standing: 0.5 })),
        size,
        false,
        numbers(1),
      )
        .map((g) => g.length)
        .sort((a, b) => b - a),
    ).toEqual(sizes);
  });
  it('nobody makes no group, and fewer than the size one', () => {
    expect(dealGroups([], 3, true, numbers(1))).toEqual([]);
    expect(dealGroups(students(2), 5, false, numbers(1))).toHaveLength(1);
  });
  it('everybody is in one group, groups differ by one at most, and within sections no group has two', () => {
    const shape = fc.record({
      many: fc.integer({ min: 1, max: 90 }),
      sections: fc.integer({ min: 1, max: 4 }),
      size: fc.integer({ min: 1, max: 9 }),
      seed: fc.integer({ min: 1, max: 1e6 }),
      within: fc.boolean(),
    });
    fc.assert(
      fc.property(shape, ({ many, sections, size, seed, within }) => {
        const all = students(many, sections);
        const groups = dealGroups(all, size, within, numbers(seed));
        expect(groups.flat().sort()).toEqual(all.map((s) => s.id).sort());
        const sectionOf = new Map(all.map((s) => [s.id, s.sectionId]));
        const kinds = groups.map((g) => new Set(g.map((id) => sectionOf.get(id))).size);
        if (within) expect(Math.max(...kinds)).toBe(1);
        else expect(Math.max(...groups.map((g) => g.length)) - Math.min(...groups.map((g) => g.length))).toBeLessThanOrEqual(1);
      }),
    );
  });
  it('another chance deals them otherwise', () => {
    const [one, two] = [1, 2].map((seed) => JSON.stringify(dealGroups(students(30), 3, false, numbers(seed))));
    expect(one).not.toBe(two);
  });
});

describe('groups that are alike', () => {
  const placed = (...standings: (number | null)[]) => standings.map((standing, n) => ({ id: `s${n}`, sectionId: 'a', standing }));
  it('as in the worked example', () => {
    expect(balanceGroups(placed(0.9, 0.8, 0.7, 0.6), 2, false, () => 0)).toEqual([
      ['s0', 's3'],
      ['s1', 's2'],
    ]);
  });
  it('deal those without a standing last, and lose nobody', () => {
    const groups = balanceGroups(placed(null, 0.5, null, 0.9, 0.1), 2, false, () => 0.5);
    expect(groups.flat().sort()).toEqual(['s0', 's1', 's2', 's3', 's4']);
    expect(groups.map((g) => g[0]).sort()).toEqual(['s1', 's3']);
  });
  it('keep to the sections where asked', () => {
    const students = [...placed(0.9, 0.8), { id: 'other', sectionId: 'b', standing: 0.7 }];
    expect(balanceGroups(students, 2, true, () => 0)).toEqual([['s0', 's1'], ['other']]);
  });
});

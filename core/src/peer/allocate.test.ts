import fc from 'fast-check';
import { allocate, type AllocationTask, type Pairing, type ReadWork } from './allocate.ts';

const ids = (many: number): string[] => Array.from({ length: many }, (_, n) => `s${String(n).padStart(4, '0')}`);
const ownWorks = (students: readonly string[], wanted: number): ReadWork[] => students.map((id) => ({ id, wanted, authors: [id] }));
const classOf = (many: number, per: number, more: Partial<AllocationTask> = {}): AllocationTask => ({
  reviewers: ids(many).map((id) => ({ id, most: per })),
  works: ownWorks(ids(many), per),
  mayReview: () => true,
  standing: [],
  seed: 'one',
  ...more,
});
const countBy = (pairs: readonly Pairing[], of: (pair: Pairing) => string): ReadonlyMap<string, number> => {
  const many = new Map<string, number>();
  for (const pair of pairs) many.set(of(pair), (many.get(of(pair)) ?? 0) + 1);
  return many;
};
const mutual = (pairs: readonly Pairing[]): number => {
  const all = new Set(pairs.map((p) => `${p.reviewerId} ${p.workId}`));
  return pairs.filter((p) => all.has(`${p.workId} ${p.reviewerId}`)).length;
};

/** The most reviews that there can be at all, found another way: one augmenting path after another over every edge. */
function greatest(task: AllocationTask): number {
  const takers = task.reviewers.map((r) => ({ ...r, has: new Set<string>() }));
  const may = (r: { readonly id: string }, w: ReadWork): boolean => !w.authors.includes(r.id) && task.mayReview(r.id, w);
  const give = (w: ReadWork, seen: Set<string>): boolean => {
    for (const r of takers) {
      if (seen.has(r.id) || r.has.has(w.id) || !may(r, w)) continue;
      seen.add(r.id);
      if (r.has.size < r.most) {
        r.has.add(w.id);
        return true;
      }
      for (const other of r.has) {
        const theirs = task.works.find((one) => one.id === other);
        if (theirs !== undefined && give(theirs, seen)) {
          r.has.delete(other);
          r.has.add(w.id);
          return true;
        }
      }
    }
    return false;
  };
  let many = 0;
  for (const w of task.works) for (let n = 0; n < w.wanted && give(w, new Set()); n += 1) many += 1;
  return many;
}

describe('who reviews whom', () => {
  it('gives three students with two reviews each the works of both others', () => {
    const { drawn, open } = allocate(classOf(3, 2));
    expect(open).toEqual([]);
    expect([...drawn].map((p) => `${p.reviewerId} ${p.workId}`).sort()).toEqual(
      ids(3)
        .flatMap((r) => ids(3).flatMap((w) => (r === w ? [] : [`${r} ${w}`])))
        .sort(),
    );
  });

  it('says what cannot be filled, and why', () => {
    expect(allocate(classOf(1, 1)).open).toEqual([{ workId: 's0000', missing: 1, eligible: 0, reason: 'too few may review it' }]);
    // Two students, three reviews each: one is all that there can be.
    expect(allocate(classOf(2, 3)).open.map((o) => [o.missing, o.reason])).toEqual([
      [2, 'too few may review it'],
      [2, 'too few may review it'],
    ]);
    const full = allocate({ ...classOf(6, 3), reviewers: ids(6).map((id) => ({ id, most: 2 })) });
    expect(full.drawn).toHaveLength(12);
    expect(full.open.map((o) => [o.missing, o.reason])).toEqual(ids(6).map(() => [1, 'all who may are full']));
  });

  it('is the same for a seed each time, and another for another', () => {
    expect(allocate(classOf(20, 3))).toEqual(allocate(classOf(20, 3)));
    expect(allocate(classOf(20, 3, { seed: 'two' })).drawn).not.toEqual(allocate(classOf(20, 3)).drawn);
  });

  it('keeps what stands, fits a late work in, and fills the gap of who left', () => {
    const first = allocate(classOf(8, 2)).drawn;
    const gone = 's0003';
    const left = ids(9).filter((id) => id !== gone);
    const standing = first.filter((p) => p.reviewerId !== gone && p.workId !== gone);
    const next = allocate({
      ...classOf(9, 2),
      reviewers: left.map((id) => ({ id, most: 3 })),
      works: ownWorks(left, 2),
      standing,
    });
    expect(next.open).toEqual([]);
    const all = [...standing, ...next.drawn];
    expect([...countBy(all, (p) => p.workId).values()].every((many) => many === 2)).toBe(true);
    expect(next.drawn.every((p) => !standing.some((s) => s.reviewerId === p.reviewerId && s.workId === p.workId))).toBe(true);
  });

  it('fits somebody who comes late in among pairs that are not begun: everybody still gives and gets two, and most stays as it was', () => {
    const first = allocate(classOf(8, 2)).drawn;
    const next = allocate({ ...classOf(9, 2), movable: first });
    expect(next.open).toEqual([]);
    expect(next.moved.length).toBeLessThanOrEqual(4);
    const all = [...first.filter((p) => !next.moved.includes(p)), ...next.drawn];
    expect(new Set(countBy(all, (p) => p.workId).values())).toEqual(new Set([2]));
    expect(new Set(countBy(all, (p) => p.reviewerId).values())).toEqual(new Set([2]));
  });

  it('counts a review of somebody who is no longer there for its work', () => {
    const { drawn } = allocate({ ...classOf(4, 2), standing: [{ reviewerId: 'left', workId: 's0000' }] });
    expect(countBy(drawn, (p) => p.workId).get('s0000')).toBe(1);
  });

  it('refuses an identifier that is given twice', () => {
    expect(() => allocate({ ...classOf(2, 1), works: ownWorks(['a', 'a'], 1) })).toThrow('given twice');
  });

  it('lets nobody review whoever reviews them, where the class is large enough', () => {
    for (const [many, per] of [
      [7, 3],
      [11, 5],
      [48, 3],
      [300, 5],
    ] as const)
      expect(mutual(allocate(classOf(many, per)).drawn)).toBe(0);
  });

  it('is balanced for 2,000 students with groups that do not review their own', () => {
    const group = (id: string): number => Number(id.slice(1)) % 400;
    const task = classOf(2000, 5, { mayReview: (r, w) => group(r) !== group(w.id) });
    const { drawn, open } = allocate(task);
    expect(open).toEqual([]);
    expect(drawn).toHaveLength(10_000);
    expect(new Set(countBy(drawn, (p) => p.reviewerId).values())).toEqual(new Set([5]));
    expect(new Set(countBy(drawn, (p) => p.workId).values())).toEqual(new Set([5]));
    expect(drawn.some((p) => group(p.reviewerId) === group(p.workId))).toBe(false);
  });

  const anyTask = fc
    .record({
      students: fc.integer({ min: 1, max: 14 }),
      wanted: fc.integer({ min: 1, max: 4 }),
      most: fc.integer({ min: 1, max: 5 }),
      groups: fc.integer({ min: 1, max: 5 }),
      rule: fc.constantFrom('all', 'own group', 'other groups', 'odd'),
      handedIn: fc.integer({ min: 1, max: 14 }),
      seed: fc.string(),
    })
    .map(({ students, wanted, most, groups, rule, handedIn, seed }): AllocationTask => {
      const all = ids(students);
      const group = (id: string): number => Number(id.slice(1)) % groups;
      return {
        reviewers: all.map((id) => ({ id, most })),
        works: ownWorks(all.slice(0, handedIn), wanted),
        mayReview: (r, w) =>
          rule === 'all' ||
          (rule === 'own group' && group(r) === group(w.id)) ||
          (rule === 'other groups' && group(r) !== group(w.id)) ||
          (rule === 'odd' && (Number(r.slice(1)) * 7 + Number(w.id.slice(1)) * 3) % 4 !== 1),
        standing: [],
        seed,
      };
    });

  it('gives as many reviews as there can be at all, none twice, none of one’s own, none that is kept apart', () => {
    fc.assert(
      fc.property(anyTask, (task) => {
        const { drawn, open } = allocate(task);
        expect(drawn).toHaveLength(greatest(task));
        expect(new Set(drawn.map((p) => `${p.reviewerId} ${p.workId}`)).size).toBe(drawn.length);
        for (const p of drawn) {
          const work = task.works.find((w) => w.id === p.workId);
          expect(work !== undefined && !work.authors.includes(p.reviewerId) && task.mayReview(p.reviewerId, work)).toBe(true);
        }
        const got = countBy(drawn, (p) => p.workId);
        for (const w of task.works) expect((got.get(w.id) ?? 0) + (open.find((o) => o.workId === w.id)?.missing ?? 0)).toBe(w.wanted);
        for (const [id, many] of countBy(drawn, (p) => p.reviewerId))
          expect(many).toBeLessThanOrEqual(task.reviewers.find((r) => r.id === id)?.most ?? 0);
      }),
      { numRuns: 300 },
    );
  });

  it('leaves nobody two more reviews than somebody who could take one of them', () => {
    fc.assert(
      fc.property(anyTask, (task) => {
        const { drawn } = allocate(task);
        const load = countBy(drawn, (p) => p.reviewerId);
        for (const p of drawn)
          for (const other of task.reviewers) {
            const work = task.works.find((w) => w.id === p.workId) as ReadWork;
            const can =
              !work.authors.includes(other.id) &&
              task.mayReview(other.id, work) &&
              (load.get(other.id) ?? 0) < other.most &&
              !drawn.some((d) => d.reviewerId === other.id && d.workId === p.workId);
            if (can) expect((load.get(p.reviewerId) ?? 0) - (load.get(other.id) ?? 0)).toBeLessThanOrEqual(1);
          }
      }),
      { numRuns: 200 },
    );
  });
});

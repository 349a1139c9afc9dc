import fc from 'fast-check';
import { exactPoints } from '../exact/ratio.ts';
import { seeded } from '../quiz/seeded.ts';
import { allocate } from './allocate.ts';
import { consensus } from './consensus.ts';
import type { ReviewScores } from './reviewScores.ts';

const one = [{ id: 'c', most: 40_000 }];
const review = (id: string, reviewerId: string, workId: string, points: number): ReviewScores => ({
  id,
  reviewerId,
  workId,
  points: { c: points },
});

/** A class of which everybody reviews three works; how far each reviewer lies from the truth is given. */
function classOf(many: number, off: (reviewer: number, random: () => number) => number, seed = 'class') {
  const random = seeded(seed);
  const ids = Array.from({ length: many }, (_, n) => `s${String(n).padStart(3, '0')}`);
  const truth = new Map(ids.map((id) => [id, 16_000 + Math.round(random() * 20) * 1000]));
  const { drawn } = allocate({
    reviewers: ids.map((id) => ({ id, most: 3 })),
    works: ids.map((id) => ({ id, wanted: 3, authors: [id] })),
    mayReview: () => true,
    standing: [],
    seed,
  });
  const reviews = drawn.map((p, n) => {
    const seen = (truth.get(p.workId) ?? 0) + off(ids.indexOf(p.reviewerId), random);
    return review(`r${n}`, p.reviewerId, p.workId, Math.min(40_000, Math.max(0, Math.round(seen))));
  });
  const errors = (found: ReturnType<typeof consensus>, of: 'total' | 'mean'): number => {
    const all = [...found.works.values()].map((w) =>
      Math.abs((of === 'total' ? w.total : Number(w.mean.valueOf())) - (truth.get(w.workId) ?? 0)),
    );
    return all.reduce((a, b) => a + b, 0) / all.length;
  };
  return { reviews, truth, errors, ids };
}
const noise = (random: () => number): number => (random() + random() + random() - 1.5) * 3000;

describe('the consensus of a class', () => {
  it('is the plain mean of one review, of equal reviews, and has the plain mean beside it', () => {
    const found = consensus([review('1', 'a', 'w', 20_000), review('2', 'a', 'v', 30_000), review('3', 'b', 'v', 30_000)], one);
    expect(found.works.get('w')).toMatchObject({ total: 20_000, isMeanBecause: 'one review', reviews: 1 });
    expect(found.works.get('v')).toMatchObject({ total: 30_000, isMeanBecause: 'all equal' });
    const third = consensus([review('1', 'a', 'w', 20_000), review('2', 'b', 'w', 20_000), review('3', 'c', 'w', 10_000)], one);
    expect(exactPoints(third.works.get('w')?.mean ?? 0)).toBe('16.666666…');
  });

  it('of a class that sees everything alike is what they see, whatever the works are worth', () => {
    const { reviews, truth } = classOf(12, () => 0);
    const found = consensus(reviews, one);
    for (const [workId, work] of found.works) expect(work.total).toBe(truth.get(workId));
    for (const traits of found.reviewers.values()) expect([traits.bias, traits.weight]).toEqual([0, 1000]);
  });

  it('takes the harshness of one reviewer out of every work they reviewed', () => {
    const { reviews, truth, errors } = classOf(24, (n) => (n === 5 ? -8000 : 0));
    const found = consensus(reviews, one);
    expect(found.isSettled).toBe(true);
    const harsh = found.reviewers.get('s005');
    expect((harsh?.bias ?? 0) / 10_000).toBeLessThan(-9);
    expect(errors(found, 'total')).toBeLessThan(errors(found, 'mean') / 2);
    expect(truth.size).toBe(24);
  });

  it('weighs a reviewer who writes down anything less than the others', () => {
    const { reviews, errors } = classOf(30, (n, random) => (n % 5 === 0 ? (random() - 0.5) * 40_000 : noise(random)));
    const found = consensus(reviews, one);
    const weights = [...found.reviewers.values()];
    const mean = (list: readonly { readonly weight: number }[]): number => list.reduce((s, t) => s + t.weight, 0) / list.length;
    const isRandom = (t: { readonly reviewerId: string }): boolean => Number(t.reviewerId.slice(1)) % 5 === 0;
    expect(mean(weights.filter(isRandom))).toBeLessThan(mean(weights.filter((t) => !isRandom(t))) * 0.6);
    expect(errors(found, 'total')).toBeLessThan(errors(found, 'mean'));
  });

  it('is hardly moved by one hostile review among five, where the others agree', () => {
    const reviews = Array.from({ length: 6 }, (_, w) =>
      Array.from({ length: 5 }, (__, r) => review(`${w} ${r}`, `r${r}`, `w${w}`, r === 4 ? 0 : 20_000 + w * 2000 + r * 200)),
    ).flat();
    const found = consensus(reviews, one);
    for (const w of found.works.values()) {
      const others = 20_300 + Number(w.workId.slice(1)) * 2000;
      expect(Math.abs(w.total - others)).toBeLessThan(Math.abs(Number(w.mean.valueOf()) - others) / 2);
    }
  });

  it('counts biases from their median, and stays within what can be given', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 20 }), fc.string(), (many, seed) => {
        const { reviews } = classOf(many, (_, random) => (random() - 0.5) * 60_000, seed);
        const found = consensus(reviews, one);
        const ordered = [...found.reviewers.values()].map((t) => t.bias).sort((a, b) => a - b);
        // As many lie above as below, to a few millionths of rounding.
        expect(ordered[Math.floor((many - 1) / 2)]).toBeLessThanOrEqual(20);
        expect(ordered[Math.ceil((many - 1) / 2)]).toBeGreaterThanOrEqual(-20);
        for (const w of found.works.values()) expect(w.total >= 0 && w.total <= 40_000).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  it('comes out the same whatever the order of the reviews is', () => {
    const { reviews } = classOf(15, (_, random) => noise(random));
    const [a, b] = [consensus(reviews, one), consensus([...reviews].reverse(), one)];
    expect([...b.works.entries()].sort()).toEqual([...a.works.entries()].sort());
    expect(b.iterations).toBe(a.iterations);
  });

  it('tells the others apart from a review, and nothing where there are none', () => {
    const reviews = [review('1', 'a', 'w', 20_000), review('2', 'b', 'w', 30_000), review('3', 'a', 'v', 10_000)];
    const found = consensus(reviews, one);
    const [first, , alone] = reviews;
    expect(found.others(first as ReviewScores)?.c).toBeGreaterThan(500_000);
    expect(found.others(alone as ReviewScores)).toBeNull();
  });

  it('needs criteria that give points, and takes no reviews at all', () => {
    expect(() => consensus([], [])).toThrow('criteria');
    expect(consensus([], one).works.size).toBe(0);
  });
});

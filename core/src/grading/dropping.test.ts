import fc from 'fast-check';
import { isBefore, leaveOutOf, ratio, toRatio, type Exact, type Ratio } from '../index.ts';

interface Candidate {
  readonly numerator: Exact;
  readonly denominator: number;
  readonly dueAt: number | null;
  readonly order: number;
}

const candidate = (numerator: number, denominator: number, order = 0, dueAt: number | null = null): Candidate => ({
  numerator,
  denominator,
  dueAt,
  order,
});

/** Sevenths are the finest part in these tests; in plain numbers where there are none. */
function out(all: readonly Candidate[], n: number, sign: 1 | -1 = 1): readonly number[] {
  const isEarlier = (p: number, q: number): boolean => isBefore(all[p]!, all[q]!);
  if (all.every((c) => typeof c.numerator === 'number'))
    return leaveOutOf({ a: all.map((c) => sign * (c.numerator as number)), b: all.map((c) => c.denominator), x: 0 }, isEarlier, n);
  const a = all.map((c) => {
    const r = toRatio(c.numerator);
    return (BigInt(sign) * r.s * r.n * 7n) / r.d;
  });
  return leaveOutOf({ a, b: all.map((c) => BigInt(c.denominator) * 7n), x: 0n }, isEarlier, n);
}
const leaveOutLowest = (all: readonly Candidate[], n: number): readonly number[] => out(all, Math.min(n, all.length - 1));

function shareWithout(all: readonly Candidate[], gone: readonly number[]): Ratio {
  const kept = all.filter((_, i) => !gone.includes(i));
  const sum = kept.reduce((s, c) => s.add(typeof c.numerator === 'number' ? ratio(c.numerator) : c.numerator), ratio(0));
  return sum.div(kept.reduce((s, c) => s + c.denominator, 0));
}

function subsets(count: number, size: number, from = 0): number[][] {
  if (size === 0) return [[]];
  return Array.from({ length: count - from }, (_, k) => from + k).flatMap((first) =>
    subsets(count, size - 1, first + 1).map((rest) => [first, ...rest]),
  );
}

const anyCandidates = fc
  .array(fc.record({ possible: fc.integer({ min: 1, max: 40 }), share: fc.integer({ min: 0, max: 10 }) }), { minLength: 2, maxLength: 7 })
  .map((list) => list.map(({ possible, share }, order) => candidate(possible * share, possible * 10, order)));

describe('leaving out the lowest', () => {
  it('never leaves out all', () => {
    expect(() => out([candidate(1, 10)], 1)).toThrow('must stay');
    expect(() => out([candidate(1, 10, 0), candidate(2, 10, 1)], 5)).toThrow('must stay');
  });

  it('refuses a candidate worth nothing', () => {
    expect(() => leaveOutLowest([candidate(1, 0), candidate(1, 1)], 1)).toThrow('positive denominator');
  });

  it('leaves out what truly favours the student, not the lowest percentage', () => {
    expect(leaveOutLowest([candidate(9, 10, 0), candidate(40, 80, 1), candidate(70, 100, 2)], 1)).toEqual([1]);
    // 1/10 is the lowest percentage, but 30/80 weighs more: without it 1+90 of 10+100 is better than 30+90 of 180.
    expect(leaveOutLowest([candidate(1, 10, 0), candidate(30, 80, 1), candidate(90, 100, 2)], 1)).toEqual([1]);
  });

  it('settles ties by the earliest due, then by the Plan', () => {
    expect(leaveOutLowest([candidate(5, 10, 0, 200), candidate(5, 10, 1, 100), candidate(9, 10, 2, 50)], 1)).toEqual([1]);
    expect(leaveOutLowest([candidate(5, 10, 1), candidate(5, 10, 0), candidate(9, 10, 2)], 1)).toEqual([1]);
  });

  it('equals brute force', () => {
    fc.assert(
      fc.property(anyCandidates, fc.integer({ min: 1, max: 4 }), (list, n) => {
        const size = Math.min(n, list.length - 1);
        const best = subsets(list.length, size)
          .map((out) => shareWithout(list, out))
          .reduce((a, b) => (a.compare(b) >= 0 ? a : b));
        expect(shareWithout(list, leaveOutLowest(list, n)).equals(best)).toBe(true);
      }),
      { numRuns: 400 },
    );
  });

  it('equals brute force with exact fractions and large numbers too', () => {
    fc.assert(
      fc.property(anyCandidates, (list) => {
        const fine = list.map((c) => ({
          ...c,
          numerator: ratio(c.numerator as number, 7).mul(1_000_000_007),
          denominator: c.denominator * 1_000_003,
        }));
        const best = subsets(fine.length, 1)
          .map((out) => shareWithout(fine, out))
          .reduce((a, b) => (a.compare(b) >= 0 ? a : b));
        expect(shareWithout(fine, leaveOutLowest(fine, 1)).equals(best)).toBe(true);
      }),
    );
  });

  it('never lowers the share', () => {
    fc.assert(
      fc.property(anyCandidates, fc.integer({ min: 1, max: 4 }), (list, n) => {
        expect(shareWithout(list, leaveOutLowest(list, n)).compare(shareWithout(list, []))).toBeGreaterThanOrEqual(0);
      }),
    );
  });
});

describe('leaving out the highest', () => {
  it('leaves out the greatest share', () => {
    expect(out([candidate(2, 10, 0), candidate(5, 10, 1), candidate(9, 10, 2)], 1, -1)).toEqual([2]);
  });
});

import fc from 'fast-check';
import { fewerMutual } from './fewerMutual.ts';
import { wholeMedian } from './wholeMedian.ts';

describe('the median of whole numbers', () => {
  it('is the one between, or the mean of two, rounded half up', () => {
    expect(wholeMedian([1, 9, 4])).toBe(4);
    expect(wholeMedian([1, 4])).toBe(3);
    expect(wholeMedian([-1, -4])).toBe(-2);
    expect(wholeMedian([7])).toBe(7);
    expect(wholeMedian([])).toBe(0);
  });

  it('has as many numbers below as above, and does not change what it is given', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -1000, max: 1000 }), { minLength: 1 }), (values) => {
        const before = [...values];
        const median = wholeMedian(values);
        expect(values).toEqual(before);
        const half = values.length / 2;
        expect(values.filter((v) => v < median).length).toBeLessThanOrEqual(half);
        expect(values.filter((v) => v > median).length).toBeLessThanOrEqual(half);
      }),
    );
  });
});

describe('exchanges that part those who review each other', () => {
  /** Reviewers a, b, c and d with a work each; who reviews whose by their places. */
  function flowOf(pairs: readonly (readonly [number, number])[], fixed: readonly (readonly [number, number])[] = []) {
    const ids = ['a', 'b', 'c', 'd'];
    const sets = (list: readonly (readonly [number, number])[]) =>
      ids.map((_, r) => new Set(list.flatMap(([by, w]) => (by === r ? [w] : []))));
    const reviews = sets(pairs);
    return {
      reviews,
      fixed: sets(fixed),
      task: { reviewers: ids.map((id) => ({ id })), works: ids.map((id) => ({ authors: [id] })) },
      may: (r: number, w: number) => r !== w,
      has: (r: number, w: number) => reviews[r]?.has(w) === true,
      add: (r: number, w: number) => void reviews[r]?.add(w),
      take: (r: number, w: number) => void reviews[r]?.delete(w),
    };
  }
  const mutual = (reviews: readonly ReadonlySet<number>[]): number =>
    reviews.flatMap((works, r) => [...works].filter((w) => reviews[w]?.has(r) === true)).length;
  const TWO_COUPLES = [
    [0, 1],
    [1, 0],
    [2, 3],
    [3, 2],
  ] as const;

  it('leave everybody as many works and every work as many reviewers', () => {
    const flow = flowOf(TWO_COUPLES);
    expect(mutual(flow.reviews)).toBe(4);
    fewerMutual(flow, [0, 1, 2, 3], () => 0.3);
    expect(mutual(flow.reviews)).toBe(0);
    expect(flow.reviews.map((works) => works.size)).toEqual([1, 1, 1, 1]);
    expect([...new Set(flow.reviews.flatMap((works) => [...works]))].sort()).toEqual([0, 1, 2, 3]);
  });

  it('never move a pair that stands', () => {
    const flow = flowOf(TWO_COUPLES, TWO_COUPLES);
    fewerMutual(flow, [0, 1, 2, 3], () => 0.3);
    expect(mutual(flow.reviews)).toBe(4);
  });
});

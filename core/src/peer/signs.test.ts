import { consensus } from './consensus.ts';
import type { ReviewScores } from './reviewScores.ts';
import { peerAgreement, reviewSigns } from './signs.ts';

const criteria = [{ id: 'c', most: 40_000 }];
const review = (id: string, workId: string, points: number): ReviewScores => ({
  id,
  reviewerId: `by ${id}`,
  workId,
  points: { c: points },
});
const words = (id: string, text: string, seconds = 600) => ({ id, reviewerId: `by ${id}`, text, seconds });
const LONG = 'The escapement is drawn with care and the reasons are given for every step of the repair.';

describe('the signs of a review', () => {
  const reviews = [
    ...[30_000, 31_000, 12_000].map((p, n) => review(`w${n}`, 'w', p)),
    ...[20_000, 21_000, 20_000].map((p, n) => review(`v${n}`, 'v', p)),
    ...[25_000, 25_000, 26_000].map((p, n) => review(`u${n}`, 'u', p)),
  ];
  const found = consensus(reviews, criteria);
  const signs = (least: number, more: readonly ReturnType<typeof words>[]) => reviewSigns(reviews, more, criteria, found, least);

  it('say which one lies far from the rest, and how far', () => {
    const all = signs(
      0,
      reviews.map((r, n) => words(r.id, `Own words of number ${n} on this very work here`)),
    );
    expect([...all].filter(([, s]) => s.some((one) => one.sign === 'far from the rest')).map(([id]) => id)).toEqual(['w2']);
    expect(all.get('w2')?.[0]?.text).toMatch(/^4\d % of full marks lower than the others$/);
  });

  it('name empty words, copied words and haste with their figures', () => {
    const all = signs(10, [
      words('w0', ''),
      words('w1', 'Good work.'),
      words('v0', LONG),
      words('v1', `${LONG} Well done.`),
      words('u0', 'Ten words of my own about the work that I read', 40),
    ]);
    expect(all.get('w0')?.map((s) => s.text)).toEqual(['no words']);
    expect(all.get('w1')?.map((s) => s.text)).toEqual(['2 of 10 words asked for']);
    expect(all.get('v0')?.map((s) => s.sign)).toEqual(['copied words']);
    expect(all.get('v0')?.[0]?.text).toBe('100 % of its words stand in another review');
    expect(all.get('u0')?.map((s) => s.text)).toEqual(['given in 40 seconds']);
  });

  it('has none of distance where nobody else reviewed the work', () => {
    const alone = [review('x', 'x', 0)];
    expect(reviewSigns(alone, [words('x', LONG)], criteria, consensus(alone, criteria), 0).get('x')).toEqual([]);
  });
});

describe('the agreement of a class', () => {
  const form = [
    { id: 'c', title: '', levels: [0, 10, 20, 30, 40].map((p, n) => ({ id: `${n}`, title: '', descriptor: '', points: p * 1000 })) },
  ];
  it('is whole where all see the same, and the pairs are counted once', () => {
    const reviews = ['a', 'b', 'c', 'd'].flatMap((w, n) => [0, 1, 2].map((k) => review(`${w}${k}`, w, n * 10_000)));
    const { kappa, pairs, icc, works } = peerAgreement(reviews, form);
    expect([kappa, pairs, works]).toEqual([1, 12, 4]);
    expect(icc?.value).toBeCloseTo(1, 6);
  });

  it('is less where they do not, and null where there is nothing to compare', () => {
    const reviews = ['a', 'b', 'c', 'd'].flatMap((w, n) => [0, 1, 2].map((k) => review(`${w}${k}`, w, ((n + k) % 5) * 10_000)));
    expect(peerAgreement(reviews, form).kappa).toBeLessThan(0.6);
    expect(peerAgreement([review('a', 'a', 0)], form)).toEqual({ kappa: null, pairs: 0, icc: null, works: 0, criteria: [] });
  });
});

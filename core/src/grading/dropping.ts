/** Ties: the earliest due first (no date is last), then the order in the Plan. */
export function isBefore(
  a: { readonly dueAt: number | null; readonly order: number },
  b: { readonly dueAt: number | null; readonly order: number },
): boolean {
  const dueA = a.dueAt ?? Infinity;
  const dueB = b.dueAt ?? Infinity;
  return dueA !== dueB ? dueA < dueB : a.order < b.order;
}

/** Candidates as whole numbers over one common scale; `x` is what extra credit adds to the numerator. */
export interface WholeTerms<N extends number | bigint> {
  readonly a: readonly N[];
  readonly b: readonly N[];
  readonly x: N;
}

/** How ties are settled between two places: is the first before the second? */
export type IsBefore = (p: number, q: number) => boolean;

/** The places of the n smallest values, ties settled as the domain says. */
function smallest<N extends number | bigint>(values: readonly N[], isEarlier: IsBefore, n: number): number[] {
  const before = (p: number, q: number): boolean => {
    const vp = values[p] as N;
    const vq = values[q] as N;
    return vp !== vq ? vp < vq : isEarlier(p, q);
  };
  if (n === 1) {
    let best = 0;
    for (let place = 1; place < values.length; place += 1) if (before(place, best)) best = place;
    return [best];
  }
  return values
    .map((_, place) => place)
    .sort((p, q) => (before(p, q) ? -1 : 1))
    .slice(0, n);
}

/** Dinkelbach's iteration; the arithmetic is the same for small whole numbers and for big ones. */
function iterate<N extends number | bigint>(s: WholeTerms<N>, zero: N, isEarlier: IsBefore, n: number): number[] {
  const add = (p: N, q: N): N => ((p as number) + (q as number)) as N;
  const value = (i: number, top: N, bottom: N): N => ((s.a[i] as number) * (bottom as number) - (top as number) * (s.b[i] as number)) as N;
  const totalA = s.a.reduce(add, s.x);
  const totalB = s.b.reduce(add, zero);
  let top = totalA;
  let bottom = totalB;
  for (;;) {
    const out = smallest(
      s.a.map((_, i) => value(i, top, bottom)),
      isEarlier,
      n,
    );
    let nextTop = totalA;
    let nextBottom = totalB;
    for (const i of out) {
      nextTop = ((nextTop as number) - (s.a[i] as number)) as N;
      nextBottom = ((nextBottom as number) - (s.b[i] as number)) as N;
    }
    const isSame = (nextTop as number) * (bottom as number) === (top as number) * (nextBottom as number);
    if (isSame) return out;
    top = nextTop;
    bottom = nextBottom;
  }
}

function wholeGcd(values: readonly number[]): number {
  let shared = 0;
  for (const value of values) {
    let [x, y] = [shared, Math.abs(value)];
    while (y !== 0) [x, y] = [y, x % y];
    shared = x;
    if (shared === 1) return 1;
  }
  return Math.max(1, shared);
}

/** Products of two sums must stay exact in a JavaScript number; half of it leaves room for their difference. */
const MOST_PRODUCT = Number.MAX_SAFE_INTEGER / 2;

/** Numbers small enough for plain arithmetic, after dividing by what all of them share; null where they are not. */
function smallTerms(terms: WholeTerms<number>): WholeTerms<number> | null {
  const size = (values: readonly number[]): number => values.reduce((sum, v) => sum + Math.abs(v), 0);
  const product = (size(terms.a) + Math.abs(terms.x)) * size(terms.b);
  if (product < MOST_PRODUCT) return terms;
  const shared = wholeGcd([terms.x, ...terms.b, ...terms.a]);
  if (product / shared / shared >= MOST_PRODUCT) return null;
  return { a: terms.a.map((v) => v / shared), b: terms.b.map((v) => v / shared), x: terms.x / shared };
}

/**
 * The places of the n terms whose absence makes (Σ a + x) / Σ b greatest.
 *
 * Leaving out the lowest percentages is not the same: a small column with a low share can cost less than a large
 * one with a middling share. This is fractional programming, solved by Dinkelbach's iteration
 * (W. Dinkelbach, "On nonlinear fractional programming", Management Science 13, 1967), exact, and equal to brute
 * force in the tests. Leaving out the highest is the same search with the sign of every a and of x turned.
 * All whole; every b positive and n below the number of terms, else it throws. Plain numbers go the fast way where it is
 * exact, else big integers. Worked example: a = [9, 40, 70], b = [10, 80, 100], x = 0, n = 1 gives [1]:
 * 79/110 = 0.718 beats 110/180 and 49/90.
 */
export function leaveOutOf(terms: WholeTerms<number> | WholeTerms<bigint>, isEarlier: IsBefore, n: number): readonly number[] {
  if (n >= terms.b.length) throw new RangeError('At least one term must stay.');
  for (const value of terms.b) if (value <= 0) throw new RangeError('Every term needs a positive denominator.');
  if (typeof terms.x === 'bigint') return iterate(terms as WholeTerms<bigint>, 0n, isEarlier, n);
  const plain = terms as WholeTerms<number>;
  const small = smallTerms(plain);
  if (small !== null) return iterate(small, 0, isEarlier, n);
  return iterate({ a: plain.a.map(BigInt), b: plain.b.map(BigInt), x: BigInt(plain.x) }, 0n, isEarlier, n);
}

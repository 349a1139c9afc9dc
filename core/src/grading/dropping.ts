import { toRatio, type Exact } from '../exact/ratio.ts';

/** One candidate for leaving out: it adds `numerator` over `denominator` to its category's share. */
export interface Candidate {
  readonly numerator: Exact;
  readonly denominator: number;
  readonly dueAt: number | null;
  readonly order: number;
}

function gcd(a: bigint, b: bigint): bigint {
  let x = a < 0n ? -a : a;
  let y = b < 0n ? -b : b;
  while (y !== 0n) [x, y] = [y, x % y];
  return x;
}

/** Ties: the earliest due first (no date is last), then the order in the Plan. */
function isBefore(a: Candidate, b: Candidate): boolean {
  const dueA = a.dueAt ?? Infinity;
  const dueB = b.dueAt ?? Infinity;
  return dueA !== dueB ? dueA < dueB : a.order < b.order;
}

interface Scaled<N extends number | bigint> { readonly a: readonly N[]; readonly b: readonly N[]; readonly x: N }

/** Brings every candidate and the extra to whole numbers over one common scale, as small as they get. */
function scaled(candidates: readonly Candidate[], extra: Exact): Scaled<bigint> {
  let common = 1n;
  for (const value of [...candidates.map((c) => c.numerator), extra]) {
    if (typeof value !== 'number') common = (common / gcd(common, value.d)) * value.d;
  }
  const whole = (value: Exact): bigint => {
    if (typeof value === 'number') return BigInt(value) * common;
    const r = toRatio(value);
    return (r.s * r.n * common) / r.d;
  };
  const a = candidates.map((c) => whole(c.numerator));
  const b = candidates.map((c) => BigInt(c.denominator) * common);
  const x = whole(extra);
  let shared = x;
  for (const value of [...a, ...b]) shared = gcd(shared, value);
  if (shared > 1n) return { a: a.map((v) => v / shared), b: b.map((v) => v / shared), x: x / shared };
  return { a, b, x };
}

/** The places of the n smallest values, ties settled as the domain says. */
function smallest<N extends number | bigint>(values: readonly N[], candidates: readonly Candidate[], n: number): number[] {
  const places = values.map((_, place) => place);
  places.sort((p, q) => {
    const vp = values[p] as N;
    const vq = values[q] as N;
    if (vp !== vq) return vp < vq ? -1 : 1;
    return isBefore(candidates[p] as Candidate, candidates[q] as Candidate) ? -1 : 1;
  });
  return places.slice(0, n);
}

/** Dinkelbach's iteration; the arithmetic is the same for small whole numbers and for big ones. */
function iterate<N extends number | bigint>(s: Scaled<N>, zero: N, candidates: readonly Candidate[], n: number): number[] {
  const add = (p: N, q: N): N => ((p as number) + (q as number)) as N;
  const value = (i: number, top: N, bottom: N): N =>
    (((s.a[i] as number) * (bottom as number)) - ((top as number) * (s.b[i] as number))) as N;
  const totalA = s.a.reduce(add, s.x);
  const totalB = s.b.reduce(add, zero);
  let top = totalA;
  let bottom = totalB;
  for (;;) {
    const out = smallest(s.a.map((_, i) => value(i, top, bottom)), candidates, n);
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

/**
 * The places of the n candidates whose absence makes (Σ numerators + extra) / Σ denominators greatest.
 *
 * Leaving out the lowest percentages is not the same: a small item with a low share can cost less than a large
 * one with a middling share. This is fractional programming, solved by Dinkelbach's iteration
 * (W. Dinkelbach, "On nonlinear fractional programming", Management Science 13, 1967), exact, and equal to brute
 * force in the tests. Never all: at least one candidate stays. Ties: the earliest due first, then the Plan's order.
 *
 * Denominators are whole and positive; numerators exact. Worked example: 9/10 and 40/80 and 70/100, one left out:
 * the second goes (79/110 = 0.718 beats 110/180 and 49/90).
 */
export function leaveOutLowest(candidates: readonly Candidate[], n: number, extra: Exact = 0): readonly number[] {
  const count = Math.min(n, candidates.length - 1);
  if (count <= 0) return [];
  if (candidates.some((c) => c.denominator <= 0)) throw new RangeError('Every candidate needs a positive denominator.');
  const whole = scaled(candidates, extra);
  const sizeA = [...whole.a, whole.x].reduce((sum, v) => sum + (v < 0n ? -v : v), 0n);
  const sizeB = whole.b.reduce((sum, v) => sum + v, 0n);
  if (sizeA * sizeB < BigInt(Number.MAX_SAFE_INTEGER) / 2n) {
    return iterate({ a: whole.a.map(Number), b: whole.b.map(Number), x: Number(whole.x) }, 0, candidates, count);
  }
  return iterate(whole, 0n, candidates, count);
}

/**
 * The places of the n candidates whose absence makes the share least, after the lowest have gone (equal share only).
 * Same method with the sign turned: the least of r is the greatest of −r. At least one stays.
 * Worked example: shares 0.2, 0.5, 0.9 with n = 1: the third goes.
 */
export function leaveOutHighest(candidates: readonly Candidate[], n: number, extra: Exact = 0): readonly number[] {
  const turned = candidates.map((c) => ({
    ...c, numerator: typeof c.numerator === 'number' ? -c.numerator : c.numerator.neg(),
  }));
  return leaveOutLowest(turned, n, typeof extra === 'number' ? -extra : extra.neg());
}

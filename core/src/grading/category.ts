import { ratio, toRatio, type Exact, type Ratio } from '../exact/ratio.ts';
import type { GradedCell, GradedItem } from './cell.ts';
import { isBefore, leaveOutOf, type WholeTerms } from './dropping.ts';
import type { Method } from './policy.ts';

/** Why an item stands in a total with the value it has. */
export type Basis = 'mark' | 'missing' | 'no mark yet' | 'full marks' | 'closed' | 'not built yet';

/** One item in one total, exactly as it was counted. */
export interface ItemLine {
  readonly item: GradedItem;
  readonly cell: GradedCell;
  readonly earned: Exact;
  readonly basis: Basis;
  readonly leftOut: 'lowest' | 'highest' | null;
}

export interface Dropping {
  readonly dropLowest: number;
  readonly keepBest: number;
  readonly dropHighest: number;
}

/** What counts in one category for one student, side by side: place n of each list is one item. */
export interface Counted {
  readonly items: readonly GradedItem[];
  readonly cells: readonly GradedCell[];
  readonly earned: readonly Exact[];
  readonly basis: readonly Basis[];
}

export interface CategoryTotal {
  /** Written out only when a working asks for it: the numbers below are made from the same sums. */
  readonly lines: readonly ItemLine[];
  readonly method: Method;
  /** Points of the kept work (or shares times multipliers), in thousandths times thousandths; see `ratio` for the result. */
  readonly earned: Ratio;
  readonly possible: Ratio;
  /** earned / possible; null where no ordinary item counted. */
  readonly ratio: Ratio | null;
  /** The same, not reduced to lowest terms: for sums over many categories. */
  readonly share: { readonly top: bigint; readonly bottom: bigint } | null;
  readonly isCapped: boolean;
}

const HUNDRED_POINTS = 100_000;
/** A common scale beyond this leaves no room for exact sums in plain numbers. */
const MOST_SCALE = 1e9;

const isExtra = (item: GradedItem): boolean => item.isExtraCredit || item.possible === 0;
const sharedBy = (item: GradedItem): number => (item.possible === 0 ? HUNDRED_POINTS : item.possible);

/** Each item's part of numerator (a) and denominator (b), as whole numbers `scale` times as large. Extra credit has no b. */
interface Terms<N extends number | bigint> {
  readonly a: N[];
  readonly b: N[];
  readonly scale: N;
  readonly zero: N;
}

function commonScale(items: readonly GradedItem[]): number {
  let scale = 1;
  for (const item of items) {
    const possible = sharedBy(item);
    if (scale % possible === 0) continue;
    let [x, y] = [scale, possible];
    while (y !== 0) [x, y] = [y, x % y];
    scale = (scale / x) * possible;
    if (scale > MOST_SCALE) return scale;
  }
  return scale;
}

/** The terms in plain whole numbers; null where a value is finer than a thousandth or a sum would not stay exact. */
function plainTerms(counted: Counted, method: Method): Terms<number> | null {
  const { items, earned } = counted;
  const scale = method === 'points' ? 1 : commonScale(items);
  if (scale > MOST_SCALE) return null;
  const a: number[] = [];
  const b: number[] = [];
  let size = 0;
  for (let n = 0; n < items.length; n += 1) {
    const item = items[n] as GradedItem;
    const value = earned[n] as Exact;
    if (typeof value !== 'number') return null;
    a.push(method === 'points' ? item.multiplier * value : item.multiplier * value * (scale / sharedBy(item)));
    b.push(isExtra(item) ? 0 : method === 'points' ? item.multiplier * item.possible : item.multiplier * scale);
    size += Math.abs(a[n] as number) + (b[n] as number);
  }
  return size <= Number.MAX_SAFE_INTEGER ? { a, b, scale, zero: 0 } : null;
}

/** The same in big integers, whatever the values are. */
function bigTerms(counted: Counted, method: Method): Terms<bigint> {
  let scale = 1n;
  const widen = (by: bigint): void => {
    const r = ratio(scale, by);
    scale *= r.d;
  };
  counted.items.forEach((item, n) => {
    const value = counted.earned[n] as Exact;
    widen((typeof value === 'number' ? 1n : value.d) * (method === 'points' ? 1n : BigInt(sharedBy(item))));
  });
  const a = counted.items.map((item, n) => {
    const value = toRatio(counted.earned[n] as Exact);
    return (value.s * value.n * BigInt(item.multiplier) * scale) / (value.d * (method === 'points' ? 1n : BigInt(sharedBy(item))));
  });
  const b = counted.items.map((item) =>
    isExtra(item) ? 0n : BigInt(item.multiplier) * scale * (method === 'points' ? BigInt(item.possible) : 1n),
  );
  return { a, b, scale, zero: 0n };
}

type LeftOut = 'lowest' | 'highest';

/**
 * Whether the highest may be left out: by equal share, without multipliers and without extra credit. Otherwise a better mark could lower a
 * total. Elsewhere the rule is not followed, and is not offered.
 * Worked example: two items by equal share, one of them with a multiplier of 2: false.
 */
export function canDropHighest(method: Method, items: readonly Pick<GradedItem, 'multiplier' | 'isExtraCredit' | 'possible'>[]): boolean {
  return method === 'share' && items.every((item) => item.multiplier === 1000 && !item.isExtraCredit && item.possible > 0);
}

/** The places that are left out; candidates are the counted items that are not extra credit. */
function leaveOut<N extends number | bigint>(
  terms: Terms<N>,
  items: readonly GradedItem[],
  method: Method,
  dropping: Dropping,
): ReadonlyMap<number, LeftOut> | null {
  if (dropping.dropLowest <= 0 && dropping.keepBest <= 0 && dropping.dropHighest <= 0) return null;
  const out = new Map<number, LeftOut>();
  const ordinary = items.map((_, n) => n).filter((n) => !isExtra(items[n] as GradedItem) && (items[n] as GradedItem).multiplier > 0);
  const lowest = Math.max(dropping.dropLowest, dropping.keepBest > 0 ? ordinary.length - dropping.keepBest : 0);
  let x = terms.zero;
  items.forEach((item, n) => {
    if (isExtra(item)) x = ((x as number) + (terms.a[n] as number)) as N;
  });
  const choose = (places: readonly number[], wanted: number, why: LeftOut): void => {
    const count = Math.min(wanted, places.length - 1);
    if (count <= 0) return;
    // Leaving out the highest is the same search with the sign turned.
    const signed = (value: N): N => (why === 'lowest' ? value : (-value as N));
    const whole = { a: places.map((n) => signed(terms.a[n] as N)), b: places.map((n) => terms.b[n] as N), x: signed(x) } as
      WholeTerms<number> | WholeTerms<bigint>;
    const isEarlier = (p: number, q: number): boolean =>
      isBefore(items[places[p] as number] as GradedItem, items[places[q] as number] as GradedItem);
    for (const place of leaveOutOf(whole, isEarlier, count)) out.set(places[place] as number, why);
  };
  choose(ordinary, lowest, 'lowest');
  if (canDropHighest(method, items))
    choose(
      ordinary.filter((n) => !out.has(n)),
      dropping.dropHighest,
      'highest',
    );
  return out;
}

/** Σ of the kept numerators and denominators, `scale` times as large as they read. */
interface Sums {
  readonly top: number | bigint;
  readonly bottom: number | bigint;
  readonly scale: number | bigint;
}

/** Reduced in plain numbers where they are: a big integer is costly in proportion to its length. */
function lowest({ top, bottom }: Pick<Sums, 'top' | 'bottom'>): { top: bigint; bottom: bigint } {
  if (typeof top !== 'number' || typeof bottom !== 'number') return { top: BigInt(top), bottom: BigInt(bottom) };
  let [x, y] = [Math.abs(top), bottom];
  while (y !== 0) [x, y] = [y, x % y];
  return { top: BigInt(top / x), bottom: BigInt(bottom / x) };
}

class Category implements CategoryTotal {
  readonly method: Method;
  readonly share: { readonly top: bigint; readonly bottom: bigint } | null;
  readonly isCapped: boolean;
  readonly #counted: Counted;
  readonly #out: ReadonlyMap<number, LeftOut> | null;
  readonly #sums: Sums;

  constructor(counted: Counted, method: Method, out: ReadonlyMap<number, LeftOut> | null, sums: Sums, isCapped: boolean) {
    this.method = method;
    this.#counted = counted;
    this.#out = out;
    this.#sums = sums;
    this.isCapped = isCapped && sums.bottom > 0 && sums.top > sums.bottom;
    this.share = sums.bottom > 0 ? lowest(this.isCapped ? { top: 1, bottom: 1 } : sums) : null;
  }

  get lines(): readonly ItemLine[] {
    const { items, cells, earned, basis } = this.#counted;
    return items.map((item, n) => ({
      item,
      cell: cells[n] as GradedCell,
      earned: earned[n] as Exact,
      basis: basis[n] as Basis,
      leftOut: this.#out?.get(n) ?? null,
    }));
  }

  get earned(): Ratio {
    return ratio(this.#sums.top, this.#sums.scale);
  }

  get possible(): Ratio {
    return ratio(this.#sums.bottom, this.#sums.scale);
  }

  get ratio(): Ratio | null {
    return this.share === null ? null : ratio(this.share.top, this.share.bottom);
  }
}

function sumsOf<N extends number | bigint>(terms: Terms<N>, out: ReadonlyMap<number, LeftOut> | null): Sums {
  let top = terms.zero;
  let bottom = terms.zero;
  for (let n = 0; n < terms.a.length; n += 1) {
    if (out?.has(n) === true) continue;
    top = ((top as number) + (terms.a[n] as number)) as N;
    bottom = ((bottom as number) + (terms.b[n] as number)) as N;
  }
  return { top, bottom, scale: terms.scale };
}

/**
 * The result of one category for one student from the items that count.
 *
 * By points r = Σ mᵢeᵢ / Σ mᵢpᵢ; by equal share r = Σ mᵢ(eᵢ/pᵢ) / Σ mᵢ. Extra-credit items and items worth 0 add to
 * the numerator only. No ordinary item: `ratio` is null, not zero. With `isCapped` r is at most 1.
 * The sums run in plain whole numbers wherever these are exact, else in big integers; the result is the same.
 * Worked example: 48/60, 45.125/60, 33/40 kept, 37.5/60 left out: 126.125 of 160, ratio 0.78828125.
 */
export function totalCategory(counted: Counted, method: Method, dropping: Dropping, isCapped: boolean): CategoryTotal {
  const plain = plainTerms(counted, method);
  if (plain !== null) {
    const out = leaveOut(plain, counted.items, method, dropping);
    return new Category(counted, method, out, sumsOf(plain, out), isCapped);
  }
  const big = bigTerms(counted, method);
  const out = leaveOut(big, counted.items, method, dropping);
  return new Category(counted, method, out, sumsOf(big, out), isCapped);
}

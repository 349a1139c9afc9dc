import { ratio, toRatio, type Exact, type Ratio } from '../exact/ratio.ts';
import type { GradedCell, GradedColumn } from './cell.ts';
import { isBefore, leaveOutOf, type WholeTerms } from './dropping.ts';
import type { Method } from './policy.ts';

/** Why a column stands in a total with the value it has. */
export type Basis = 'mark' | 'missing' | 'no mark yet' | 'full marks' | 'closed' | 'not built yet';

/** One column in one total, exactly as it was counted. */
export interface ColumnLine {
  readonly column: GradedColumn;
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

/** What counts in one category for one student, side by side: place n of each list is one column. */
export interface Counted {
  readonly columns: readonly GradedColumn[];
  readonly cells: readonly GradedCell[];
  readonly earned: readonly Exact[];
  readonly basis: readonly Basis[];
}

export interface CategoryTotal {
  /** Written out only when a working asks for it: the numbers below are made from the same sums. */
  readonly lines: readonly ColumnLine[];
  readonly method: Method;
  /** Points of the kept work (or shares times multipliers), in thousandths times thousandths; see `ratio` for the result. */
  readonly earned: Ratio;
  readonly possible: Ratio;
  /** earned / possible; null where no ordinary column counted. */
  readonly ratio: Ratio | null;
  /** The same, not reduced to lowest terms: for sums over many categories. */
  readonly share: { readonly top: bigint; readonly bottom: bigint } | null;
  readonly isCapped: boolean;
}

const HUNDRED_POINTS = 100_000;
/** A common scale beyond this leaves no room for exact sums in plain numbers. */
const MOST_SCALE = 1e9;

const isExtra = (column: GradedColumn): boolean => column.isExtraCredit || column.possible === 0;
const sharedBy = (column: GradedColumn): number => (column.possible === 0 ? HUNDRED_POINTS : column.possible);

/** Each column's part of numerator (a) and denominator (b), as whole numbers `scale` times as large. Extra credit has no b. */
interface Terms<N extends number | bigint> {
  readonly a: N[];
  readonly b: N[];
  readonly scale: N;
  readonly zero: N;
}

function commonScale(columns: readonly GradedColumn[]): number {
  let scale = 1;
  for (const column of columns) {
    const possible = sharedBy(column);
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
  const { columns, earned } = counted;
  const scale = method === 'points' ? 1 : commonScale(columns);
  if (scale > MOST_SCALE) return null;
  const a: number[] = [];
  const b: number[] = [];
  let size = 0;
  for (let n = 0; n < columns.length; n += 1) {
    const column = columns[n] as GradedColumn;
    const value = earned[n] as Exact;
    if (typeof value !== 'number') return null;
    a.push(method === 'points' ? column.multiplier * value : column.multiplier * value * (scale / sharedBy(column)));
    b.push(isExtra(column) ? 0 : method === 'points' ? column.multiplier * column.possible : column.multiplier * scale);
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
  counted.columns.forEach((column, n) => {
    const value = counted.earned[n] as Exact;
    widen((typeof value === 'number' ? 1n : value.d) * (method === 'points' ? 1n : BigInt(sharedBy(column))));
  });
  const a = counted.columns.map((column, n) => {
    const value = toRatio(counted.earned[n] as Exact);
    return (value.s * value.n * BigInt(column.multiplier) * scale) / (value.d * (method === 'points' ? 1n : BigInt(sharedBy(column))));
  });
  const b = counted.columns.map((column) =>
    isExtra(column) ? 0n : BigInt(column.multiplier) * scale * (method === 'points' ? BigInt(column.possible) : 1n),
  );
  return { a, b, scale, zero: 0n };
}

type LeftOut = 'lowest' | 'highest';

/**
 * Whether the highest may be left out: by equal share, without multipliers and without extra credit. Otherwise a better mark could lower a
 * total. Elsewhere the rule is not followed, and is not offered.
 * Worked example: two columns by equal share, one of them with a multiplier of 2: false.
 */
export function canDropHighest(
  method: Method,
  columns: readonly Pick<GradedColumn, 'multiplier' | 'isExtraCredit' | 'possible'>[],
): boolean {
  return method === 'share' && columns.every((column) => column.multiplier === 1000 && !column.isExtraCredit && column.possible > 0);
}

/** The places that are left out; candidates are the counted columns that are not extra credit. */
function leaveOut<N extends number | bigint>(
  terms: Terms<N>,
  columns: readonly GradedColumn[],
  method: Method,
  dropping: Dropping,
): ReadonlyMap<number, LeftOut> | null {
  if (dropping.dropLowest <= 0 && dropping.keepBest <= 0 && dropping.dropHighest <= 0) return null;
  const out = new Map<number, LeftOut>();
  const ordinary = columns
    .map((_, n) => n)
    .filter((n) => !isExtra(columns[n] as GradedColumn) && (columns[n] as GradedColumn).multiplier > 0);
  const lowest = Math.max(dropping.dropLowest, dropping.keepBest > 0 ? ordinary.length - dropping.keepBest : 0);
  let x = terms.zero;
  columns.forEach((column, n) => {
    if (isExtra(column)) x = ((x as number) + (terms.a[n] as number)) as N;
  });
  const choose = (places: readonly number[], wanted: number, why: LeftOut): void => {
    const count = Math.min(wanted, places.length - 1);
    if (count <= 0) return;
    // Leaving out the highest is the same search with the sign turned.
    const signed = (value: N): N => (why === 'lowest' ? value : (-value as N));
    const whole = { a: places.map((n) => signed(terms.a[n] as N)), b: places.map((n) => terms.b[n] as N), x: signed(x) } as
      WholeTerms<number> | WholeTerms<bigint>;
    const isEarlier = (p: number, q: number): boolean =>
      isBefore(columns[places[p] as number] as GradedColumn, columns[places[q] as number] as GradedColumn);
    for (const place of leaveOutOf(whole, isEarlier, count)) out.set(places[place] as number, why);
  };
  choose(ordinary, lowest, 'lowest');
  if (canDropHighest(method, columns))
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

  get lines(): readonly ColumnLine[] {
    const { columns, cells, earned, basis } = this.#counted;
    return columns.map((column, n) => ({
      column,
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
 * The result of one category for one student from the columns that count.
 *
 * By points r = Σ mᵢeᵢ / Σ mᵢpᵢ; by equal share r = Σ mᵢ(eᵢ/pᵢ) / Σ mᵢ. Extra-credit columns and columns worth 0 add to
 * the numerator only. No ordinary column: `ratio` is null, not zero. With `isCapped` r is at most 1.
 * The sums run in plain whole numbers wherever these are exact, else in big integers; the result is the same.
 * Worked example: 48/60, 45.125/60, 33/40 kept, 37.5/60 left out: 126.125 of 160, ratio 0.78828125.
 */
export function totalCategory(counted: Counted, method: Method, dropping: Dropping, isCapped: boolean): CategoryTotal {
  const plain = plainTerms(counted, method);
  if (plain !== null) {
    const out = leaveOut(plain, counted.columns, method, dropping);
    return new Category(counted, method, out, sumsOf(plain, out), isCapped);
  }
  const big = bigTerms(counted, method);
  const out = leaveOut(big, counted.columns, method, dropping);
  return new Category(counted, method, out, sumsOf(big, out), isCapped);
}

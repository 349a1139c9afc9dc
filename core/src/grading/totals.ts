import { ratio, ZERO, type Exact, type Ratio } from '../exact/ratio.ts';
import { totalCategory, type Basis, type CategoryTotal } from './category.ts';
import { OUTSIDE, type GradedCell, type GradedColumn } from './cell.ts';
import type { Category, Period, Policy } from './policy.ts';

export type TotalKind = 'so far' | 'floor' | 'reach';
export const TOTAL_KINDS: readonly TotalKind[] = ['so far', 'floor', 'reach'];

export interface WeightedCategory {
  /** Null where the whole course is one category. */
  readonly category: Category | null;
  readonly total: CategoryTotal;
  readonly weightPercent: number;
}

export interface PeriodTotal {
  /** Null where periods have no weights. */
  readonly period: Period | null;
  readonly categories: readonly WeightedCategory[];
  /** Σ w of what counted, in thousandths of a percent. */
  readonly weightSum: number;
  readonly ratio: Ratio | null;
}

/** One total of one student with everything it was made from: the number, its working and its ripple are this one tree. */
export interface Total {
  readonly kind: TotalKind;
  readonly periods: readonly PeriodTotal[];
  readonly ratio: Ratio | null;
}

const ALL_OF_IT = 100_000;
const NOTHING_SETTLED: ReadonlyMap<unknown, WeightedCategory> = new Map();

/** Why a column counts in a total of this kind, or null where it is left out of it. */
function basisOf(kind: TotalKind, cell: GradedCell, isMissingZero: boolean): Basis | null {
  if (cell.state === 'outside' || cell.state === 'exempt') return null;
  if (cell.state === 'marked' && cell.result !== null) return 'mark';
  if (kind === 'so far') return cell.state === 'missing' && isMissingZero ? 'missing' : null;
  if (kind === 'floor') return cell.state === 'missing' ? 'missing' : 'no mark yet';
  return cell.mostPossible === 0 ? 'closed' : 'full marks';
}

/** What it counts with. */
function earnedAs(basis: Basis, cell: GradedCell): Exact {
  if (basis === 'mark') return cell.result ?? 0;
  return basis === 'full marks' ? cell.mostPossible : 0;
}

interface Growing {
  readonly columns: GradedColumn[];
  readonly cells: GradedCell[];
  readonly earned: Exact[];
  readonly basis: Basis[];
}

/**
 * Adds work a category has declared and that is not built yet: 0 in the floor, full in the reach, absent from so far. Unbuilt pieces are
 * those said less those built, unbuilt points likewise, shared equally over the pieces. By points a piece left without points counts
 * nothing; by equal share every unbuilt piece counts as one. Points said beyond any piece stand as one more.
 */
function addDeclared(counted: Growing, category: Category, { items, points, built, periodId }: Declared, kind: TotalKind): void {
  if (kind === 'so far') return;
  const ordinary = built.filter((column) => !column.isExtraCredit && column.possible > 0);
  const missingPieces = Math.max(0, items - ordinary.length);
  const missingPoints = Math.max(0, points - ordinary.reduce((sum, column) => sum + column.possible, 0));
  const isByPoints = category.method === 'points';
  if (isByPoints ? missingPoints === 0 : missingPieces === 0) return;
  const pieces = Math.max(1, missingPieces);
  // By equal share it is the piece that counts, whatever points it will have.
  const total = isByPoints ? missingPoints : pieces * ALL_OF_IT;
  const each = Math.floor(total / pieces);
  for (let n = 0; n < pieces; n += 1) {
    const possible = n === 0 ? total - each * (pieces - 1) : each;
    counted.columns.push({
      id: `declared:${category.id}:${periodId ?? ''}${n}`,
      itemId: null,
      title: 'declared, not built yet',
      categoryId: category.id,
      periodId,
      possible,
      multiplier: 1000,
      isExtraCredit: false,
      dueAt: null,
      order: Number.MAX_SAFE_INTEGER - pieces + n,
    });
    counted.cells.push(OUTSIDE);
    counted.earned.push(kind === 'reach' ? possible : 0);
    counted.basis.push('not built yet');
  }
}

/** The weighted mean as one fraction, brought to lowest terms once at its end. */
function weighCategories(policy: Policy, totals: readonly WeightedCategory[]): { weightSum: number; ratio: Ratio | null } {
  let weightSum = 0;
  let top = 0n;
  let bottom = 1n;
  let hasResult = false;
  for (const { category, total, weightPercent } of totals) {
    if (category?.isExtraCredit === true) continue;
    if (total.share === null && policy.isRenormalised) continue;
    weightSum += weightPercent;
    if (total.share === null) continue;
    hasResult = true;
    top = top * total.share.bottom + BigInt(weightPercent) * total.share.top * bottom;
    bottom *= total.share.bottom;
  }
  if (weightSum === 0 || !hasResult) return { weightSum, ratio: null };
  let result = ratio(top, bottom * BigInt(weightSum));
  for (const { category, total, weightPercent } of totals) {
    if (category?.isExtraCredit === true && total.share !== null)
      result = result.add(ratio(total.share.top * BigInt(weightPercent), total.share.bottom * BigInt(ALL_OF_IT)));
  }
  return { weightSum, ratio: result };
}

/** Columns in the shape totals need, prepared once for a whole class. */
export interface Prepared {
  readonly policy: Policy;
  readonly columns: readonly GradedColumn[];
  readonly groups: readonly { readonly period: Period | null; readonly parts: readonly Part[] }[];
}
/** Declared work, and what is built of it. */
interface Declared {
  readonly items: number;
  readonly points: number;
  readonly built: readonly GradedColumn[];
  /** The grading period it is said for; null where it is said for the whole course. */
  readonly periodId: string | null;
}
interface Part {
  readonly category: Category | null;
  /** What the category has declared that is counted here; null where nothing is said, or where it is counted elsewhere. */
  readonly declared: Declared | null;
  readonly places: readonly number[];
  readonly columns: readonly GradedColumn[];
}

/** Where a category says how much each period will hold, that is counted in its period; else it is counted once, where `isLast`. */
function declaredOf(
  category: Category,
  period: Period | null,
  isLast: boolean,
  all: readonly GradedColumn[],
  own: readonly GradedColumn[],
) {
  const said = category.declaredIn ?? [];
  if (period !== null && said.length > 0) {
    const here = said.find((d) => d.periodId === period.id && (d.items > 0 || d.points > 0));
    return here === undefined ? null : { items: here.items, points: here.points, built: own, periodId: period.id };
  }
  const { declaredItems: items, declaredPoints: points } = category;
  if (!isLast || (items === 0 && points === 0)) return null;
  return { items, points, built: all.filter((column) => column.categoryId === category.id), periodId: null };
}

function partsOf(
  policy: Policy,
  columns: readonly GradedColumn[],
  places: readonly number[],
  period: Period | null,
  isLast: boolean,
): Part[] {
  const part = (category: Category | null, own: readonly number[]): Part => {
    const held = own.map((place) => columns[place] as GradedColumn);
    return {
      category,
      declared: category === null ? null : declaredOf(category, period, isLast, columns, held),
      places: own,
      columns: held,
    };
  };
  if (policy.total !== 'weights') return [part(null, places)];
  return policy.categories.map((category) =>
    part(
      category,
      places.filter((place) => columns[place]?.categoryId === category.id),
    ),
  );
}

/**
 * The grading period a column counts in: its own, else the one its due date falls in (from the start up to, not including, the end).
 * Null where it is in none: it then belongs to the course as a whole, and counts in each.
 * Worked example: with periods of September and October, a column of no period that is due on 3 October counts in October.
 */
export function periodOf(column: Pick<GradedColumn, 'periodId' | 'dueAt'>, periods: readonly Period[]): Period | null {
  const { dueAt } = column;
  const own = periods.find((p) => p.id === column.periodId);
  if (own !== undefined || dueAt === null) return own ?? null;
  const holds = (p: Period): boolean =>
    p.startsAt !== undefined && p.startsAt !== null && p.startsAt <= dueAt && dueAt < (p.endsAt ?? Infinity);
  return periods.find(holds) ?? null;
}

/** Sorts the columns of a course into periods and categories; cells are then given in the order of `columns`. */
export function prepare(policy: Policy, columns: readonly GradedColumn[]): Prepared {
  const all = columns.map((_, place) => place);
  const groups =
    policy.periods.length === 0
      ? [{ period: null, parts: partsOf(policy, columns, all, null, true) }]
      : policy.periods.map((period, n) => ({
          period,
          parts: partsOf(
            policy,
            columns,
            all.filter((place) => (periodOf(columns[place] as GradedColumn, policy.periods) ?? period).id === period.id),
            period,
            // What is declared for the whole course and not built is still to come: it is counted once, in the last period.
            n === policy.periods.length - 1,
          ),
        }));
  return { policy, columns, groups };
}

function totalPart(prepared: Prepared, part: Part, cells: readonly GradedCell[], kind: TotalKind): WeightedCategory {
  const { policy } = prepared;
  const counted: Growing = { columns: [], cells: [], earned: [], basis: [] };
  for (let n = 0; n < part.places.length; n += 1) {
    const cell = cells[part.places[n] as number] ?? OUTSIDE;
    const basis = basisOf(kind, cell, policy.isMissingZero);
    if (basis === null) continue;
    counted.columns.push(part.columns[n] as GradedColumn);
    counted.cells.push(cell);
    counted.earned.push(earnedAs(basis, cell));
    counted.basis.push(basis);
  }
  const { category } = part;
  if (category === null) {
    return {
      category,
      total: totalCategory(counted, policy.total as 'points' | 'share', policy.whole, policy.whole.isCapped),
      weightPercent: ALL_OF_IT,
    };
  }
  if (part.declared !== null) addDeclared(counted, category, part.declared, kind);
  return { category, total: totalCategory(counted, category.method, category, category.isCapped), weightPercent: category.weightPercent };
}

/**
 * One of the three totals of one student, exact, with its derivation.
 *
 * *So far* takes what is marked (and missing work as zero, if the policy says so); *floor* counts 0 wherever there is
 * no mark; *reach* counts the most that can still come. Floor ≤ reach always.
 * Total = Σ w·r / Σ w over ordinary categories that have a result (or over all, by policy); each extra-credit category
 * adds (w/100)·r after that. With weighted periods: their weighted mean, over the periods that have a total.
 * `ratio` is null where nothing counts yet. Worked example: categories 20 % at 0.85, 50 % at 0.78828125, 30 % at 0.77:
 * ratio 0.795140625.
 */
export function totalOf(
  prepared: Prepared,
  cells: readonly GradedCell[],
  kind: TotalKind,
  settled: ReadonlyMap<unknown, WeightedCategory> = NOTHING_SETTLED,
): Total {
  const periods = prepared.groups.map(({ period, parts }): PeriodTotal => {
    const categories = parts.map((part) => settled.get(part) ?? totalPart(prepared, part, cells, kind));
    return { period, categories, ...weighCategories(prepared.policy, categories) };
  });
  const only = periods[0];
  if (only === undefined || only.period === null) return { kind, periods, ratio: only?.ratio ?? null };
  let weights = 0;
  let sum = ZERO;
  for (const { period, ratio: own } of periods) {
    if (own === null || period === null) continue;
    weights += period.weightPercent;
    sum = sum.add(own.mul(period.weightPercent));
  }
  return { kind, periods, ratio: weights === 0 ? null : sum.div(weights) };
}

/** Whether a part has nothing left to come: everything in it is marked, exempt or not for this student. */
function isSettled(part: Part, cells: readonly GradedCell[]): boolean {
  if (part.declared !== null) return false;
  for (const place of part.places) {
    const cell = cells[place] ?? OUTSIDE;
    if (cell.state !== 'outside' && cell.state !== 'exempt' && (cell.state !== 'marked' || cell.result === null)) return false;
  }
  return true;
}

/** The three totals, always together. A category in which all is settled is the same in each, and worked out once. */
export function threeTotals(prepared: Prepared, cells: readonly GradedCell[]): Record<'soFar' | 'floor' | 'reach', Total> {
  const settled = new Map<Part, WeightedCategory>();
  for (const { parts } of prepared.groups)
    for (const part of parts) if (isSettled(part, cells)) settled.set(part, totalPart(prepared, part, cells, 'so far'));
  return {
    soFar: totalOf(prepared, cells, 'so far', settled),
    floor: totalOf(prepared, cells, 'floor', settled),
    reach: totalOf(prepared, cells, 'reach', settled),
  };
}

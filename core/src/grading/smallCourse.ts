import type { GradedCell, GradedColumn } from './cell.ts';
import type { Category, Policy } from './policy.ts';

/** Small courses for tests: points as one says them, everything else as a course begins. */
export const column = (id: string, possible: number, more: Partial<GradedColumn> = {}): GradedColumn => ({
  id,
  itemId: id,
  title: id,
  categoryId: 'bench',
  periodId: null,
  possible: possible * 1000,
  multiplier: 1000,
  isExtraCredit: false,
  dueAt: null,
  order: 0,
  ...more,
});
export const category = (id: string, weight: number, more: Partial<Category> = {}): Category => ({
  id,
  title: id,
  weightPercent: weight * 1000,
  method: 'points',
  dropLowest: 0,
  keepBest: 0,
  dropHighest: 0,
  isExtraCredit: false,
  isCapped: false,
  declaredItems: 0,
  declaredPoints: 0,
  late: null,
  ...more,
});
export const policy = (categories: readonly Category[], more: Partial<Policy> = {}): Policy => ({
  total: 'weights',
  whole: { dropLowest: 0, keepBest: 0, dropHighest: 0, isCapped: false },
  isRenormalised: true,
  isMissingZero: true,
  decimals: 1,
  categories,
  periods: [],
  levels: [
    { label: 'A', cutPoint: 87_000 },
    { label: 'B', cutPoint: 73_000 },
    { label: 'C', cutPoint: 61_000 },
    { label: 'F', cutPoint: 0 },
  ],
  ...more,
});
export const marked = (points: number, more: Partial<GradedCell> = {}): GradedCell => ({
  state: 'marked',
  raw: Math.round(points * 1000),
  result: Math.round(points * 1000),
  late: null,
  mostPossible: Math.round(points * 1000),
  isReleased: true,
  ...more,
});
export const blank = (possible: number, state: GradedCell['state'] = 'none', most = possible): GradedCell => ({
  state,
  raw: null,
  result: null,
  late: null,
  mostPossible: most * 1000,
  isReleased: false,
});

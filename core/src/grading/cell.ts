import type { Exact } from '../exact/ratio.ts';
import type { Thousandths } from '../exact/points.ts';
import type { CurveAccount } from './curve.ts';

/** What a column holds: the results of an item’s work, of the reviewing of others’ work, or what stands in the gradebook alone. */
export const COLUMN_ROLES = ['work', 'reviewing', 'alone'] as const;
export type ColumnRole = (typeof COLUMN_ROLES)[number];

/** A column as the totals see it. Only columns that count and are not drafts are handed to them. */
export interface GradedColumn {
  readonly id: string;
  /** The item it is of; null where it stands without one. */
  readonly itemId: string | null;
  readonly title: string;
  readonly categoryId: string | null;
  readonly periodId: string | null;
  readonly possible: Thousandths;
  /** 1000 is a multiplier of 1. */
  readonly multiplier: Thousandths;
  readonly isExtraCredit: boolean;
  readonly dueAt: number | null;
  /** Place in the Plan, for ties. */
  readonly order: number;
}

export type CellState = 'marked' | 'none' | 'missing' | 'exempt' | 'unfinished' | 'judged' | 'outside';

/** What late work lost, with what is needed to say so. */
export interface LateAccount {
  readonly steps: number;
  readonly penalty: Exact;
  readonly rule: string;
  /** When it came and when it was due, in milliseconds since 1970. */
  readonly handedInAt: number;
  readonly dueAt: number;
}

/** One column for one student, in thousandths of a point. */
export interface GradedCell {
  readonly state: CellState;
  readonly raw: Thousandths | null;
  /** After curve and late policy; null where nothing is marked. */
  readonly result: Exact | null;
  readonly late: LateAccount | null;
  /** What a curve made of what was given, before lateness; none where there is no curve. */
  readonly curve?: CurveAccount | null;
  /** The most this could still bring: full, full less today's penalty, or 0 when closed. */
  readonly mostPossible: Exact;
  readonly isReleased: boolean;
}

export const OUTSIDE: GradedCell = {
  state: 'outside',
  raw: null,
  result: null,
  late: null,
  mostPossible: 0,
  isReleased: false,
};

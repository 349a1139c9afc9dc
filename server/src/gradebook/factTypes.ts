import type {
  ColumnRole,
  Counting,
  Curve,
  GradeFacts,
  ItemKind,
  LatePolicy,
  Policy,
  ResultReading,
  SchemeLevel,
  Term,
} from '@rosemary/core';
import type { DatedItem, DatesFor, Reach } from '../opening/index.ts';
import { type Pairs } from '../platform/pairs.ts';

/** A column with what its grades are computed from; its dates are those of the item it is of. */
export interface FactColumn {
  readonly id: string;
  /** Null where it stands without an item. */
  readonly itemId: string | null;
  readonly role: ColumnRole;
  readonly kind: ItemKind | null;
  readonly title: string;
  readonly categoryId: string | null;
  readonly periodId: string | null;
  readonly possible: number;
  readonly multiplier: number;
  readonly isExtraCredit: boolean;
  readonly counts: boolean;
  readonly isDraft: boolean;
  /** What the dates in force are made from; asked for by the item, not by the column. */
  readonly dated: DatedItem;
  readonly order: number;
  readonly expectsHandIn: boolean;
  readonly unitId: string | null;
  readonly madeAt: number;
  readonly releaseMode: 'finished' | 'date' | 'hand';
  /** The column’s own late policy, else its category’s, else the course’s. */
  readonly late: LatePolicy | null;
  readonly curve: Curve | null;
  readonly counted: Counting;
  readonly markers: 1 | 2;
  readonly showsStatistics: boolean;
  readonly studentReads: ResultReading;
  readonly staffReads: ResultReading;
  /** What it is read by instead of the letters of the course. */
  readonly ownLevels: readonly SchemeLevel[] | null;
}

/** The column of an item’s work. */
export interface WorkColumn extends FactColumn {
  readonly itemId: string;
  readonly kind: ItemKind;
}

export interface FactPerson {
  readonly enrolmentId: string;
  readonly personId: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly sectionId: string | null;
  readonly isSample: boolean;
}

export interface FactGrade extends GradeFacts {
  readonly eventId: string;
}

export interface FactHandIn {
  /** When the attempt that counts came, and when the latest did. */
  readonly at: number;
  readonly latestAt: number;
  readonly number: number;
}

/** Everything the grades of a course are computed from, read once. */
export interface CourseFacts {
  readonly courseId: string;
  readonly zone: string;
  readonly term: Term;
  readonly termEndsAt: number;
  readonly policy: Policy;
  readonly showsFloorAndReach: boolean;
  readonly policyVersion: number;
  readonly columns: readonly FactColumn[];
  /** By column and student. */
  readonly people: readonly FactPerson[];
  readonly grades: Pairs<FactGrade>;
  /** By item and student. */
  readonly handIns: Pairs<FactHandIn>;
  readonly datesFor: DatesFor;
  readonly reach: Reach;
}

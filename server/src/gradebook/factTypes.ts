import type { Counting, GradeFacts, ItemKind, LatePolicy, Policy, ResultReading, Term } from '@rosemary/core';
import type { DatesFor, Reach } from '../opening/index.ts';
import { type Pairs } from '../platform/pairs.ts';

export interface FactItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly categoryId: string | null;
  readonly periodId: string | null;
  readonly possible: number;
  readonly multiplier: number;
  readonly isExtraCredit: boolean;
  readonly counts: boolean;
  readonly isDraft: boolean;
  readonly announcedAt: number | null;
  readonly opensAt: number | null;
  readonly dueAt: number | null;
  readonly closesAt: number | null;
  readonly order: number;
  readonly expectsHandIn: boolean;
  readonly unitId: string | null;
  readonly releaseMode: 'finished' | 'date' | 'hand';
  /** The item's own late policy, else its category's, else the course's. */
  readonly late: LatePolicy | null;
  readonly counted: Counting;
  readonly markers: 1 | 2;
  readonly showsStatistics: boolean;
  readonly studentReads: ResultReading;
  readonly staffReads: ResultReading;
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
  readonly items: readonly FactItem[];
  readonly people: readonly FactPerson[];
  readonly grades: Pairs<FactGrade>;
  readonly handIns: Pairs<FactHandIn>;
  readonly datesFor: DatesFor;
  readonly reach: Reach;
}

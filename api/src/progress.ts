import type { AlignedPart, DayOfActivity, ItemKind } from '@rosemary/core';

/** A piece of work with points, in the order in which they are due. */
export interface ReportWork {
  /** Its column. */
  readonly id: string;
  readonly itemId: string | null;
  readonly kind: ItemKind | null;
  readonly title: string;
  readonly unitId: string | null;
  /** In thousandths. */
  readonly possible: number;
  readonly categoryId: string | null;
  readonly periodId: string | null;
  readonly taskTypeId: string | null;
  readonly dueAt: string | null;
}

export interface ReportItem {
  readonly id: string;
  readonly title: string;
  readonly unitId: string;
  readonly minutes: number;
  readonly dueAt: string | null;
  readonly periodId: string | null;
}

/** What a student has in a piece of work: a finished result in thousandths, or why there is none; null is not marked. */
export type ReportResult = number | 'exempt' | 'missing' | 'outside' | null;

export interface ReportPerson {
  readonly enrolmentId: string;
  readonly familyName: string;
  readonly givenName: string;
  readonly userName: string;
  readonly sectionId: string | null;
  readonly groupIds: readonly string[];
  /** One sign for each item, as core’s `STEPS` has them. */
  readonly steps: string;
  readonly lastVisit: string | null;
  /** The total so far as it is read everywhere, and as a number to order by. */
  readonly soFar: string | null;
  readonly results: readonly ReportResult[];
}

interface Named {
  readonly id: string;
  readonly title: string;
}

/** What the report of a course is made of. Everything said and drawn is computed from it by core, as sections, groups and weeks are chosen. */
export interface ProgressReport {
  readonly by: 'items' | 'minutes';
  readonly units: readonly Named[];
  readonly items: readonly ReportItem[];
  readonly works: readonly ReportWork[];
  readonly categories: readonly Named[];
  readonly periods: readonly Named[];
  readonly taskTypes: readonly Named[];
  readonly groups: readonly Named[];
  readonly people: readonly ReportPerson[];
  /** What does not count, to be said once. */
  readonly left: { readonly withdrawn: number; readonly samples: number; readonly drafts: number };
  readonly showsVisitsAgainstResults: boolean;
  readonly activityMonths: number;
}

/** An objective or a criterion, and what is aligned to it, with results by the places of students in `people`. */
export interface ReportObjective {
  readonly id: string;
  readonly parentId: string | null;
  readonly code: string;
  readonly statement: string;
  readonly parts: readonly AlignedPart[];
}
export interface ReportCriterion {
  readonly id: string;
  readonly title: string;
  readonly itemId: string;
  readonly parts: readonly AlignedPart[];
}
export interface ProgressObjectives {
  readonly objectives: readonly ReportObjective[];
  readonly criteria: readonly ReportCriterion[];
  /** The students of the places, as in the report. */
  readonly enrolmentIds: readonly string[];
  /** From which percent an objective counts as reached, and from which with merit, in thousandths. */
  readonly reachedPercent: number;
  readonly meritPercent: number;
}

/** A question that is aligned to an objective, with what the class earned in it. */
export interface AlignedQuestion {
  readonly questionId: string;
  readonly title: string;
  /** For each student with a result, the share of its points. */
  readonly shares: readonly (readonly [enrolmentId: string, share: number])[];
}
export interface AlignedQuestions {
  readonly questions: readonly AlignedQuestion[];
}

export interface ProgressRhythm {
  readonly startsOn: string;
  readonly days: number;
  readonly people: readonly { readonly enrolmentId: string; readonly active: readonly DayOfActivity[] }[];
}

/** How much each student was here, with the total so far: only where the school shows the two together. */
export interface ProgressVisits {
  readonly people: readonly {
    readonly enrolmentId: string;
    readonly days: number;
    readonly minutes: number;
    readonly soFar: string | null;
  }[];
}

export interface ClassProgress {
  readonly share: string | null;
}

export interface ProgressDetail {
  readonly name: string;
  readonly share: string;
  readonly items: readonly {
    readonly id: string;
    readonly kind: ItemKind;
    readonly title: string;
    readonly unit: string;
    readonly unitId: string;
    readonly isDone: boolean;
    readonly isOpen: boolean;
    readonly rule: string;
    readonly how: string;
    readonly minutes: number;
  }[];
}

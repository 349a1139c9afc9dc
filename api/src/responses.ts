import type {
  CellState,
  DocumentNode,
  DoneRule,
  Finding,
  ItemKind,
  ItemState,
  Ripple,
  Role,
  SchemeLevel,
  StackState,
  Term,
  TermWeek,
  Visibility,
  WeekLoad,
  WorkingLine,
} from '@rosemary/core';
import type { Anchor, ArrangementChange, BatchChange, PolicyChange } from './requests.ts';

/** Instants travel as ISO text, points and percentages as whole thousandths. */
export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  readonly pointers?: readonly { readonly field: string; readonly text: string }[];
  readonly current?: unknown;
  readonly id?: string;
}

export interface PersonName {
  readonly id: string;
  readonly givenName: string;
  readonly familyName: string;
}
export interface DemoPerson extends PersonName {
  readonly what: string;
}
export interface OwnCourse {
  readonly id: string;
  readonly code: string;
  readonly run: string;
  readonly title: string;
  readonly shortTitle: string;
  readonly role: Role;
  readonly isOpen: boolean;
}
export interface Me {
  readonly person: (PersonName & { readonly email: string; readonly isAdministrator: boolean; readonly theme: 'light' | 'dark' }) | null;
  readonly school: string;
  readonly isDemo: boolean;
  readonly demoPeople: readonly DemoPerson[];
  readonly now: string;
  readonly courses: readonly OwnCourse[];
}

/** Several items changed together, with what undoes it. */
export interface BatchDone {
  readonly plan: Plan;
  readonly undo: BatchChange;
}

/** One item of another course as it would come over. */
export interface CarryItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly dates: readonly { readonly name: string; readonly was: string; readonly will: string | null; readonly note: string }[];
  readonly mentions: readonly string[];
  /** It came before. */
  readonly existing: { readonly id: string; readonly title: string; readonly hasWork: boolean } | null;
}
export interface CarryPreview {
  readonly from: { readonly id: string; readonly title: string; readonly run: string; readonly term: Term };
  readonly to: Term;
  readonly units: readonly { readonly id: string; readonly title: string; readonly items: readonly CarryItem[] }[];
}
/** What came over, what changed, what could not. */
export interface CarryDone {
  readonly itemIds: readonly string[];
  readonly unitIds: readonly string[];
  readonly replacedIds: readonly string[];
  readonly skipped: number;
  readonly moved: readonly string[];
  readonly unplaced: readonly string[];
  readonly categories: readonly string[];
  readonly mentions: readonly string[];
}

/** The course programme as its reader may see it. */
export interface Programme {
  readonly title: string;
  readonly code: string;
  readonly term: Term;
  readonly timeZone: string;
  readonly sections: readonly string[];
  readonly staff: readonly { readonly name: string; readonly email: string; readonly role: string }[];
  readonly units: readonly {
    readonly id: string;
    readonly title: string;
    readonly items: readonly {
      readonly id: string;
      readonly kind: ItemKind;
      readonly title: string;
      readonly dueAt: string | null;
      readonly week: number | null;
      readonly time: string;
      readonly possible: number;
      readonly category: string | null;
    }[];
  }[];
  readonly policy: readonly string[];
  readonly text: DocumentNode | null;
  readonly version: number;
  readonly drafts: number;
  readonly canEdit: boolean;
}

/** What a check before opening found, and over how many items. */
export interface CourseCheck {
  readonly findings: readonly Finding[];
  readonly items: number;
}

/** A term of the school, as starting a course in it needs it. */
export interface TermChoice extends Term {
  readonly id: string;
}
export interface CourseStart {
  readonly terms: readonly TermChoice[];
  readonly taken: readonly { readonly code: string; readonly run: string }[];
}

/** Who moves by a change not yet made, with the scheme it would be read by. */
export interface RippleAnswer extends Ripple {
  readonly levels: readonly SchemeLevel[];
}

/** What changed in a course, told to those who look at it. `again` after a gap: read everything afresh. */
export type Topic = 'plan' | 'marks' | 'grades' | 'work' | 'people' | 'returned' | 'again';
export interface CourseEvent {
  readonly topic: Topic;
  readonly itemId: string | null;
  readonly enrolmentId: string | null;
  /** The browser tab the change came from: it knows already. */
  readonly tab: string | null;
  /** Who did it; empty for a job. */
  readonly by: string;
}

export interface LineItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly dueAt: string;
  readonly position: number;
  readonly category: number;
  readonly courseId: string;
  readonly points: number;
}
export interface TermLineData {
  readonly weeks: readonly TermWeek[];
  readonly today: number;
  readonly todayText: string;
  readonly items: readonly LineItem[];
  readonly loads: readonly WeekLoad[];
  readonly week: number;
}

export interface Slip {
  readonly id: string;
  readonly verb: string;
  readonly text: string;
  readonly detail: string;
  readonly strong: string;
  readonly after: string;
  readonly action: string;
  readonly to: string;
}
export interface DeskCourse {
  readonly id: string;
  readonly title: string;
  readonly about: string;
  readonly students: number;
  readonly toMark: number;
  readonly soFar: string | null;
}
export interface Desk {
  readonly heading: string;
  readonly summary: string;
  readonly line: TermLineData | null;
  readonly slips: readonly Slip[];
  readonly putOff: readonly { readonly slip: Slip; readonly back: string }[];
  readonly courses: readonly DeskCourse[];
}

export interface SectionName {
  readonly id: string;
  readonly title: string;
  readonly students: number;
}
export interface CourseHead {
  readonly id: string;
  readonly code: string;
  readonly run: string;
  readonly title: string;
  readonly shortTitle: string;
  readonly term: string;
  readonly timeZone: string;
  readonly role: Role;
  readonly isOpen: boolean;
  readonly about: string;
  readonly sections: readonly SectionName[];
  readonly line: TermLineData;
  readonly toMark: number;
  readonly now: string;
  readonly version: number;
  readonly seenAs: string | null;
}

export interface PlanItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly state: ItemState;
  readonly isDraft: boolean;
  readonly categoryId: string | null;
  readonly possible: number;
  readonly multiplier: number;
  readonly isExtraCredit: boolean;
  readonly counts: boolean;
  readonly isRequired: boolean;
  readonly announcedAt: string | null;
  readonly opensAt: string | null;
  readonly dueAt: string | null;
  readonly closesAt: string | null;
  readonly estimatedMinutes: number;
  readonly markingMinutes: number;
  readonly doneRule: DoneRule;
  readonly doneScore: number | null;
  readonly releaseMode: 'finished' | 'date' | 'hand';
  readonly releaseAt: string | null;
  readonly version: number;
  readonly warnings: readonly string[];
  readonly variants: readonly {
    readonly sectionId: string | null;
    readonly enrolmentId: string | null;
    readonly name: string;
    readonly opensAt: string | null;
    readonly dueAt: string | null;
    readonly closesAt: string | null;
  }[];
}
export interface PlanUnit {
  readonly id: string;
  readonly title: string;
  readonly version: number;
  readonly items: readonly PlanItem[];
}
export interface Plan {
  readonly units: readonly PlanUnit[];
  readonly categories: readonly { readonly id: string; readonly title: string }[];
  readonly arrangements: number;
  readonly term: Term;
}

export interface CourseFile {
  readonly id: string;
  readonly name: string;
  readonly size: number;
  readonly mediaType: string;
  readonly url: string;
}
export interface RubricView {
  readonly version: number;
  readonly criteria: readonly {
    readonly id: string;
    readonly title: string;
    readonly levels: readonly { readonly id: string; readonly title: string; readonly descriptor: string; readonly points: number }[];
  }[];
}
export interface AssignmentSetting {
  readonly version: number;
  readonly instructions: DocumentNode;
  readonly acceptsText: boolean;
  readonly acceptsFiles: boolean;
  readonly fileTypes: readonly string[];
  readonly mostFiles: number;
  readonly mostBytes: number;
  readonly attemptsAllowed: number | null;
}
export interface ItemDetail {
  readonly item: PlanItem;
  readonly page: { readonly document: DocumentNode; readonly version: number } | null;
  readonly assignment: AssignmentSetting | null;
  readonly rubric: RubricView | null;
}

export interface Receipt {
  readonly number: number;
  readonly handedInAt: string;
  readonly contentHash: string;
  readonly wordCount: number;
  readonly files: readonly CourseFile[];
  readonly lateText: string | null;
  readonly note: string;
}
export interface NoteView {
  readonly id: string;
  readonly attemptId: string;
  readonly fileId: string | null;
  readonly anchor: Anchor;
  readonly quote: string;
  readonly body: string;
  readonly author: string;
  readonly version: number;
}
export interface ReturnedWork {
  readonly scoreText: string | null;
  readonly possible: number;
  readonly working: WorkingLine | null;
  readonly choices: { readonly [criterionId: string]: string };
  readonly feedback: DocumentNode | null;
  readonly notes: readonly NoteView[];
  readonly state: CellState;
}
export interface AttemptView {
  readonly id: string;
  readonly number: number;
  readonly document: DocumentNode | null;
  readonly wordCount: number;
  readonly contentHash: string;
  readonly handedInAt: string;
  readonly note: string;
  readonly files: readonly CourseFile[];
  readonly lateText: string | null;
}
export interface DatesView {
  readonly opens: { readonly at: string | null; readonly reason: string };
  readonly due: { readonly at: string | null; readonly reason: string };
  readonly closes: { readonly at: string | null; readonly reason: string };
}
export interface StudentItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly visibility: Visibility;
  readonly dates: DatesView;
  readonly possible: number;
  readonly category: string | null;
  readonly isDone: boolean;
  readonly doneRule: DoneRule;
  readonly estimatedMinutes: number;
  readonly page: DocumentNode | null;
  readonly assignment: Omit<AssignmentSetting, 'version'> | null;
  readonly rubric: RubricView | null;
  readonly draft: {
    readonly document: DocumentNode | null;
    readonly version: number;
    readonly savedAt: string | null;
    readonly files: readonly CourseFile[];
  } | null;
  readonly canHandIn: boolean;
  readonly whyNot: string | null;
  readonly attempts: readonly AttemptView[];
  readonly returned: ReturnedWork | null;
}
export interface StudentEntry {
  readonly id: string;
  readonly courseId: string;
  readonly course: string;
  readonly unit: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly visibility: Visibility;
  readonly opensAt: string | null;
  readonly dueAt: string | null;
  readonly dueReason: string;
  readonly estimatedMinutes: number;
  readonly possible: number;
  readonly isDone: boolean;
  readonly isHandedIn: boolean;
  readonly isMissing: boolean;
  readonly scoreText: string | null;
  readonly releasedAt: string | null;
}
export interface ThisWeek {
  readonly heading: string;
  readonly due: readonly StudentEntry[];
  readonly overdue: readonly StudentEntry[];
  readonly back: readonly StudentEntry[];
  readonly next: readonly StudentEntry[];
  readonly timeZone: string;
  readonly now: string;
}
export interface StudentCourse {
  readonly units: readonly { readonly id: string; readonly title: string; readonly entries: readonly StudentEntry[] }[];
  readonly progress: string | null;
}
export interface TotalsText {
  readonly soFar: string | null;
  readonly floor: string | null;
  readonly reach: string | null;
  readonly letter: string | null;
}
export interface MyGrades {
  readonly totals: TotalsText;
  readonly working: readonly WorkingLine[];
  /** Empty where the teacher does not show them. */
  readonly floorWorking: readonly WorkingLine[];
  readonly reachWorking: readonly WorkingLine[];
  readonly says: string;
  readonly categories: readonly {
    readonly id: string;
    readonly title: string;
    readonly weightPercent: number | null;
    readonly rule: string;
    readonly percent: string | null;
    readonly working: readonly WorkingLine[];
    readonly items: readonly {
      readonly id: string;
      readonly kind: ItemKind;
      readonly title: string;
      readonly text: string;
      readonly state: CellState;
      readonly possible: number;
      readonly working: WorkingLine;
      readonly dueAt: string | null;
    }[];
  }[];
}

export interface MarkingList {
  readonly items: readonly {
    readonly id: string;
    readonly title: string;
    readonly unit: string;
    readonly dueAt: string | null;
    readonly handedIn: number;
    readonly students: number;
    readonly waits: number;
    readonly finished: number;
    readonly released: number;
    readonly oldest: string | null;
    readonly estimate: string | null;
    readonly pace: string;
  }[];
}
export interface StackEntry {
  readonly enrolmentId: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly section: string;
  readonly sectionId: string | null;
  readonly state: StackState;
  readonly handedInAt: string | null;
  readonly lateText: string | null;
  readonly scoreText: string | null;
  readonly words: number;
  readonly attempt: number;
  readonly files: number;
  readonly marker: string | null;
  readonly notes: number;
}
export interface Stack {
  readonly item: {
    readonly id: string;
    readonly title: string;
    readonly possible: number;
    readonly dueAt: string | null;
    readonly releaseMode: string;
  };
  readonly entries: readonly StackEntry[];
  readonly waits: number;
  readonly estimate: string | null;
  readonly pace: string;
  readonly releasable: number;
}
export interface MarkView {
  readonly version: number;
  readonly choices: { readonly [criterionId: string]: string };
  readonly score: number | null;
  readonly scoreReason: string;
  readonly feedback: DocumentNode | null;
  readonly state: 'draft' | 'finished' | 'released';
  readonly savedAt: string | null;
  readonly marker: string | null;
  readonly total: number | null;
  readonly fromRubric: number | null;
  readonly isComplete: boolean;
}
export interface Work {
  readonly entry: StackEntry;
  readonly attempts: readonly AttemptView[];
  readonly notes: readonly NoteView[];
  readonly mark: MarkView;
  readonly rubric: RubricView | null;
  readonly possible: number;
  readonly working: WorkingLine;
  readonly instructions: DocumentNode | null;
  readonly dates: DatesView;
  readonly acceptsText: boolean;
}

export interface BookItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly categoryId: string | null;
  readonly possible: number;
  readonly dueAt: string | null;
  readonly isDraft: boolean;
  readonly counts: boolean;
}
/** A cell travels as a short row: [state, raw, result text, released 1/0, late 1/0, last event, waiting 1/0]. */
export type BookCell = readonly [state: CellState, text: string, isReleased: 0 | 1, isLate: 0 | 1, eventId: string | null, waits: 0 | 1];
export interface BookRow {
  readonly enrolmentId: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly sectionId: string | null;
  readonly cells: readonly (BookCell | 0)[];
  readonly subtotals: readonly (string | null)[];
  readonly totals: TotalsText;
}
export interface Gradebook {
  readonly items: readonly BookItem[];
  readonly categories: readonly { readonly id: string; readonly title: string; readonly weightPercent: number }[];
  readonly rows: readonly BookRow[];
  readonly total: string;
  readonly weightsSum: number;
  readonly shares: readonly (readonly number[])[];
}
export interface CellSaved {
  readonly eventId: string | null;
  readonly row: BookRow;
}
export interface WorkingView {
  readonly who: string;
  readonly title: string;
  readonly rule: string;
  readonly lines: readonly WorkingLine[];
  readonly inTotal: string | null;
}
export interface HistoryEntry {
  readonly eventId: string;
  readonly at: string;
  readonly who: string;
  readonly what: string;
  readonly source: string;
  readonly reason: string;
  readonly canUndo: boolean;
}
export interface PolicyView extends PolicyChange {
  readonly weightsSum: number;
  readonly totals: readonly { readonly id: string; readonly name: string; readonly percent: string | null }[];
}
export type RippleView = Ripple;

export interface ProgressView {
  readonly units: readonly { readonly id: string; readonly title: string }[];
  readonly people: readonly {
    readonly enrolmentId: string;
    readonly name: string;
    readonly sectionId: string | null;
    readonly units: readonly (number | null)[];
    readonly all: number | null;
    readonly lastVisit: string | null;
    readonly soFar: string | null;
  }[];
  readonly classShare: number | null;
  readonly furthest: { readonly name: string; readonly share: number } | null;
  readonly highest: string | null;
  readonly lowest: string | null;
  readonly by: 'items' | 'minutes';
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

export interface RosterMember {
  readonly enrolmentId: string;
  readonly personId: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly email: string;
  readonly role: Role;
  readonly sectionId: string | null;
  readonly section: string;
  readonly isSample: boolean;
  readonly withdrawnAt: string | null;
  readonly arrangements: readonly ArrangementChange[];
  readonly version: number;
}
export interface Roster {
  readonly members: readonly RosterMember[];
  readonly sections: readonly { readonly id: string; readonly title: string }[];
  readonly people: readonly (PersonName & { readonly email: string })[];
  readonly canEdit: boolean;
}

export interface School {
  readonly title: string;
  readonly terms: readonly {
    readonly id: string;
    readonly title: string;
    readonly startsOn: string;
    readonly endsOn: string;
    readonly weeks: number;
    readonly holidays: readonly { readonly title: string; readonly startsOn: string; readonly endsOn: string }[];
  }[];
  readonly people: readonly (PersonName & { readonly email: string; readonly isAdministrator: boolean })[];
  readonly courses: readonly {
    readonly id: string;
    readonly code: string;
    readonly run: string;
    readonly title: string;
    readonly term: string;
    readonly students: number;
    readonly staff: string;
    readonly isOpen: boolean;
  }[];
}

export interface Found {
  readonly what: string;
  /** A little of the text the words stand in; empty where they stand in the title. */
  readonly around: string;
  readonly title: string;
  readonly where: string;
  readonly to: string;
}

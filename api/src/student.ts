import type {
  CellState,
  ClassStatistics,
  DocumentNode,
  DoneRule,
  ItemKind,
  SchemeLevel,
  SupposeFacts,
  Visibility,
  WorkingLine,
} from '@rosemary/core';
import { Joi, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';
import type { AssignmentSetting, RubricView } from './assignment.ts';
import type { Adjustment } from './adjustments.ts';
import type { OwnQuiz } from './quiz.ts';
import type { CourseFile, LinkView, ShownFileView } from './files.ts';
import type { NoteView } from './notes.ts';
import type { OwnRevision, WorkWord } from './revision.ts';
import type { CoursePicture } from './settings.ts';

/** How long an item was open and in sight since this was last told, and whether something was typed; no seconds say that a visit begins. */
export interface Visit {
  readonly seconds: number;
  readonly hasTyped?: boolean;
}

export const visit = Joi.object<Visit, true>({ seconds: whole(0, 3600).required(), hasTyped: Joi.boolean() });

export interface Tick {
  readonly isTicked: boolean;
}
export const tick = Joi.object<Tick, true>({ isTicked: Joi.boolean().required() });

/** An address as it is typed, kept until it is handed in. */
export interface DraftLink {
  readonly link: string;
}
export const draftLink = Joi.object<DraftLink, true>({
  link: Joi.string().trim().allow('').max(LIMITS.address).required().label('Address'),
});

export interface HandIn {
  readonly note: string;
  readonly key: string;
  readonly version: number;
}

export const handIn = Joi.object<HandIn, true>({
  note: Joi.string().allow('').max(LIMITS.note).required().label('Note'),
  key: Joi.string().min(8).max(80).required(),
  version: version(),
});

export interface Receipt {
  readonly number: number;
  readonly handedInAt: string;
  readonly contentHash: string;
  readonly wordCount: number;
  readonly files: readonly CourseFile[];
  readonly lateText: string | null;
  readonly note: string;
  readonly link: string;
}

/** Work that was handed in and taken back again. */
export interface TakenBack {
  readonly id: string;
  readonly at: string;
  readonly document: DocumentNode | null;
  readonly note: string;
  readonly link: string;
}

export interface ReturnedWork {
  readonly scoreText: string | null;
  /** How its student reads it, where that is not its points. */
  readonly reads: string | null;
  readonly possible: number;
  readonly working: WorkingLine | null;
  readonly choices: { readonly [criterionId: string]: string };
  readonly feedback: DocumentNode | null;
  readonly given: { readonly [criterionId: string]: number };
  readonly comments: { readonly [criterionId: string]: string };
  readonly feedbackFiles: readonly CourseFile[];
  readonly notes: readonly NoteView[];
  readonly state: CellState;
  /** More or less than the group got, with the reason. */
  readonly adjustment: Adjustment | null;
  /** How the class did, where the teacher shows it; never of fewer than five results. */
  readonly statistics: ClassStatistics | null;
}

/** The group a student works in, and where they may still choose, what there is to choose from. */
export interface OwnGroup {
  readonly setId: string;
  readonly groupId: string | null;
  readonly title: string | null;
  readonly members: readonly string[];
  readonly choices: readonly {
    readonly id: string;
    readonly title: string;
    readonly members: readonly string[];
    readonly isFull: boolean;
  }[];
  /** What one wrote before the group's draft took its place. */
  readonly ownDraft: { readonly document: DocumentNode; readonly savedAt: string | null } | null;
}

/** What stood at a handed-in address when it came in, or why nothing could be read. */
export interface LinkCopy {
  readonly state: 'kept' | 'refused' | 'away' | 'inside' | 'large';
  readonly said: string;
  readonly triedAt: string;
  readonly title: string;
  readonly document: DocumentNode | null;
  readonly file: CourseFile | null;
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
  /** The address handed in, or empty. */
  readonly link: string;
  /** Null until it was looked at. */
  readonly linkCopy: LinkCopy | null;
  /** Who handed it in, where it was somebody else. */
  readonly by: string | null;
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
  /** Why it is not open yet; empty where it is. */
  readonly waitsFor: string;
  /** What finishes it, in words. */
  readonly doneWhen: string;
  readonly possible: number;
  readonly category: string | null;
  readonly isDone: boolean;
  readonly doneRule: DoneRule;
  readonly estimatedMinutes: number;
  readonly page: DocumentNode | null;
  readonly link: LinkView | null;
  readonly file: ShownFileView | null;
  readonly assignment: Omit<AssignmentSetting, 'version'> | null;
  readonly rubric: RubricView | null;
  readonly draft: {
    readonly document: DocumentNode | null;
    readonly version: number;
    readonly savedAt: string | null;
    readonly link: string;
    readonly files: readonly CourseFile[];
  } | null;
  readonly canHandIn: boolean;
  readonly whyNot: string | null;
  readonly attempts: readonly AttemptView[];
  readonly quiz: OwnQuiz | null;
  readonly group: OwnGroup | null;
  /** Where its words stand elsewhere is shown to its student. */
  readonly showsMatches: boolean;
  /** What is handed in can be taken back now. */
  /** What was taken back, the latest first. */
  readonly takenBack: readonly TakenBack[];
  readonly canWithdraw: boolean;
  readonly returned: ReturnedWork | null;
  readonly revision: OwnRevision | null;
  readonly words: readonly WorkWord[];
  /** Students review it: what they are to give and what they got is asked for by itself. */
  readonly hasPeers: boolean;
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
  /** Why it is not open yet; empty where it is. */
  readonly waitsFor: string;
  /** Posts of a discussion not read yet. */
  readonly unread: number;
  readonly estimatedMinutes: number;
  readonly possible: number;
  readonly isDone: boolean;
  readonly isHandedIn: boolean;
  readonly isMissing: boolean;
  /** Written in a room: nothing of it is handed in here. */
  readonly isOnPaper: boolean;
  readonly scoreText: string | null;
  readonly releasedAt: string | null;
}

/** Reviews of others’ works that a student is to give. */
export interface ReviewsToGive {
  readonly itemId: string;
  readonly courseId: string;
  readonly course: string;
  readonly title: string;
  readonly dueAt: string;
  readonly given: number;
  readonly all: number;
  readonly isPast: boolean;
}

export interface ThisWeek {
  readonly heading: string;
  readonly due: readonly StudentEntry[];
  readonly overdue: readonly StudentEntry[];
  readonly reviews: readonly ReviewsToGive[];
  readonly back: readonly StudentEntry[];
  readonly next: readonly StudentEntry[];
  readonly timeZone: string;
  readonly now: string;
}

export interface StudentCourse {
  readonly picture: CoursePicture | null;
  /** The first of the standing pages opens the course. */
  readonly first: { readonly id: string; readonly title: string; readonly document: DocumentNode | null } | null;
  /** The other pages that stand outside the units. */
  readonly standing: readonly StudentEntry[];
  readonly units: readonly { readonly id: string; readonly title: string; readonly entries: readonly StudentEntry[] }[];
  readonly progress: string | null;
  /** Whether it may be asked how far the class is. */
  readonly showsClassProgress: boolean;
}

export interface TotalsText {
  readonly soFar: string | null;
  readonly floor: string | null;
  readonly reach: string | null;
  readonly letter: string | null;
}

/** A final grade as its student sees it, once the teacher shows it. */
export interface OwnFinal {
  readonly kind: 'calculated' | 'agreed';
  readonly letter: string | null;
  readonly percent: string | null;
  readonly at: string | null;
  /** Until when an incomplete may be finished, and what it becomes then. */
  readonly expiresOn: string | null;
  readonly lapsesTo: string | null;
  /** Who can be asked about it: the instructor of record. */
  readonly askId: string | null;
}
export interface MyGrades {
  readonly final: OwnFinal | null;
  readonly totals: TotalsText;
  readonly working: readonly WorkingLine[];
  /** Empty where the teacher does not show them. */
  readonly floorWorking: readonly WorkingLine[];
  readonly reachWorking: readonly WorkingLine[];
  readonly says: string;
  readonly levels: readonly SchemeLevel[];
  readonly passPercent: number | null;
  /** The totals of the grading periods, where there are any; each with its working. */
  readonly periods: readonly {
    readonly id: string;
    readonly title: string;
    readonly weightPercent: number;
    readonly percent: string | null;
    readonly working: readonly WorkingLine[];
  }[];
  /** What the totals are made from, to be worked out again with results that are only supposed. */
  readonly suppose: SupposeFacts;
  readonly categories: readonly {
    readonly id: string;
    readonly title: string;
    readonly weightPercent: number | null;
    readonly rule: string;
    readonly percent: string | null;
    readonly working: readonly WorkingLine[];
    readonly columns: readonly {
      readonly id: string;
      /** The item it is of; null where it stands in the gradebook alone. */
      readonly itemId: string | null;
      readonly kind: ItemKind | null;
      readonly title: string;
      readonly text: string;
      readonly state: CellState;
      readonly possible: number;
      readonly working: WorkingLine;
      readonly dueAt: string | null;
      readonly isExtraCredit: boolean;
      /** What was written for the student with the result; empty where nothing was. */
      readonly comment: string;
      /** How the class did, where the teacher shows it and there are results enough. */
      readonly statistics: ClassStatistics | null;
    }[];
  }[];
}

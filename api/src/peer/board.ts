import type { DocumentNode, PeerChoices, PeerFault, ReviewSign, ReviewState, ShownHow, Strictness, WorkingLine } from '@rosemary/core';
import type { RubricView } from '../assignment.ts';
import { Joi, id, version } from '../joi.ts';
import type { ClosingWord, ShowingWork } from './after.ts';
import { type ReviewContent, type ReviewNote, reviewContentShape } from './review.ts';
import type { PeerDates } from './setting.ts';

/** A review on the board. */
export interface BoardReview {
  readonly id: string;
  readonly reviewerId: string | null;
  readonly workId: string;
  readonly role: 'peer' | 'self' | 'teacher';
  readonly state: ReviewState;
  readonly isByHand: boolean;
  /** Thousandths on the form; null where it gives none. */
  readonly total: number | null;
  readonly signs: readonly ReviewSign[];
  readonly keepsCredit: boolean;
  readonly reportedWhy: string;
}

export interface BoardLine {
  readonly enrolmentId: string;
  /** To whom a message goes; null while the name is hidden. */
  readonly personId: string | null;
  readonly name: string;
  readonly sectionId: string | null;
  readonly isLate: boolean;
  /** Null: nothing is handed in. */
  readonly workId: string | null;
  readonly isMissing: boolean;
  readonly owes: number;
  /** Sample works they compared with the teacher’s. */
  readonly practised: number;
  /** What the work and the reviewing come to now, in points; null where nothing can be said yet. */
  readonly work: number | null;
  readonly reviewing: number | null;
  readonly bias: number | null;
  readonly biasWithin: number | null;
  readonly weight: number | null;
}

export interface BoardWork {
  readonly id: string;
  readonly authors: readonly string[];
  readonly wanted: number;
  /** Why it has fewer reviews than it is to get; null where it has them all. */
  readonly isOpenBecause: string | null;
  /** Consensus or mean, and the plain mean, in thousandths of the form; null where there are no reviews. */
  readonly value: number | null;
  readonly mean: number | null;
  readonly isShown: boolean;
  /** Handed in once more after the reviews were out. */
  readonly isRevised: boolean;
}

/** Everything a teacher watches of a peer review. */
export interface PeerBoard {
  readonly item: {
    readonly id: string;
    readonly title: string;
    readonly isGroupWork: boolean;
    readonly reviewed: 'works' | 'posts' | 'essays';
  };
  readonly words: string;
  readonly dates: PeerDates & { readonly worksDueAt: string | null };
  readonly faults: readonly PeerFault[];
  readonly drawnAt: string | null;
  readonly resultsOutAt: string | null;
  readonly lastDrawId: string | null;
  readonly formMost: number;
  readonly workPossible: number;
  readonly reviewingPossible: number | null;
  readonly samples: number;
  readonly closing: ClosingWord;
  readonly workFrom: PeerChoices['workFrom'];
  readonly reviewingFrom: PeerChoices['reviewingFrom'];
  readonly lines: readonly BoardLine[];
  readonly works: readonly BoardWork[];
  readonly reviews: readonly BoardReview[];
  readonly agreement: {
    readonly kappa: number | null;
    readonly pairs: number;
    readonly icc: { readonly value: number; readonly low: number; readonly high: number } | null;
    readonly works: number;
    readonly working: readonly WorkingLine[];
  };
  /** Results that would come out otherwise now than they were given. */
  readonly outdated: number;
}

/** One work with its reviews and the working of its result, and of its authors’ reviewing. */
export interface PeerWork {
  readonly id: string;
  readonly authors: readonly string[];
  /** By whom the work is reached where works are marked. */
  readonly leadId: string;
  /** What the reviews come to, by criterion; null where none judged it. */
  readonly criteria: readonly { readonly id: string; readonly title: string; readonly most: number; readonly result: number | null }[];
  readonly form: RubricView;
  readonly reviews: readonly (ReviewContent & {
    readonly id: string;
    readonly by: string;
    readonly role: 'peer' | 'self' | 'teacher';
    readonly state: ReviewState;
    readonly points: { readonly [criterionId: string]: number };
    readonly total: number | null;
    readonly seconds: number;
    readonly wordCount: number;
    readonly signs: readonly ReviewSign[];
    readonly notes: readonly ReviewNote[];
    readonly answered: readonly string[];
    readonly setAsideWhy: string;
    readonly keepsCredit: boolean;
    readonly answer: string;
    readonly isThanked: boolean;
    readonly reportedWhy: string;
  })[];
  readonly own: (ReviewContent & { readonly version: number; readonly handedInAt: string | null }) | null;
  /** What its authors allow together. */
  readonly leave: { readonly toClass: ShownHow; readonly toLater: boolean };
  readonly showing: (ShowingWork & { readonly version: number }) | null;
  /** The text that was reviewed and the one handed in since, where it was revised. */
  readonly revised: { readonly before: DocumentNode | null; readonly after: DocumentNode | null; readonly number: number } | null;
  readonly working: WorkingLine | null;
}

/** How one student’s reviewing comes out. */
export interface ReviewerWorking {
  readonly working: WorkingLine | null;
  /** How their bias and their weight come out; empty where nothing can be said. */
  readonly traits: readonly WorkingLine[];
  readonly reviews: number;
}

export interface PeerDraw {
  /** Also asks those who have given all theirs for one more, where works have too few. */
  readonly asksForMore: boolean;
  /** Takes works from those who are past their due date and begun nothing. */
  readonly dropsPast: boolean;
}

export const peerDraw = Joi.object<PeerDraw, true>({ asksForMore: Joi.boolean().required(), dropsPast: Joi.boolean().required() });

export interface PeerPairing {
  readonly reviewerId: string;
  readonly workId: string;
}

export const peerPairing = Joi.object<PeerPairing, true>({ reviewerId: id().required(), workId: id().required() });

export interface SettingAside {
  readonly isAside: boolean;
  readonly reason: string;
  readonly keepsCredit: boolean;
}

export const settingAside = Joi.object<SettingAside, true>({
  isAside: Joi.boolean().required(),
  reason: Joi.string()
    .trim()
    .max(600)
    .required()
    .label('Reason')
    .when('isAside', { is: false, then: Joi.string().allow('') }),
  keepsCredit: Joi.boolean().required(),
});

export interface TeacherAssessment extends ReviewContent {
  readonly version: number;
  /** It counts: every criterion is judged. Else it is kept as a draft. */
  readonly isGiven: boolean;
}

export const teacherAssessment = Joi.object<TeacherAssessment, true>({
  version: version(),
  ...reviewContentShape,
  isGiven: Joi.boolean().required(),
});

/** What each strictness would give on the reviews that there are. */
export interface StrictnessView {
  readonly strictness: Strictness;
  readonly words: string;
  readonly mean: number | null;
  readonly least: number | null;
}

import {
  AMONG,
  DRAWN_WHEN,
  type DocumentNode,
  OWN_WORK,
  type PeerChoices,
  type PeerFault,
  type ReviewDoor,
  type ReviewRole,
  type ReviewSign,
  type ReviewState,
  REVIEWING_FROM,
  REVIEWS_OPEN,
  SAMPLES_WHEN,
  type SamplesWhen,
  SHOWN_HOW,
  type ShownHow,
  STRICTNESSES,
  type Strictness,
  TEACHER_COUNTS,
  WORK_FROM,
  type WorkingLine,
} from '@rosemary/core';
import type { RubricView } from './assignment.ts';
import type { CourseFile } from './files.ts';
import { document, id, instant, Joi, points, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';
import { anchor, type Anchor } from './notes.ts';

const word = <T extends string>(all: readonly T[], label: string): Joi.StringSchema =>
  Joi.string()
    .valid(...all)
    .required()
    .label(label);

/** The dates of a peer review that hold for everybody. */
export interface PeerDates {
  readonly reviewsOpenAt: string | null;
  readonly reviewsDueAt: string | null;
  readonly drawAt: string | null;
  readonly resultsAt: string | null;
  /** Until when a work can be revised once its reviews are out; null: it is not. */
  readonly revisionDueAt: string | null;
}

/** Dates of the reviews for a section, a group or a student alone. */
export interface ReviewDate {
  readonly sectionId: string | null;
  readonly enrolmentId: string | null;
  readonly groupId: string | null;
  readonly opensAt: string | null;
  readonly dueAt: string | null;
}

/** What the results of reviewing are worth, and where they count; null where they stand in no column. */
export interface ReviewingColumn {
  readonly possible: number;
  readonly categoryId: string | null;
}

/** Everything that is set of a peer review. */
export interface PeerChange extends PeerChoices, PeerDates {
  readonly version: number;
  readonly isOn: boolean;
  readonly prompt: DocumentNode;
  readonly groupSetId: string | null;
  readonly reviewing: ReviewingColumn | null;
  readonly otherDates: ReviewDate[];
}

export const peerChange = Joi.object<PeerChange, true>({
  version: version(),
  isOn: Joi.boolean().required(),
  prompt: document().required().label('What to look for'),
  reviewsPerWork: whole(1, 10).required().label('Reviews each work gets'),
  reviewsPerStudent: whole(1, 10).required().label('Reviews each student gives'),
  ownWork: word(OWN_WORK, 'Own work'),
  showsAuthors: Joi.boolean().required(),
  showsReviewers: Joi.boolean().required(),
  needsOwnWork: Joi.boolean().required(),
  among: word(AMONG, 'Among whom'),
  groupSetId: id().allow(null).required().label('Groups'),
  reviewsOpen: word(REVIEWS_OPEN, 'Reviews open'),
  drawing: word(DRAWN_WHEN, 'When it is drawn'),
  fitsLateWorks: Joi.boolean().required(),
  takesLateReviews: Joi.boolean().required(),
  leastWords: whole(0, 500).required().label('Words asked for'),
  workFrom: word(WORK_FROM, 'Where the result of the work comes from'),
  teacherCounts: word(TEACHER_COUNTS, 'What the teacher’s assessment counts for'),
  teacherWeight: whole(2, 10).required().label('As how many reviews the teacher’s counts'),
  reviewingFrom: word(REVIEWING_FROM, 'Where the result of the reviewing comes from'),
  strictness: word(STRICTNESSES, 'Strictness'),
  samples: word(SAMPLES_WHEN, 'Sample works'),
  reviewsOpenAt: instant().required().label('Reviews open'),
  reviewsDueAt: instant().required().label('Reviews due'),
  drawAt: instant().required().label('Drawn at'),
  resultsAt: instant().required().label('Results'),
  revisionDueAt: instant().required().label('Revision due'),
  reviewing: Joi.object({
    possible: points().min(1).required().label('Points for reviewing'),
    categoryId: id().allow(null).required().label('Category'),
  })
    .allow(null)
    .required(),
  otherDates: Joi.array()
    .max(LIMITS.variants)
    .required()
    .label('Other dates')
    .items(
      Joi.object({
        sectionId: id().allow(null).required(),
        enrolmentId: id().allow(null).required(),
        groupId: id().allow(null).required(),
        opensAt: instant().required(),
        dueAt: instant().required(),
      }),
    ),
});

/** How a peer review is set, for whoever teaches the course. Version 0: it was never set. */
export interface PeerSetting {
  readonly item: {
    readonly id: string;
    readonly title: string;
    readonly possible: number;
    readonly dueAt: string | null;
    readonly isDraft: boolean;
    readonly reviewed: 'works' | 'posts' | 'essays';
  };
  readonly setting: PeerChange;
  readonly form: RubricView | null;
  readonly faults: readonly PeerFault[];
  readonly drawnAt: string | null;
  readonly resultsOutAt: string | null;
  /** Reviews that were handed in: what they were given under stays with them. */
  readonly given: number;
  readonly students: number;
  readonly works: number;
  readonly samples: readonly SampleLine[];
  readonly groupSets: readonly { readonly id: string; readonly title: string }[];
  readonly categories: readonly { readonly id: string; readonly title: string }[];
}

/** What a reviewer chose and wrote. */
export interface ReviewContent {
  readonly choices: { readonly [criterionId: string]: string };
  /** Points within a range, in thousandths, or how many were counted. */
  readonly given: { readonly [criterionId: string]: number };
  readonly comments: { readonly [criterionId: string]: string };
  readonly words: string;
}
export interface ReviewChange extends ReviewContent {
  readonly version: number;
  /** How long it was worked on since it was last saved. */
  readonly seconds: number;
}
const content = {
  choices: Joi.object().pattern(id(), id()).max(LIMITS.criteria).required(),
  given: Joi.object().pattern(id(), whole(0, 10_000_000)).max(LIMITS.criteria).required().label('What was typed at a criterion'),
  comments: Joi.object()
    .pattern(id(), Joi.string().allow('').max(LIMITS.noteBody))
    .max(LIMITS.criteria)
    .required()
    .label('Words on a criterion'),
  words: Joi.string().allow('').max(20_000).required().label('Words'),
};
export const reviewChange = Joi.object<ReviewChange, true>({ version: version(), ...content, seconds: whole(0, 3600).required() });

export interface ReviewHandIn {
  readonly version: number;
}
export const reviewHandIn = Joi.object<ReviewHandIn, true>({ version: version() });

/** A work as a reviewer reads it. */
export interface ReadWorkView {
  /** Null where it is no attempt, but posts or answers of a quiz: then there are no notes at its words. */
  readonly attemptId: string | null;
  readonly document: DocumentNode | null;
  readonly wordCount: number;
  readonly link: string;
  readonly files: readonly CourseFile[];
}

export interface ReviewNote {
  readonly id: string;
  readonly attemptId: string;
  readonly fileId: string | null;
  readonly anchor: Anchor;
  readonly quote: string;
  readonly body: string;
  readonly version: number;
}
/** A note is written, changed and taken off by the same address; an empty one is taken off. */
export interface ReviewNoteChange {
  readonly fileId: string | null;
  readonly anchor: Anchor;
  readonly quote: string;
  readonly body: string;
  readonly version: number;
}
export const reviewNoteChange = Joi.object<ReviewNoteChange, true>({
  fileId: id().allow(null).required(),
  anchor: anchor.required(),
  quote: Joi.string().allow('').max(2000).required(),
  body: Joi.string().trim().allow('').max(LIMITS.noteBody).required().label('Note'),
  version: version(),
});

/** One line of what a student is to review. */
export interface OwedLine {
  readonly id: string;
  readonly role: ReviewRole;
  /** “First work”; or whose it is, where names are seen. */
  readonly title: string;
  readonly state: ReviewState;
  readonly door: ReviewDoor;
}

/** A review that somebody got, once results are out. */
export interface ReceivedReview extends ReviewContent {
  readonly id: string;
  readonly by: string;
  readonly isOwn: boolean;
  readonly isTeacher: boolean;
  readonly form: RubricView;
  readonly total: number | null;
  readonly notes: readonly ReviewNote[];
  /** What its author took up: notes and criteria by identifier. */
  readonly answered: readonly string[];
  readonly answer: string;
  readonly isThanked: boolean;
  readonly reportedWhy: string;
  readonly answerVersion: number;
}
export interface ReviewAnswer {
  readonly version: number;
  readonly answer: string;
  readonly isThanked: boolean;
  readonly reportedWhy: string;
}
export const reviewAnswer = Joi.object<ReviewAnswer, true>({
  version: version(),
  answer: Joi.string().allow('').max(4000).required().label('Answer'),
  isThanked: Joi.boolean().required(),
  reportedWhy: Joi.string().trim().allow('').max(2000).required().label('Why it is reported'),
});

/** A peer review as a student sees it: when, what to give, what came. */
export interface OwnPeer {
  readonly prompt: DocumentNode;
  readonly worksDueAt: string | null;
  readonly reviewsOpenAt: string | null;
  readonly reviewsDueAt: string | null;
  readonly resultsAt: string | null;
  readonly owes: number;
  readonly owed: readonly OwedLine[];
  readonly samples: readonly OwedLine[];
  readonly samplesWhen: SamplesWhen;
  /** Why there is nothing to review; null where there is. */
  readonly waits: string | null;
  readonly showsAuthors: boolean;
  readonly showsReviewers: boolean;
  /** Null until results are out. */
  readonly received: readonly ReceivedReview[] | null;
  readonly work: WorkingLine | null;
  readonly reviewing: WorkingLine | null;
  /** What they allow with their own work; null while there is none. */
  readonly leave: OwnLeave | null;
  readonly shown: readonly ShownWork[];
  readonly closing: DocumentNode | null;
  /** Until when the work can be revised after its reviews; null where it cannot. */
  readonly revisionDueAt: string | null;
}

/** One review as the student who gives it sees it. */
export interface OwnReview extends ReviewContent {
  readonly id: string;
  readonly itemTitle: string;
  readonly title: string;
  readonly role: ReviewRole;
  readonly state: ReviewState;
  readonly door: ReviewDoor;
  readonly dueAt: string | null;
  readonly prompt: DocumentNode;
  readonly form: RubricView;
  readonly leastWords: number;
  readonly work: ReadWorkView;
  readonly notes: readonly ReviewNote[];
  readonly savedAt: string | null;
  readonly handedInAt: string | null;
  readonly version: number;
}

/** A sample work as the setting lists it. */
export interface SampleLine {
  readonly id: string;
  readonly title: string;
  readonly wordCount: number;
  /** Criteria that give points and that the teacher has not judged yet, by title; students see it once there are none. */
  readonly unjudged: readonly string[];
  /** Students who compared theirs with the teacher’s. */
  readonly practised: number;
}
/** A sample work with the teacher’s own assessment, for those who teach. */
export interface PeerSample extends ReviewContent {
  readonly id: string;
  readonly itemTitle: string;
  readonly title: string;
  readonly document: DocumentNode;
  /** “Written here”, or from where it was taken. */
  readonly origin: string;
  readonly form: RubricView;
  readonly unjudged: readonly string[];
  readonly practised: number;
  readonly version: number;
}
export interface SampleChange extends ReviewContent {
  readonly version: number;
  readonly title: string;
  readonly document: DocumentNode;
}
export const sampleChange = Joi.object<SampleChange, true>({
  version: version(),
  title: Joi.string().trim().min(1).max(200).required().label('Title'),
  document: document().required().label('The work'),
  ...content,
});
/** Nothing is taken: a sample work is written here. */
export interface NewSample {
  readonly from: {
    readonly submissionId: string;
    /** Where its authors said nothing here: the teacher says that they gave leave elsewhere. */
    readonly saysLeave: boolean;
  } | null;
}
export const newSample = Joi.object<NewSample, true>({
  from: Joi.object({ submissionId: id().required(), saysLeave: Joi.boolean().required() }).allow(null).required(),
});
export interface SampleRemoval {
  readonly isRemoved: boolean;
}
export const sampleRemoval = Joi.object<SampleRemoval, true>({ isRemoved: Joi.boolean().required() });
/** A work of another course that could be a sample. */
export interface SampleSource {
  readonly submissionId: string;
  readonly course: string;
  readonly itemTitle: string;
  readonly author: string;
  /** Points that were given out, in thousandths. */
  readonly result: number | null;
  readonly possible: number;
  readonly wordCount: number;
  readonly files: number;
  readonly hasLeave: boolean;
}
/** A sample work as a student practises on it. */
export interface OwnSample extends ReviewContent {
  readonly id: string;
  readonly itemTitle: string;
  readonly title: string;
  readonly door: ReviewDoor;
  readonly prompt: DocumentNode;
  readonly form: RubricView;
  readonly document: DocumentNode;
  readonly wordCount: number;
  readonly savedAt: string | null;
  readonly handedInAt: string | null;
  readonly version: number;
  /** The teacher’s own; null until the student’s is whole and compared. */
  readonly teacher: ReviewContent | null;
}

/** What an author lets be done with a work. */
export interface OwnLeave {
  readonly version: number;
  readonly toClass: ShownHow;
  readonly toLater: boolean;
}
export const ownLeave = Joi.object<OwnLeave, true>({
  version: version(),
  toClass: word(SHOWN_HOW, 'Who may read your work'),
  toLater: Joi.boolean().required(),
});

/** A work that is shown to the class. */
export interface ShownWork {
  readonly workId: string;
  /** Whose it is, or “A work of your class”. */
  readonly by: string;
  readonly isOwn: boolean;
  readonly words: string;
}
/** A shown work as a student reads it. */
export interface ShownWorkView extends ShownWork {
  readonly itemTitle: string;
  readonly work: ReadWorkView;
}
export interface ShowingWork {
  readonly isShown: boolean;
  readonly isNamed: boolean;
  /** Where its authors said nothing here: the teacher says that they gave leave elsewhere. */
  readonly saysLeave: boolean;
  readonly words: string;
}
export const showingWork = Joi.object<ShowingWork, true>({
  isShown: Joi.boolean().required(),
  isNamed: Joi.boolean().required(),
  saysLeave: Joi.boolean().required(),
  words: Joi.string().trim().allow('').max(4000).required().label('Words on it'),
});

/** The teacher’s closing word to everybody. */
export interface ClosingWord {
  readonly version: number;
  readonly document: DocumentNode | null;
}
export const closingWord = Joi.object<ClosingWord, true>({
  version: version(),
  document: document().allow(null).required().label('Closing word'),
});

/** Which point of a review its author took up: a note, or the words on a criterion. */
export interface PointAnswer {
  readonly point: { readonly noteId: string } | { readonly criterionId: string };
  readonly isAnswered: boolean;
}
export const pointAnswer = Joi.object<PointAnswer, true>({
  point: Joi.alternatives(Joi.object({ noteId: id().required() }), Joi.object({ criterionId: id().required() })).required(),
  isAnswered: Joi.boolean().required(),
});

/** What came of saving a review. */
export interface ReviewSaved {
  readonly version: number;
  readonly savedAt: string;
}

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
export const teacherAssessment = Joi.object<TeacherAssessment, true>({ version: version(), ...content, isGiven: Joi.boolean().required() });

/** What each strictness would give on the reviews that there are. */
export interface StrictnessView {
  readonly strictness: Strictness;
  readonly words: string;
  readonly mean: number | null;
  readonly least: number | null;
}

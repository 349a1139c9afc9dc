import type {
  AskedQuestion,
  Counting,
  DocumentNode,
  Expected,
  QuestionFeedback,
  QuestionKind,
  QuestionLevel,
  Reviewed,
} from '@rosemary/core';
import { document, id, instant, Joi, points, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';
import type { QuizShareView } from './quizShare.ts';
import { answer, newQuestionShape, type GivenAnswer, type NewQuestion, type QuestionView } from './question.ts';

/** When something of a result is shown; a window has its instants in writing. */
export type ReviewWhen =
  { readonly kind: 'never' | 'at once' | 'closed' } | { readonly kind: 'window'; readonly from: string; readonly to: string };

export interface QuizSetting {
  readonly version: number;
  readonly taken: 'screen' | 'paper' | 'both';
  readonly instructions: DocumentNode;
  readonly layout: 'one' | 'page';
  readonly mayGoBack: boolean;
  readonly shufflesSections: boolean;
  readonly shufflesAnswers: boolean;
  readonly limitMinutes: number | null;
  readonly atEnd: 'hand in' | 'flag';
  readonly attemptsAllowed: number | null;
  readonly counted: Counting;
  readonly retryUntil: number | null;
  readonly review: { readonly [what in Reviewed]: ReviewWhen };
  readonly allowsCalculator: boolean;
  readonly accessCode: string;
  readonly allowedAddresses: readonly string[];
  readonly recordsLeaving: boolean;
  readonly discouragesCopying: boolean;
  readonly passPoints: number | null;
  readonly meritPoints: number | null;
}
export interface DrawWish {
  readonly count: number;
  /** From this folder and what stands below it. */
  readonly folderId: string;
  readonly tags: readonly string[];
  readonly levels: readonly QuestionLevel[];
  readonly objectives: readonly string[];
  readonly kinds: readonly QuestionKind[];
}
export interface QuizPart {
  readonly id: string;
  readonly points: number;
  readonly floor: number | null;
  readonly question: QuestionView | null;
  /** The version of its question this quiz has, and whether there is a newer one. */
  readonly questionVersion: number | null;
  readonly draw: (DrawWish & { readonly matching: number; readonly words: string }) | null;
}
export interface QuizSection {
  readonly id: string;
  readonly title: string;
  readonly instructions: string;
  readonly isShuffled: boolean;
  readonly parts: readonly QuizPart[];
}
export interface QuizDetail {
  readonly itemId: string;
  /** Other students review its essays. */
  readonly isReviewed: boolean;
  readonly title: string;
  readonly isDraft: boolean;
  readonly state: string;
  readonly itemVersion: number;
  readonly setting: QuizSetting;
  readonly sections: readonly QuizSection[];
  readonly possible: number;
  readonly questions: number;
  readonly expected: Expected;
  readonly faults: readonly string[];
  readonly attempts: number;
  readonly objectives: readonly { readonly code: string; readonly statement: string }[];
  readonly dueAt: string | null;
  readonly opensAt: string | null;
  readonly closesAt: string | null;
  readonly estimatedMinutes: number;
  /** The folder that new questions join. */
  readonly folderId: string;
  /** Colleagues with whom the whole quiz is shared. */
  readonly shares: readonly QuizShareView[];
}

const when = (): Joi.AlternativesSchema =>
  Joi.alternatives(
    Joi.object({ kind: Joi.string().valid('never', 'at once', 'closed').required() }),
    Joi.object({ kind: Joi.string().valid('window').required(), from: instant().required(), to: instant().required() }),
  ).required();
export interface QuizChange extends Partial<Omit<QuizSetting, 'version'>> {
  readonly version: number;
}

/** What is asked before a change would reach those who are taking a quiz: whom, what of their terms, and whether they can keep it. */
export interface RunningAsked {
  readonly titles: readonly string[];
  readonly fields: readonly string[];
  readonly canKeep: boolean;
  readonly running: readonly RunningAttempt[];
}

/** Somebody who is taking a quiz now. */
export interface RunningAttempt {
  readonly name: string;
  readonly begunAt: string;
  readonly endsAt: string | null;
}
export const quizChange = Joi.object<QuizChange>({
  version: version(),
  taken: Joi.string().valid('screen', 'paper', 'both').label('Where it is taken'),
  instructions: document(),
  layout: Joi.string().valid('one', 'page'),
  mayGoBack: Joi.boolean(),
  shufflesSections: Joi.boolean(),
  shufflesAnswers: Joi.boolean(),
  limitMinutes: whole(1, 1440).allow(null).label('Time limit'),
  atEnd: Joi.string().valid('hand in', 'flag'),
  attemptsAllowed: whole(1, 50).allow(null).label('Attempts'),
  counted: Joi.string().valid('latest', 'best', 'first', 'mean'),
  retryUntil: points().allow(null).label('Try again until'),
  review: Joi.object({ score: when(), answers: when(), key: when(), feedback: when() }),
  allowsCalculator: Joi.boolean(),
  accessCode: Joi.string().trim().allow('').max(40).label('Code'),
  allowedAddresses: Joi.array().max(40).items(Joi.string().trim().max(60).label('Address')),
  recordsLeaving: Joi.boolean(),
  discouragesCopying: Joi.boolean(),
  passPoints: points().allow(null).label('Pass'),
  meritPoints: points().allow(null).label('Merit'),
});

export interface PaperPartWish {
  readonly id: string | null;
  readonly points: number;
  readonly floor: number | null;
  readonly questionId: string | null;
  readonly questionVersion?: number | null;
  readonly draw: DrawWish | null;
}
/** The paper as it stands after a change: sections in order, each with its parts. */
export interface PaperChange {
  readonly version: number;
  readonly sections: {
    readonly id: string | null;
    readonly title: string;
    readonly instructions: string;
    readonly isShuffled: boolean;
    readonly parts: readonly PaperPartWish[];
  }[];
}
const KINDS = [
  'single',
  'truth',
  'several',
  'numeric',
  'calculated',
  'short',
  'blanks',
  'matching',
  'ordering',
  'hotspot',
  'essay',
  'file',
];
const draw = (): Joi.ObjectSchema =>
  Joi.object({
    count: whole(1, 200).required().label('How many are drawn'),
    folderId: id().required(),
    tags: Joi.array().max(20).items(Joi.string().max(40)).required(),
    levels: Joi.array()
      .items(Joi.string().valid('easy', 'medium', 'hard'))
      .required(),
    objectives: Joi.array().max(40).items(Joi.string().max(60)).required(),
    kinds: Joi.array()
      .items(Joi.string().valid(...KINDS))
      .required(),
  });
export const paperChange = Joi.object<PaperChange, true>({
  version: version(),
  sections: Joi.array()
    .min(1)
    .max(40)
    .required()
    .items(
      Joi.object({
        id: id().allow(null).required(),
        title: Joi.string().trim().allow('').max(LIMITS.title).required().label('Title of the section'),
        instructions: Joi.string().allow('').max(2000).required().label('Instructions'),
        isShuffled: Joi.boolean().required(),
        parts: Joi.array()
          .max(300)
          .required()
          .items(
            Joi.object({
              id: id().allow(null).required(),
              points: points().required().label('Points'),
              floor: whole(-10_000_000, 0).allow(null).required().label('Least points'),
              questionId: id().allow(null).required(),
              questionVersion: whole(1, 100_000).allow(null),
              draw: draw().allow(null).required(),
            }),
          ),
      }),
    ),
});
/** New questions for a quiz, made in its folder and laid into a section. */
export interface QuizQuestions {
  readonly sectionId: string;
  readonly position: number;
  readonly questions: (NewQuestion & { readonly points?: number })[];
}
export const quizQuestions = Joi.object<QuizQuestions, true>({
  sectionId: id().required(),
  position: whole(0, 300).required(),
  questions: Joi.array()
    .min(1)
    .max(200)
    .required()
    .items(Joi.object({ ...newQuestionShape, points: points().label('Points') })),
});

/** A paper as one seed gives it, for whoever teaches. */
export interface PaperShown {
  readonly sections: readonly {
    readonly id: string;
    readonly title: string;
    readonly instructions: string;
    readonly questions: readonly PaperQuestionView[];
  }[];
  readonly faults: readonly string[];
}
export interface PaperQuestionView {
  readonly id: string;
  readonly points: number;
  readonly asked: AskedQuestion;
  readonly stimulus: DocumentNode | null;
}

/** How a student stands with a quiz before and after taking it. */
export interface OwnQuiz {
  readonly instructions: DocumentNode;
  readonly questions: number;
  readonly limitMinutes: number | null;
  /** Why the limit is another than everybody’s; empty where it is not. */
  readonly limitReason: string;
  readonly attemptsAllowed: number | null;
  readonly counted: Counting;
  readonly needsCode: boolean;
  readonly mayGoBack: boolean;
  readonly atEnd: QuizSetting['atEnd'];
  readonly recordsLeaving: boolean;
  readonly open: { readonly id: string; readonly begunAt: string; readonly endsAt: string | null } | null;
  readonly attempts: readonly OwnAttempt[];
  readonly whyNot: string | null;
  readonly review: readonly string[];
}
export interface OwnAttempt {
  readonly id: string;
  readonly number: number;
  readonly handedInAt: string | null;
  readonly how: 'student' | 'time' | 'instructor' | 'paper' | null;
  readonly state: 'open' | 'handed in' | 'set aside';
  /** Null where it may not be seen, or waits. */
  readonly scoreText: string | null;
  readonly isWaiting: boolean;
  readonly counts: boolean;
}
export interface BeginAttempt {
  readonly key: string;
  readonly code: string;
}
export const beginAttempt = Joi.object<BeginAttempt, true>({
  key: Joi.string().min(8).max(80).required(),
  code: Joi.string().trim().allow('').max(40).required().label('Code'),
});

/** An answer as the server holds it. */
export interface HeldView {
  readonly answer: GivenAnswer | null;
  readonly isFlagged: boolean;
  readonly version: number;
  readonly savedAt: string;
}
export interface Taking {
  readonly attemptId: string;
  readonly number: number;
  readonly title: string;
  readonly now: string;
  readonly begunAt: string;
  readonly endsAt: string | null;
  readonly setting: Pick<QuizSetting, 'layout' | 'mayGoBack' | 'atEnd' | 'allowsCalculator' | 'recordsLeaving' | 'discouragesCopying'>;
  readonly sections: PaperShown['sections'];
  readonly answers: { readonly [questionId: string]: HeldView };
}
export interface AnswerSave {
  readonly answer: GivenAnswer | null;
  readonly isFlagged: boolean;
  /** The window that saves, the place of this among its saves, and the version it was made over. */
  readonly device: string;
  readonly turn: number;
  readonly seen: number;
  /** Seconds this question was in view since the last save. */
  readonly seconds: number;
}
export const answerSave = Joi.object<AnswerSave, true>({
  answer: answer().allow(null).required(),
  isFlagged: Joi.boolean().required(),
  device: Joi.string().min(4).max(40).required(),
  turn: whole(0, 2_000_000_000).required(),
  seen: whole(0, 2_000_000_000).required(),
  seconds: whole(0, 86_400).required(),
});
export interface AnswerKept {
  readonly version: number;
  readonly savedAt: string;
}
export interface LeaveNote {
  readonly isBack: boolean;
}
export const leaveNote = Joi.object<LeaveNote, true>({ isBack: Joi.boolean().required() });

/** One’s own paper afterwards, with as much as the review rules let out now. */
export interface PaperReview {
  readonly attempt: OwnAttempt;
  readonly title: string;
  readonly possible: number;
  readonly sees: { readonly [what in Reviewed]: boolean };
  readonly later: readonly string[];
  readonly sections: readonly {
    readonly id: string;
    readonly title: string;
    readonly instructions: string;
    readonly questions: readonly ReviewedQuestion[];
  }[];
  readonly working: readonly { readonly words: string; readonly points: string }[];
  readonly attainment: string;
}
export interface ReviewedQuestion extends PaperQuestionView {
  readonly answer: GivenAnswer | null;
  readonly file: { readonly name: string; readonly url: string } | null;
  readonly scoreText: string | null;
  readonly isWaiting: boolean;
  readonly rule: string;
  readonly key: KeyShown | null;
  readonly feedback: readonly DocumentNode[];
  readonly comment: string;
}
/** What was right, in a form that can be read. */
export interface KeyShown {
  readonly choiceIds: readonly string[];
  readonly words: readonly string[];
}
export type FeedbackOf = QuestionFeedback;

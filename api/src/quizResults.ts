import type { Correction, ItemStatistics, QuestionKind, Reliability } from '@rosemary/core';
import { id, Joi, points, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';
import { questionKey, type GivenAnswer, type NewQuestion, type QuestionView } from './question.ts';
import type { QuizSetting, PaperReview } from './quiz.ts';

/** Everybody at a quiz, for those who teach. */
export interface QuizPerson {
  readonly enrolmentId: string;
  readonly name: string;
  readonly section: string;
  readonly sectionId: string | null;
  readonly state: 'not begun' | 'under way' | 'handed in' | 'waiting' | 'scored' | 'set aside';
  readonly attempts: readonly AttemptLine[];
}
export interface AttemptLine {
  readonly id: string;
  readonly number: number;
  readonly state: 'open' | 'handed in' | 'set aside';
  readonly begunAt: string;
  readonly endsAt: string | null;
  readonly handedInAt: string | null;
  readonly how: 'student' | 'time' | 'instructor' | 'paper' | null;
  readonly answered: number;
  readonly questions: number;
  readonly lastSavedAt: string | null;
  readonly score: number | null;
  readonly soFar: number | null;
  readonly addedMinutes: number;
  readonly overSeconds: number;
  readonly left: number;
  readonly cameLate: number;
  readonly isCounted: boolean;
}
export interface QuizResults {
  readonly title: string;
  readonly possible: number;
  readonly people: readonly QuizPerson[];
  /** Questions that a person marks, with how many answers wait and whom they are given to. */
  readonly marked: readonly {
    readonly questionId: string;
    readonly title: string;
    readonly kind: QuestionKind;
    readonly waiting: number;
    readonly markerIds: readonly string[];
    /** Whether whoever asks marks it. */
    readonly isTheirs: boolean;
  }[];
  readonly markers: readonly { readonly id: string; readonly name: string }[];
  readonly corrections: readonly CorrectionView[];
  readonly setting: Pick<QuizSetting, 'passPoints' | 'meritPoints' | 'counted' | 'limitMinutes'>;
}
export interface CorrectionView {
  readonly id: string;
  readonly questionId: string;
  readonly question: string;
  readonly kind: Correction['kind'];
  readonly points: number | null;
  readonly reason: string;
  readonly by: string;
  readonly at: string;
  readonly isUndone: boolean;
  readonly isApplied: boolean;
}
export interface AttemptPaper {
  readonly review: PaperReview;
  readonly name: string;
  readonly line: AttemptLine;
  readonly events: readonly { readonly at: string; readonly words: string; readonly by: string }[];
  readonly scoreVersions: { readonly [questionId: string]: number };
}
export interface AttemptAct {
  readonly action: 'extend' | 'resume' | 'hand in' | 'set aside' | 'take late';
  readonly minutes: number;
  readonly reason: string;
}
export const attemptAct = Joi.object<AttemptAct, true>({
  action: Joi.string().valid('extend', 'resume', 'hand in', 'set aside', 'take late').required(),
  minutes: whole(0, 1440).required().label('Minutes'),
  reason: Joi.string().trim().allow('').max(LIMITS.reason).required().label('Reason'),
});
/** Points given by a person, in thousandths; null gives the question back to its key. */
export interface GivenScore {
  readonly points: number | null;
  readonly reason: string;
  readonly version: number;
}
export const givenScore = Joi.object<GivenScore, true>({
  points: whole(-10_000_000, 10_000_000).allow(null).required().label('Points'),
  reason: Joi.string().trim().allow('').max(LIMITS.noteBody).required().label('Comment'),
  version: version(),
});
/** Points for several answers to one question, as one act. */
export interface GivenScores {
  readonly scores: readonly (GivenScore & { readonly attemptId: string })[];
}
export const givenScores = Joi.object<GivenScores>({
  scores: Joi.array()
    .min(1)
    .max(2000)
    .required()
    .items((givenScore as Joi.ObjectSchema).keys({ attemptId: id().required() })),
});

/** Answers to one question, to be marked together. */
export interface QuestionAnswers {
  readonly question: QuestionView;
  readonly points: number;
  readonly answers: readonly {
    readonly attemptId: string;
    readonly name: string;
    readonly answer: GivenAnswer | null;
    readonly text: string;
    readonly file: { readonly name: string; readonly url: string } | null;
    readonly share: string | null;
    readonly given: number | null;
    readonly rule: string;
    readonly reason: string;
    readonly version: number;
  }[];
}
/** To whom the answers to one question are given to mark; to nobody is to everyone, of the students they reach. */
export interface QuestionMarkers {
  readonly markerIds: string[];
}
export const questionMarkers = Joi.object<QuestionMarkers, true>({
  markerIds: Joi.array().max(60).items(id()).required(),
});
export interface NewCorrection {
  readonly questionId: string;
  readonly kind: Correction['kind'];
  readonly key: NewQuestion['key'] | null;
  readonly points: number | null;
  readonly reason: string;
}
export const newCorrection = Joi.object<NewCorrection, true>({
  questionId: id().required(),
  kind: Joi.string().valid('key', 'drop', 'credit', 'points').required(),
  key: questionKey().allow(null).required(),
  points: points().allow(null).required().label('Points'),
  reason: Joi.string().trim().min(1).max(LIMITS.reason).required().label('Reason'),
});

/** A question as its quiz was taken with it, to be corrected. */
export interface CorrectableQuestion {
  /** In the version that was taken, with the key as it is scored by now. */
  readonly question: QuestionView;
  /** The newest version in the bank, where it is another and of the same kind. */
  readonly newer: QuestionView | null;
}

export interface QuizStatistics {
  readonly title: string;
  readonly attempts: number;
  readonly questions: readonly (ItemStatistics & {
    readonly number: number;
    readonly title: string;
    readonly kind: QuestionKind;
    readonly points: number;
    readonly letters: { readonly [optionId: string]: string };
    readonly optionWords: { readonly [optionId: string]: string };
    readonly medianSeconds: number | null;
    readonly flags: readonly string[];
    readonly version: number;
  })[];
  readonly reliability: Reliability | null;
  readonly whyNoReliability: string;
  readonly scores: readonly number[];
  readonly possible: number;
  readonly medianMinutes: number | null;
}

/** Answers that were scored by a rule that holds no longer, by question. */
export interface OutdatedScores {
  readonly questions: readonly { readonly questionId: string; readonly title: string; readonly answers: number }[];
}
export interface ScoringAgain {
  readonly questionId: string;
}
export const scoringAgain = Joi.object<ScoringAgain, true>({ questionId: id().required().label('Question') });

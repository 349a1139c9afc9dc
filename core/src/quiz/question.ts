import type { DocumentNode } from '../document/plainText.ts';
import type { Thousandths } from '../exact/points.ts';
import type { Ratio } from '../exact/ratio.ts';

/** Shares of a question's points are thousandths of a percent, as weights are: 33.333 % is 33333; less than nothing takes away. */
export type ShareThousandths = number;

/** One answer to choose: its words, what picking it gives, and what is said to whoever picks it. */
export interface Choice {
  readonly id: string;
  readonly words: DocumentNode;
  readonly share: ShareThousandths;
  readonly feedback: DocumentNode | null;
}

/** A text that is taken as an answer, word for word or as a pattern of the linear-time engine. */
export interface AcceptedText {
  readonly text: string;
  readonly isPattern: boolean;
  readonly share: ShareThousandths;
}
export interface TextRules {
  readonly accepted: readonly AcceptedText[];
  readonly caseMatters: boolean;
  /** Spaces at the ends never matter; with this those within do, else any run of them is one. */
  readonly spaceMatters: boolean;
}

/** How near is near enough: by an amount, by a share of the value, or equal when both are rounded to so many significant figures. */
export type Tolerance =
  | { readonly kind: 'absolute'; readonly amount: string }
  | { readonly kind: 'relative'; readonly percent: string }
  | { readonly kind: 'significant'; readonly figures: number };
export interface AcceptedNumber {
  /** A decimal, such as `-3.5` or `1.2e-4`; kept as typed, so that nothing is rounded. */
  readonly value: string;
  readonly tolerance: Tolerance;
  readonly share: ShareThousandths;
}
export interface NumberRules {
  readonly accepted: readonly AcceptedNumber[];
  /** One unit is worth `factor` of the first: 1 mm is 0.001 m. Without any, none may be written. */
  readonly units: readonly { readonly name: string; readonly factor: string }[];
  readonly isUnitNeeded: boolean;
  /** So many decimals must be written; null leaves it free. */
  readonly decimals: number | null;
  /** The sign is left out of account: a distance may be given either way. */
  readonly isSignFree: boolean;
}

/** A number of a question that every student has another of: from, to, in steps; shown with so many decimals. */
export interface Parameter {
  readonly name: string;
  readonly from: string;
  readonly to: string;
  readonly step: string;
  readonly decimals: number;
}
/** A question whose numbers are drawn: the answer follows from them by a formula. */
export interface Calculated {
  readonly parameters: readonly Parameter[];
  /** Between parameters, such as `a < b`; values are drawn anew until all hold. */
  readonly conditions: readonly string[];
  readonly formula: string;
  readonly tolerance: Tolerance;
}

/** A place in a picture, in shares of its width and height from the upper left corner. */
export interface PictureSpot {
  readonly x: number;
  readonly y: number;
}
export type Region =
  | { readonly shape: 'rectangle'; readonly from: PictureSpot; readonly to: PictureSpot }
  | { readonly shape: 'ellipse'; readonly centre: PictureSpot; readonly radius: PictureSpot }
  | { readonly shape: 'polygon'; readonly corners: readonly PictureSpot[] };

/** What is asked in each kind, with its key. */
export type QuestionKey =
  | { readonly kind: 'single' | 'truth'; readonly choices: readonly Choice[]; readonly hasDontKnow: boolean }
  | {
      readonly kind: 'several';
      readonly choices: readonly Choice[];
      /** Right picks less wrong ones; all or nothing; or each answer by its own value. */
      readonly rule: 'less wrong' | 'all or nothing' | 'own values';
      readonly hasDontKnow: boolean;
    }
  | { readonly kind: 'numeric'; readonly rules: NumberRules }
  | { readonly kind: 'calculated'; readonly question: Calculated; readonly rules: Omit<NumberRules, 'accepted'> }
  | { readonly kind: 'short'; readonly rules: TextRules }
  | {
      readonly kind: 'blanks';
      /** The weights add to 100 %. */
      readonly blanks: readonly { readonly id: string; readonly weight: ShareThousandths; readonly rules: TextRules }[];
    }
  | { readonly kind: 'matching'; readonly pairs: readonly { readonly left: string; readonly right: string }[] }
  | { readonly kind: 'ordering'; readonly order: readonly string[]; readonly isAllOrNothing: boolean }
  | {
      readonly kind: 'hotspot';
      readonly regions: readonly { readonly id: string; readonly region: Region; readonly share: ShareThousandths }[];
    }
  | { readonly kind: 'essay' | 'file' };

export type QuestionKind = QuestionKey['kind'];

/** A question as it is scored: its key, its points, and how far below nothing it may go (0 unless set otherwise; null has no floor). */
export interface ScoredQuestion {
  readonly key: QuestionKey;
  readonly points: Thousandths;
  readonly floor: Thousandths | null;
  /** Of a calculated question: the answer that follows from the values this student had. */
  readonly wanted?: Ratio;
}

/** What a student gave. Nothing given at all is null; `dontKnow` is an answer, and worth nothing. */
export type Answer =
  | { readonly kind: 'choice'; readonly id: string }
  | { readonly kind: 'choices'; readonly ids: readonly string[] }
  | { readonly kind: 'dontKnow' }
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'texts'; readonly texts: { readonly [blankId: string]: string } }
  | { readonly kind: 'pairs'; readonly pairs: { readonly [left: string]: string } }
  | { readonly kind: 'order'; readonly order: readonly string[] }
  | { readonly kind: 'spot'; readonly spot: PictureSpot }
  | { readonly kind: 'work' };

/** The picture of a hotspot, a file of the course. */
export interface QuestionPicture {
  readonly fileId: string;
  readonly src: string;
  readonly alt: string;
}
/** What is said once the answer is in: to whoever was wholly right, to everybody else, and to all. */
export interface QuestionFeedback {
  readonly right: DocumentNode | null;
  readonly wrong: DocumentNode | null;
  readonly general: DocumentNode | null;
}
/** One version of a question: what is asked, with its key. */
export interface QuestionContent {
  readonly words: DocumentNode;
  readonly key: QuestionKey;
  readonly feedback: QuestionFeedback;
  readonly picture: QuestionPicture | null;
}

/** A question as its student gets it: nothing in it tells of the key. */
export interface AskedQuestion {
  readonly kind: QuestionKind;
  readonly words: DocumentNode;
  /** The answers to choose from, in this student's order. */
  readonly choices: readonly { readonly id: string; readonly words: DocumentNode }[];
  readonly hasDontKnow: boolean;
  readonly blanks: readonly string[];
  readonly lefts: readonly string[];
  readonly rights: readonly string[];
  /** The things to be put in order. */
  readonly things: readonly string[];
  readonly units: readonly string[];
  readonly isUnitNeeded: boolean;
  readonly decimals: number | null;
  readonly picture: QuestionPicture | null;
}

/** A key of one kind. */
export type KeyOf<K extends QuestionKind> = QuestionKey & { readonly kind: K };

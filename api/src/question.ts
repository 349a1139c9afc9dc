import type {
  Answer,
  QuestionContent,
  QuestionFeedback,
  QuestionKey,
  QuestionKind,
  QuestionLevel,
  QuestionPicture,
  Samples,
} from '@rosemary/core';
import { document, id, Joi, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';
import type { SharedQuiz } from './quizShare.ts';

const WORDS = 1000;
/** A share of the points in thousandths of a percent; less than nothing takes away. */
const share = (): Joi.NumberSchema => whole(-100_000, 100_000).required().label('Value of the answer');
const short = (max: number): Joi.StringSchema => Joi.string().allow('').max(max).required();
const keyId = (): Joi.StringSchema => Joi.string().min(1).max(40).required();
const decimal = (): Joi.StringSchema => Joi.string().allow('').max(80).required();

const tolerance = (): Joi.AlternativesSchema =>
  Joi.alternatives(
    Joi.object({ kind: Joi.string().valid('absolute').required(), amount: decimal() }),
    Joi.object({ kind: Joi.string().valid('relative').required(), percent: decimal() }),
    Joi.object({ kind: Joi.string().valid('significant').required(), figures: whole(1, 15).required() }),
  ).required();
const choices = (): Joi.ArraySchema =>
  Joi.array()
    .max(26)
    .required()
    .items(
      Joi.object({
        id: keyId(),
        words: document().required(),
        share: share(),
        feedback: document().allow(null).required(),
      }),
    );
const textRules = (): Joi.ObjectSchema =>
  Joi.object({
    accepted: Joi.array()
      .max(40)
      .required()
      .items(Joi.object({ text: short(WORDS), isPattern: Joi.boolean().required(), share: share() })),
    caseMatters: Joi.boolean().required(),
    spaceMatters: Joi.boolean().required(),
  }).required();
const numberShape = {
  units: Joi.array()
    .max(12)
    .required()
    .items(Joi.object({ name: short(20), factor: decimal() })),
  isUnitNeeded: Joi.boolean().required(),
  decimals: whole(0, 12).allow(null).required().label('Decimals'),
  isSignFree: Joi.boolean().required(),
};
const spot = (): Joi.ObjectSchema => Joi.object({ x: Joi.number().required(), y: Joi.number().required() });
/** What stands in a key of each kind. What it says is checked by core, which names what is wrong in it; here only its shape. */
const KEY_SHAPES: { readonly [kind in QuestionKind]: () => Joi.PartialSchemaMap } = {
  single: () => ({ choices: choices(), hasDontKnow: Joi.boolean().required() }),
  truth: () => ({ choices: choices(), hasDontKnow: Joi.boolean().required() }),
  several: () => ({
    choices: choices(),
    rule: Joi.string().valid('less wrong', 'all or nothing', 'own values').required(),
    hasDontKnow: Joi.boolean().required(),
  }),
  numeric: () => ({
    rules: Joi.object({
      accepted: Joi.array()
        .max(20)
        .required()
        .items(Joi.object({ value: decimal(), tolerance: tolerance(), share: share() })),
      ...numberShape,
    }).required(),
  }),
  calculated: () => ({
    question: Joi.object({
      parameters: Joi.array()
        .max(12)
        .required()
        .items(Joi.object({ name: short(20), from: decimal(), to: decimal(), step: decimal(), decimals: whole(0, 9).required() })),
      conditions: Joi.array().max(12).required().items(Joi.string().allow('').max(200)),
      formula: short(400),
      tolerance: tolerance(),
    }).required(),
    rules: Joi.object(numberShape).required(),
  }),
  short: () => ({ rules: textRules() }),
  blanks: () => ({
    blanks: Joi.array()
      .max(40)
      .required()
      .items(Joi.object({ id: keyId(), weight: whole(0, 100_000).required().label('Weight of a blank'), rules: textRules() })),
  }),
  matching: () => ({
    pairs: Joi.array()
      .max(26)
      .required()
      .items(Joi.object({ left: short(WORDS), right: short(WORDS) })),
  }),
  ordering: () => ({
    order: Joi.array().max(26).required().items(Joi.string().allow('').max(WORDS)),
    isAllOrNothing: Joi.boolean().required(),
  }),
  hotspot: () => ({
    regions: Joi.array()
      .max(30)
      .required()
      .items(
        Joi.object({
          id: keyId(),
          share: share(),
          region: Joi.alternatives(
            Joi.object({ shape: Joi.string().valid('rectangle').required(), from: spot().required(), to: spot().required() }),
            Joi.object({ shape: Joi.string().valid('ellipse').required(), centre: spot().required(), radius: spot().required() }),
            Joi.object({ shape: Joi.string().valid('polygon').required(), corners: Joi.array().max(40).required().items(spot()) }),
          ).required(),
        }),
      ),
  }),
  essay: () => ({}),
  file: () => ({}),
};

export const questionKey = (): Joi.AlternativesSchema =>
  Joi.alternatives(
    ...Object.entries(KEY_SHAPES).map(([kind, shape]) => Joi.object({ kind: Joi.string().valid(kind).required(), ...shape() })),
  );

const longText = (): Joi.StringSchema => Joi.string().allow('').max(4000);
/** What a student gives. Larger than this is refused, and the field keeps it. */
export const answer = (): Joi.AlternativesSchema =>
  Joi.alternatives(
    Joi.object({ kind: Joi.string().valid('choice').required(), id: keyId() }),
    Joi.object({ kind: Joi.string().valid('choices').required(), ids: Joi.array().max(26).required().items(Joi.string().max(40)) }),
    Joi.object({ kind: Joi.string().valid('dontKnow').required() }),
    Joi.object({ kind: Joi.string().valid('text').required(), text: longText().required().label('Answer') }),
    Joi.object({
      kind: Joi.string().valid('texts').required(),
      texts: Joi.object().pattern(Joi.string().max(40), longText()).max(40).required(),
    }),
    Joi.object({
      kind: Joi.string().valid('pairs').required(),
      pairs: Joi.object().pattern(Joi.string().max(WORDS), Joi.string().max(WORDS)).max(26).required(),
    }),
    Joi.object({ kind: Joi.string().valid('order').required(), order: Joi.array().max(26).required().items(Joi.string().max(WORDS)) }),
    Joi.object({ kind: Joi.string().valid('spot').required(), spot: spot().required() }),
    Joi.object({
      kind: Joi.string().valid('work').required(),
      document: document().allow(null),
      fileId: id().allow(null),
    }),
  );

/** An essay or a file is an answer with its words or its file; core scores neither. */
export type GivenAnswer = Exclude<Answer, { kind: 'work' }> | WorkAnswer;
export interface WorkAnswer {
  readonly kind: 'work';
  readonly document?: QuestionContent['words'] | null;
  readonly fileId?: string | null;
}

const picture = (): Joi.ObjectSchema =>
  Joi.object<QuestionPicture, true>({
    fileId: id().required(),
    src: Joi.string().max(LIMITS.address).required(),
    alt: Joi.string().trim().min(1).max(400).required().label('What the picture shows'),
  });
const feedback = (): Joi.ObjectSchema =>
  Joi.object<QuestionFeedback, true>({
    right: document().allow(null).required(),
    wrong: document().allow(null).required(),
    general: document().allow(null).required(),
  });

/** A question in the bank, its newest version. */
export interface QuestionView extends QuestionContent {
  readonly id: string;
  readonly folderId: string;
  /** Its title, or the first of its words. */
  readonly title: string;
  readonly ownTitle: string;
  readonly level: QuestionLevel | null;
  readonly tags: readonly string[];
  readonly objectives: readonly string[];
  readonly author: string;
  readonly isRetired: boolean;
  readonly stimulus: StimulusView | null;
  /** The version of its content, and of the question itself for changes. */
  readonly number: number;
  readonly newest: number;
  readonly version: number;
  readonly isFixed: boolean;
  readonly canEdit: boolean;
  readonly faults: readonly string[];
  readonly use: QuestionUse;
}
/** What past use tells: how many answered, and how they did. */
export interface QuestionUse {
  readonly quizzes: number;
  readonly attempts: number;
  readonly shareRight: number | null;
  readonly itemRest: number | null;
}
export interface StimulusView {
  readonly id: string;
  readonly title: string;
  readonly document: QuestionContent['words'];
  readonly version: number;
}

export interface QuestionWish {
  readonly title?: string;
  readonly level?: QuestionLevel | null;
  readonly tags?: readonly string[];
  readonly objectives?: readonly string[];
  readonly words?: QuestionContent['words'];
  readonly key?: QuestionKey;
  readonly feedback?: QuestionFeedback;
  readonly picture?: QuestionPicture | null;
  readonly stimulusId?: string | null;
  readonly folderId?: string;
}
const wish = {
  title: Joi.string().trim().allow('').max(LIMITS.title).label('Title'),
  level: Joi.string().valid('easy', 'medium', 'hard').allow(null).label('Level'),
  tags: Joi.array().max(20).items(Joi.string().trim().min(1).max(40).label('Tag')),
  objectives: Joi.array().max(20).items(Joi.string().trim().min(1).max(60).label('Objective')),
  words: document().label('Question'),
  key: questionKey(),
  feedback: feedback(),
  picture: picture().allow(null),
  stimulusId: id().allow(null),
  folderId: id(),
};
export interface NewQuestion extends QuestionWish {
  readonly words: QuestionContent['words'];
  readonly key: QuestionKey;
}
export const newQuestionShape = { ...wish, words: document().required().label('Question'), key: questionKey().required() };
export const newQuestion = Joi.object<NewQuestion>(newQuestionShape);
export interface QuestionChange extends QuestionWish {
  readonly version: number;
}
export const questionChange = Joi.object<QuestionChange>({ ...wish, version: version() });

/** Answers a question as a student would; with a seed of its own for drawn numbers. */
export interface TryWish {
  readonly answer: GivenAnswer | null;
  readonly seed: string;
  readonly key?: QuestionKey;
}
export const tryWish = Joi.object<TryWish>({
  answer: answer().allow(null).required(),
  seed: Joi.string().max(60).required(),
  key: questionKey(),
});
export interface TryResult {
  readonly share: string | null;
  readonly points: string;
  readonly rule: string;
}
/** The key run against what students gave before and against near misses of its own. */
export interface Rehearsal {
  readonly rows: readonly {
    readonly answer: string;
    readonly times: number;
    readonly share: string | null;
    readonly rule: string;
    readonly isNearMiss: boolean;
  }[];
  /** What somebody who guesses can expect, as a share; null where it cannot be told. */
  readonly byGuessing: string | null;
  readonly samples: Samples | null;
  readonly warnings: readonly string[];
}

export interface BankFolder {
  readonly id: string;
  readonly parentId: string | null;
  readonly title: string;
  readonly owner: 'subject' | 'person' | 'school' | 'shared';
  readonly canEdit: boolean;
  readonly isMine: boolean;
  readonly questions: number;
  readonly version: number;
  readonly shares: readonly { readonly personId: string; readonly name: string; readonly canEdit: boolean }[];
  /** The courses that use this bank, at its first folder, for those who may change it: who teaches them reaches it. */
  readonly courses: readonly { readonly courseId: string; readonly title: string; readonly teachers: readonly string[] }[];
}
export interface BankView {
  readonly folders: readonly BankFolder[];
  readonly questions: readonly QuestionView[];
  readonly total: number;
  readonly tags: readonly string[];
  /** Quizzes that colleagues share with whoever asks. */
  readonly quizzes: readonly SharedQuiz[];
}
export interface NewBankFolder {
  readonly parentId: string;
  readonly title: string;
}
export const newBankFolder = Joi.object<NewBankFolder, true>({
  parentId: id().required(),
  title: Joi.string().trim().min(1).max(120).required().label('Name of the folder'),
});
export interface BankFolderChange {
  readonly title?: string;
  readonly parentId?: string;
  readonly addShare?: { readonly email: string; readonly canEdit: boolean };
  readonly endShare?: string;
  /** A course that shall no longer use this bank; and one that shall again. */
  readonly courseOut?: string;
  readonly courseAgain?: string;
}
export const bankFolderChange = Joi.object<BankFolderChange>({
  title: Joi.string().trim().min(1).max(120).label('Name of the folder'),
  parentId: id(),
  addShare: Joi.object({
    email: Joi.string().trim().email({ tlds: false }).max(LIMITS.email).required().label('E-mail'),
    canEdit: Joi.boolean().required(),
  }),
  endShare: id(),
  courseOut: id(),
  courseAgain: id(),
});
export interface QuestionsMove {
  readonly questionIds: readonly string[];
  readonly folderId?: string;
  readonly isRetired?: boolean;
}
export const questionsMove = Joi.object<QuestionsMove>({
  questionIds: Joi.array().min(1).max(500).unique().items(id()).required(),
  folderId: id(),
  isRetired: Joi.boolean(),
});

/** A text that questions share: a new one has no identifier and version 0. */
export interface StimulusChange {
  readonly id: string | null;
  readonly title: string;
  readonly document: QuestionContent['words'];
  readonly version: number;
}
export const stimulusChange = Joi.object<StimulusChange>({
  id: id().allow(null).required(),
  title: Joi.string().trim().allow('').max(LIMITS.title).required().label('Title'),
  document: document().required(),
  version: version(),
});

/** Questions as a table: a row that is not understood is named and left out. */
export interface QuestionTable {
  readonly csv: string;
  readonly folderId: string | null;
  /** Only look at what it would do. */
  readonly isPreview: boolean;
}
export const questionTable = Joi.object<QuestionTable, true>({
  csv: Joi.string().min(1).max(380_000).required().label('Table'),
  folderId: id().allow(null).required(),
  isPreview: Joi.boolean().required(),
});
export interface QuestionTableDone {
  readonly rows: readonly {
    readonly line: number;
    readonly kind: string;
    readonly title: string;
    readonly problem: string;
    /** What came in, and still wants mending. */
    readonly notes: readonly string[];
  }[];
}

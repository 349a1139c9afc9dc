import { COUNTING, CRITERION_FORMS, type Counting, type CriterionForm, type DocumentNode } from '@rosemary/core';
import { document, id, instant, Joi, points, title, version, whole } from './joi.ts';
import { FILE_TYPES, LIMITS } from './limits.ts';

/** How work is judged: in points (with a rubric where there is one), done or not, in words, or not at all: a reminder with a date. */
export const JUDGED = ['points', 'done', 'words', 'none'] as const;
export type Judged = (typeof JUDGED)[number];

/** Until when names are hidden from those who mark: never, until the mark is released, until a date. */
export const ANONYMOUS = ['none', 'release', 'date'] as const;
export type Anonymous = (typeof ANONYMOUS)[number];

export interface AssignmentChange {
  readonly version: number;
  readonly instructions?: DocumentNode;
  readonly acceptsText?: boolean;
  readonly acceptsFiles?: boolean;
  readonly acceptsLink?: boolean;
  readonly acceptsRecording?: boolean;
  readonly onPaper?: boolean;
  readonly judged?: Judged;
  readonly fileTypes?: string[];
  readonly mostFiles?: number;
  readonly mostBytes?: number;
  readonly attemptsAllowed?: number | null;
  readonly counted?: Counting;
  readonly groupSetId?: string | null;
  readonly allowsWithdrawal?: boolean;
  readonly anonymous?: Anonymous;
  readonly anonymousUntil?: string | null;
  readonly markers?: 1 | 2;
}

export interface InstructionsChange {
  readonly version: number;
  readonly instructions: DocumentNode;
}
export const instructionsChange = Joi.object<InstructionsChange, true>({ version: version(), instructions: document().required() });

export const assignmentChange = Joi.object<AssignmentChange, true>({
  version: version(),
  instructions: document(),
  acceptsText: Joi.boolean(),
  acceptsFiles: Joi.boolean(),
  acceptsLink: Joi.boolean(),
  acceptsRecording: Joi.boolean(),
  onPaper: Joi.boolean(),
  judged: Joi.string()
    .valid(...JUDGED)
    .label('How it is judged'),
  fileTypes: Joi.array()
    .min(1)
    .items(Joi.string().valid(...Object.keys(FILE_TYPES)))
    .label('File types'),
  mostFiles: whole(1, 50).label('Files'),
  mostBytes: whole(1024, 314_572_800).label('Largest file'),
  attemptsAllowed: whole(1, 50).allow(null).label('Attempts'),
  counted: Joi.string()
    .valid(...COUNTING)
    .label('Which attempt counts'),
  groupSetId: id().allow(null).label('Groups'),
  allowsWithdrawal: Joi.boolean(),
  anonymous: Joi.string()
    .valid(...ANONYMOUS)
    .label('Names while marking'),
  anonymousUntil: instant().label('Names are shown from'),
  markers: Joi.number().valid(1, 2).label('Markers'),
});

export interface RubricChange {
  readonly version: number;
  readonly criteria: {
    readonly id: string | null;
    readonly title: string;
    readonly form?: CriterionForm;
    readonly levels: {
      readonly id: string | null;
      readonly title: string;
      readonly descriptor: string;
      readonly points: number;
      readonly least?: number | null;
      readonly upTo?: number | null;
    }[];
  }[];
}

/** How a criterion is judged, and its levels; one judged in words has none. */
export const criterionFields = (levelId: Joi.SchemaMap) => ({
  title: title(LIMITS.criterionTitle).required().label('Criterion'),
  form: Joi.string()
    .valid(...CRITERION_FORMS)
    .default('levels')
    .label('How the criterion is judged'),
  levels: Joi.array()
    .max(LIMITS.levels)
    .required()
    .label('Levels')
    .when('form', {
      is: 'comment',
      then: Joi.array().max(0),
      otherwise: Joi.when('form', { is: Joi.valid('count', 'range'), then: Joi.array().min(1), otherwise: Joi.array().min(2) }),
    })
    .items(
      Joi.object({
        ...levelId,
        title: Joi.string().trim().allow('').max(LIMITS.levelTitle).required().label('Level'),
        descriptor: Joi.string().allow('').max(LIMITS.descriptor).required().label('Descriptor'),
        points: points().required().label('Points of a level'),
        least: points().max(Joi.ref('points')).allow(null).label('Least points of a level'),
        upTo: whole(0, 10_000).allow(null).label('Errors up to'),
      }),
    ),
});

export const rubricChange = Joi.object<RubricChange, true>({
  version: version(),
  criteria: Joi.array()
    .max(LIMITS.criteria)
    .required()
    .items(
      Joi.object({
        id: id().allow(null).required(),
        ...criterionFields({ id: id().allow(null).required() }),
      }),
    ),
});

export interface RubricView {
  readonly version: number;
  readonly criteria: readonly {
    readonly id: string;
    readonly title: string;
    readonly form?: CriterionForm;
    readonly levels: readonly {
      readonly id: string;
      readonly title: string;
      readonly descriptor: string;
      readonly points: number;
      readonly least?: number | null;
      readonly upTo?: number | null;
    }[];
  }[];
}

export interface AssignmentSetting {
  readonly version: number;
  readonly instructions: DocumentNode;
  readonly acceptsText: boolean;
  readonly acceptsFiles: boolean;
  readonly acceptsLink: boolean;
  readonly acceptsRecording: boolean;
  readonly onPaper: boolean;
  readonly judged: Judged;
  readonly fileTypes: readonly string[];
  readonly mostFiles: number;
  readonly mostBytes: number;
  readonly attemptsAllowed: number | null;
  readonly counted: Counting;
  /** Handed in together by the groups of this set; null is one's own work. */
  readonly groupSetId: string | null;
  readonly allowsWithdrawal: boolean;
  readonly anonymous: Anonymous;
  readonly anonymousUntil: string | null;
  /** How many mark each work, each on their own. */
  readonly markers: 1 | 2;
}

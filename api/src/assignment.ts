import type { DocumentNode } from '@rosemary/core';
import { document, id, Joi, points, title, version, whole } from './joi.ts';
import { FILE_TYPES, LIMITS } from './limits.ts';

/** How work is judged: in points (with a rubric where there is one), done or not, in words, or not at all: a reminder with a date. */
export const JUDGED = ['points', 'done', 'words', 'none'] as const;
export type Judged = (typeof JUDGED)[number];

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
}

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
  mostBytes: whole(1024, 104_857_600).label('Largest file'),
  attemptsAllowed: whole(1, 50).allow(null).label('Attempts'),
});

export interface RubricChange {
  readonly version: number;
  readonly criteria: {
    readonly id: string | null;
    readonly title: string;
    readonly levels: { readonly id: string | null; readonly title: string; readonly descriptor: string; readonly points: number }[];
  }[];
}

export const rubricChange = Joi.object<RubricChange, true>({
  version: version(),
  criteria: Joi.array()
    .max(LIMITS.criteria)
    .required()
    .items(
      Joi.object({
        id: id().allow(null).required(),
        title: title(LIMITS.criterionTitle).required().label('Criterion'),
        levels: Joi.array()
          .min(2)
          .max(LIMITS.levels)
          .required()
          .label('Levels')
          .items(
            Joi.object({
              id: id().allow(null).required(),
              title: Joi.string().trim().allow('').max(LIMITS.levelTitle).required().label('Level'),
              descriptor: Joi.string().allow('').max(LIMITS.descriptor).required().label('Descriptor'),
              points: points().required().label('Points of a level'),
            }),
          ),
      }),
    ),
});

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
  readonly acceptsLink: boolean;
  readonly acceptsRecording: boolean;
  readonly onPaper: boolean;
  readonly judged: Judged;
  readonly fileTypes: readonly string[];
  readonly mostFiles: number;
  readonly mostBytes: number;
  readonly attemptsAllowed: number | null;
}

import { id, Joi, points, title } from './joi.ts';
import { LIMITS } from './limits.ts';

/** A rubric kept to be used again, of one's own or shared in the school. */
export interface KeptRubric {
  readonly id: string;
  readonly title: string;
  readonly criteria: readonly {
    readonly title: string;
    readonly levels: readonly { readonly title: string; readonly descriptor: string; readonly points: number }[];
  }[];
  readonly isShared: boolean;
  readonly isOwn: boolean;
  readonly owner: string;
}

export interface NewKeptRubric {
  readonly id: string;
  readonly title: string;
  readonly criteria: {
    readonly title: string;
    readonly levels: { readonly title: string; readonly descriptor: string; readonly points: number }[];
  }[];
}
export const newKeptRubric = Joi.object<NewKeptRubric, true>({
  id: id().required(),
  title: title(120).required().label('Title'),
  criteria: Joi.array()
    .min(1)
    .max(LIMITS.criteria)
    .required()
    .items(
      Joi.object({
        title: title(LIMITS.criterionTitle).required().label('Criterion'),
        levels: Joi.array()
          .min(2)
          .max(LIMITS.levels)
          .required()
          .items(
            Joi.object({
              title: Joi.string().trim().allow('').max(LIMITS.levelTitle).required(),
              descriptor: Joi.string().allow('').max(LIMITS.descriptor).required(),
              points: points().required().label('Points of a level'),
            }),
          ),
      }),
    ),
});

export interface KeptRubricChange {
  readonly title?: string;
  readonly isShared?: boolean;
}
export const keptRubricChange = Joi.object<KeptRubricChange, true>({ title: title(120).label('Title'), isShared: Joi.boolean() });

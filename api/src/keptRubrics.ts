import type { PlainRubric } from '@rosemary/core';
import { criterionFields } from './assignment.ts';
import { id, Joi, title } from './joi.ts';
import { LIMITS } from './limits.ts';

/** A rubric kept to be used again, of one's own or shared in the school. */
export interface KeptRubric {
  readonly id: string;
  readonly title: string;
  readonly criteria: PlainRubric['criteria'];
  readonly isShared: boolean;
  readonly isOwn: boolean;
  readonly owner: string;
}

export interface NewKeptRubric {
  readonly id: string;
  readonly title: string;
  readonly criteria: PlainRubric['criteria'][number][];
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
        ...criterionFields({}),
      }),
    ),
});

/** What is changed of something kept: its title, or whether others here have it too. */
export interface KeptChange {
  readonly title?: string;
  readonly isShared?: boolean;
}
export const keptChange = Joi.object<KeptChange, true>({ title: title(120).label('Title'), isShared: Joi.boolean() });

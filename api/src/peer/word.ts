import { Joi } from '../joi.ts';

export const word = <T extends string>(all: readonly T[], label: string): Joi.StringSchema =>
  Joi.string()
    .valid(...all)
    .required()
    .label(label);

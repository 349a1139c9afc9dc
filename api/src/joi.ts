import Joi from 'joi';
import { LIMITS } from './limits.ts';

/** Words of every refusal: they name the value and the mend, and the field is named by the pointer. */
export const options: Joi.ValidationOptions = {
  abortEarly: false,
  convert: true,
  stripUnknown: false,
  errors: { wrap: { label: false } },
  messages: {
    'string.empty': '{{#label}} is empty. Type something.',
    'string.max': '{{#label}} is too long: it takes at most {{#limit}} characters.',
    'string.min': '{{#label}} is too short: it takes at least {{#limit}} characters.',
    'number.base': '{{#label}} is “{{#value}}”, which is not a number.',
    'number.min': '{{#label}} is {{#value}}; it must be at least {{#limit}}.',
    'number.max': '{{#label}} is {{#value}}; it must be at most {{#limit}}.',
    'number.integer': '{{#label}} is {{#value}}; it must be a whole number.',
    'any.required': '{{#label}} is missing.',
    'any.only': '{{#label}} is “{{#value}}”, which is not one of the choices.',
    'object.unknown': '{{#label}} is not a field here.',
    'string.isoDate': '{{#label}} is “{{#value}}”, which is not a date and time.',
    'string.guid': '{{#label}} is not an identifier.',
    'string.email': '{{#label}} is “{{#value}}”, which is not an e-mail address.',
  },
};

export const id = (): Joi.StringSchema => Joi.string().guid({ separator: '-', wrapper: false });
export const title = (max: number = LIMITS.title): Joi.StringSchema => Joi.string().replace(/\s+/g, ' ').trim().min(1).max(max);
export const instant = (): Joi.StringSchema => Joi.string().isoDate().allow(null);
export const whole = (min: number, max: number): Joi.NumberSchema => Joi.number().integer().min(min).max(max);
/** A day of the calendar, such as 2026-11-18. */
export const day = (): Joi.StringSchema =>
  Joi.string()
    .pattern(/^\d{4}-\d{2}-\d{2}$/)
    .required()
    .messages({ 'string.pattern.base': '{{#label}} is “{{#value}}”; a day is written 2026-09-21.' });
/** Points in thousandths: 0 to 10,000 points. */
export const points = (): Joi.NumberSchema => whole(0, 10_000_000);
export const version = (): Joi.NumberSchema => Joi.number().integer().min(0).required();
/** A late policy of one thing's own; null is what holds around it. */
export const latePolicy = (): Joi.ObjectSchema =>
  Joi.object({
    ratePercent: whole(0, 100_000).required().label('Late rate'),
    stepMinutes: whole(1, 10_080).required().label('Late step'),
    base: Joi.string().valid('earned', 'possible').required(),
    capPercent: whole(0, 100_000).required().label('Most that is taken'),
    floorPercent: whole(0, 100_000).required().label('Least that is left'),
    graceMinutes: whole(0, 10_080).required().label('Grace'),
  })
    .allow(null)
    .label('Late work');
export const document = (): Joi.ObjectSchema =>
  Joi.object({ type: Joi.string().valid('doc').required(), content: Joi.array() }).unknown(true);
export { Joi };

import { id, instant, Joi, points } from './joi.ts';

/** One of those something is for: a section, a group or a student. */
export interface AudienceMember {
  readonly sectionId: string | null;
  readonly enrolmentId: string | null;
  readonly groupId?: string | null;
}
export interface AudienceName extends AudienceMember {
  readonly name: string;
}
export const audience = (): Joi.ArraySchema =>
  Joi.array()
    .max(500)
    .items(
      Joi.object({ sectionId: id().allow(null).required(), enrolmentId: id().allow(null).required(), groupId: id().allow(null) }).unknown(
        false,
      ),
    )
    .label('For');

/** A rule of opening as it travels: an instant, an item, or an item and thousandths of points. */
export type OpeningRuleWish =
  | { readonly kind: 'date'; readonly at: string }
  | { readonly kind: 'done'; readonly itemId: string }
  | { readonly kind: 'score'; readonly itemId: string; readonly least: number };
export interface OpeningWish {
  readonly needs: 'all' | 'any';
  readonly rules: readonly OpeningRuleWish[];
}
export const opening = (): Joi.ObjectSchema =>
  Joi.object({
    needs: Joi.string().valid('all', 'any').required(),
    rules: Joi.array()
      .max(10)
      .required()
      .items(
        Joi.object({ kind: Joi.string().valid('date').required(), at: instant().disallow(null).required() }),
        Joi.object({ kind: Joi.string().valid('done').required(), itemId: id().required() }),
        Joi.object({ kind: Joi.string().valid('score').required(), itemId: id().required(), least: points().required() }),
      ),
  }).label('Opening rules');

/** Opened by hand for one student, or for all, until a time. */
export interface HandOpeningWish {
  readonly enrolmentId: string | null;
  readonly until: string;
}
export const handOpening = Joi.object<HandOpeningWish, true>({
  enrolmentId: id().allow(null).required(),
  until: instant().disallow(null).required().label('Open until'),
});
export interface HandOpening extends HandOpeningWish {
  readonly id: string;
  readonly name: string;
}

/** Whom a change to something running would touch: those it is for, and those among them who have begun. */
export interface Touched {
  readonly students: number;
  readonly begun: number;
  readonly sections: readonly { readonly id: string; readonly title: string; readonly students: number; readonly begun: number }[];
}

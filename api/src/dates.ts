import { id, instant, Joi, version } from './joi.ts';
import { LIMITS } from './limits.ts';
import { type VariantsChange, variantsChange } from './plan.ts';

/** One thing with a date: where it stands, and its version, so that nothing that changed meanwhile is written over. */
interface Dated {
  readonly id: string;
  readonly version: number;
}
/** Many dates of a course moved together; a date that is not named stays. */
export interface DatesChange {
  readonly items: (Dated & {
    readonly announcedAt?: string | null;
    readonly opensAt?: string | null;
    readonly dueAt?: string | null;
    readonly closesAt?: string | null;
    /** Dates of sections, groups and students, all of them, where any moves. */
    readonly variants?: VariantsChange['variants'];
  })[];
  readonly units: (Dated & { readonly announcedAt?: string | null; readonly opensAt?: string | null; readonly closesAt?: string | null })[];
  /** Announcements that are still to come. */
  readonly announcements: (Dated & { readonly publishAt: string })[];
}
const dated = { id: id().required(), version: version() };
/** What an item and a unit have alike. */
const shared = {
  ...dated,
  announcedAt: instant().label('Announced from'),
  opensAt: instant().label('Opens'),
  closesAt: instant().label('Closes'),
};
export const datesChange = Joi.object<DatesChange, true>({
  items: Joi.array()
    .max(LIMITS.items)
    .unique('id')
    .required()
    .items(
      Joi.object({
        ...shared,
        dueAt: instant().label('Due'),
        variants: variantsChange.extract('variants').optional(),
      }),
    ),
  units: Joi.array().max(LIMITS.items).unique('id').required().items(Joi.object(shared)),
  announcements: Joi.array()
    .max(300)
    .unique('id')
    .required()
    .items(Joi.object({ ...dated, publishAt: instant().disallow(null).required().label('Published') })),
});
/** What stood before, which takes it back. */
export interface DatesDone {
  readonly undo: DatesChange;
}

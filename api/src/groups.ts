import { id, Joi, title, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';

export interface GroupView {
  readonly id: string;
  readonly title: string;
  readonly enrolmentIds: readonly string[];
  /** Titles of what is for this group, or has another date for it. */
  readonly uses: readonly string[];
}
export interface GroupSet {
  readonly id: string;
  readonly title: string;
  readonly version: number;
  readonly groups: readonly GroupView[];
}
export interface Groups {
  readonly sets: readonly GroupSet[];
  readonly students: readonly { readonly enrolmentId: string; readonly name: string; readonly sectionId: string | null }[];
}

/** A new set: so many empty groups, or everybody dealt at random into groups of about a size. */
export interface NewGroupSet {
  readonly title: string;
  readonly makes: 'empty' | 'dealt';
  /** How many groups, or of what size. */
  readonly number: number;
  readonly withinSections: boolean;
}
export const newGroupSet = Joi.object<NewGroupSet, true>({
  title: title(LIMITS.name).required().label('Title of the set'),
  makes: Joi.string().valid('empty', 'dealt').required(),
  number: whole(1, 100).required().label('Groups'),
  withinSections: Joi.boolean().required(),
});

/** A set as it shall stand: groups without an identifier are new, groups not named are taken away. */
export interface GroupSetChange {
  readonly version: number;
  readonly title: string;
  readonly groups: { readonly id: string | null; readonly title: string; readonly enrolmentIds: string[] }[];
}
export const groupSetChange = Joi.object<GroupSetChange, true>({
  version: version(),
  title: title(LIMITS.name).required().label('Title of the set'),
  groups: Joi.array()
    .max(200)
    .required()
    .items(
      Joi.object({
        id: id().allow(null).required(),
        title: title(LIMITS.name).required().label('Title of the group'),
        enrolmentIds: Joi.array().max(500).unique().items(id()).required(),
      }),
    ),
});

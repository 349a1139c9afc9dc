import { id, instant, Joi, title, version, whole } from './joi.ts';
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
  /** Students put themselves into its groups until then; null is never. */
  readonly signUpUntil: string | null;
  readonly mostMembers: number | null;
  readonly groups: readonly GroupView[];
}
export interface Groups {
  readonly sets: readonly GroupSet[];
  readonly students: readonly { readonly enrolmentId: string; readonly name: string; readonly sectionId: string | null }[];
}

/** A new set: so many empty groups, or everybody dealt at random into groups of about a size. */
export interface NewGroupSet {
  readonly title: string;
  readonly makes: 'empty' | 'dealt' | 'balanced' | 'listed';
  /** How many groups, or of what size. */
  readonly number: number;
  readonly withinSections: boolean;
  /** As they were listed, where they are. */
  readonly groups?: { readonly title: string; readonly enrolmentIds: string[] }[];
}
export const newGroupSet = Joi.object<NewGroupSet, true>({
  title: title(LIMITS.name).required().label('Title of the set'),
  makes: Joi.string().valid('empty', 'dealt', 'balanced', 'listed').required(),
  number: whole(1, 100).required().label('Groups'),
  withinSections: Joi.boolean().required(),
  groups: Joi.array()
    .max(200)
    .items(
      Joi.object({
        title: title(LIMITS.name).required().label('Title of the group'),
        enrolmentIds: Joi.array().max(500).unique().items(id()).required(),
      }),
    ),
});

/** A set as it shall stand: groups without an identifier are new, groups not named are removed. */
export interface GroupSetChange {
  readonly version: number;
  readonly title: string;
  readonly groups: { readonly id: string | null; readonly title: string; readonly enrolmentIds: string[] }[];
  readonly signUpUntil?: string | null;
  readonly mostMembers?: number | null;
}

/** What a list of groups says, before anything is made. */
export interface ListedGroups {
  readonly groups: readonly { readonly title: string; readonly enrolmentIds: readonly string[]; readonly names: readonly string[] }[];
  /** Groups of which every line was refused: they are not made. */
  readonly refused: readonly string[];
  readonly faults: readonly { readonly line: number; readonly text: string }[];
}

/** The group a student chooses; null leaves the one they are in. */
export interface GroupChoice {
  readonly groupId: string | null;
}
export const groupChoice = Joi.object<GroupChoice, true>({ groupId: id().allow(null).required() });
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
  signUpUntil: instant().label('Sign-up until'),
  mostMembers: whole(1, 100).allow(null).label('Members at most'),
});

import type { Role } from '@rosemary/core';
import { id, Joi, version } from './joi.ts';
import type { PersonName } from './people.ts';

export interface NewMember {
  readonly personId: string;
  readonly role: 'instructor' | 'assistant' | 'student';
  readonly sectionId: string | null;
}

export const newMember = Joi.object<NewMember, true>({
  personId: id().required(),
  role: Joi.string().valid('instructor', 'assistant', 'student').required(),
  sectionId: id().allow(null).required(),
});

/** A lasting adjustment for one student; the multiplier of time in thousandths, 1.25 is 1250. */
export interface ArrangementChange {
  readonly extraDays: number;
  readonly timeMultiplier: number;
  readonly extraAttempts: number;
  readonly reason: string;
}

const arrangementChange = Joi.object({
  extraDays: Joi.number().integer().min(0).max(60).required(),
  timeMultiplier: Joi.number().integer().min(1000).max(4000).multiple(10).required(),
  extraAttempts: Joi.number().integer().min(0).max(10).required(),
  reason: Joi.string().trim().max(200).allow('').required(),
});

export interface MemberChange {
  readonly version: number;
  readonly sectionId?: string | null;
  readonly isWithdrawn?: boolean;
  /** A student who only listens, and is not graded. */
  readonly isAuditing?: boolean;
  /** From when a course counted from each student’s start is counted for them. */
  readonly startedAt?: string;
  /** All of a student's arrangements as they shall stand. */
  readonly arrangements?: ArrangementChange[];
}

export const memberChange = Joi.object<MemberChange, true>({
  version: version(),
  sectionId: id().allow(null),
  isWithdrawn: Joi.boolean(),
  isAuditing: Joi.boolean(),
  startedAt: Joi.string().isoDate().label('Started'),
  arrangements: Joi.array().max(5).items(arrangementChange),
});

export interface RosterMember {
  readonly enrolmentId: string;
  readonly personId: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly email: string;
  readonly role: Role;
  readonly sectionId: string | null;
  readonly section: string;
  readonly isSample: boolean;
  readonly startedAt: string;
  readonly withdrawnAt: string | null;
  readonly isAuditing: boolean;
  readonly arrangements: readonly ArrangementChange[];
  readonly version: number;
}

/** Somebody of the school who can be added to a course. */
export type PersonToAdd = PersonName & { readonly email: string };

export interface Roster {
  readonly members: readonly RosterMember[];
  readonly sections: readonly { readonly id: string; readonly title: string }[];
  readonly canEdit: boolean;
}

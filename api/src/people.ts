import type { Role } from '@rosemary/core';
import { id, Joi } from './joi.ts';
import { LIMITS } from './limits.ts';

export interface SignIn {
  readonly email: string;
  readonly password: string;
}

export const signIn = Joi.object<SignIn, true>({
  email: Joi.string().max(LIMITS.email).required().label('Address'),
  password: Joi.string().max(LIMITS.password).required().label('Password'),
});

export interface DemoSignIn {
  readonly personId: string;
}

export const demoSignIn = Joi.object<DemoSignIn, true>({ personId: id().required() });

export interface OwnSettings {
  readonly theme: 'light' | 'dark';
}

export const ownSettings = Joi.object<OwnSettings, true>({ theme: Joi.string().valid('light', 'dark').required() });

export interface NewPassword {
  readonly current: string;
  readonly next: string;
}

export const newPassword = Joi.object<NewPassword, true>({
  current: Joi.string().max(LIMITS.password).required().label('Present password'),
  next: Joi.string().min(LIMITS.passwordLeast).max(LIMITS.password).required().label('New password'),
});

/** A place where somebody is signed in. */
export interface OwnSession {
  readonly id: string;
  readonly browser: string;
  readonly network: string;
  /** Null where it was begun before that was written down. */
  readonly begunAt: string | null;
  /** When it ends by itself, unless it is used until then. */
  readonly endsAt: string;
  readonly isThis: boolean;
}

export interface PersonName {
  readonly id: string;
  readonly givenName: string;
  readonly familyName: string;
}

export interface DemoPerson extends PersonName {
  readonly what: string;
}

export interface OwnCourse {
  readonly id: string;
  readonly code: string;
  readonly run: string;
  readonly title: string;
  readonly shortTitle: string;
  readonly role: Role;
  readonly isOpen: boolean;
  readonly isArchived: boolean;
}

export interface Me {
  readonly person:
    | (PersonName & {
        readonly email: string;
        readonly isAdministrator: boolean;
        readonly teaches: boolean;
        readonly theme: 'light' | 'dark';
      })
    | null;
  readonly school: string;
  readonly isDemo: boolean;
  readonly demoPeople: readonly DemoPerson[];
  readonly now: string;
  readonly courses: readonly OwnCourse[];
}

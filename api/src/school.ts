import type { ListedWhat } from '@rosemary/core';
import { day, Joi, title, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';
import type { PersonName } from './people.ts';

export interface NewPerson {
  readonly email: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly password: string;
  /** Teaches at the school, and so may make courses. */
  readonly teaches?: boolean;
}

export const newPerson = Joi.object<NewPerson, true>({
  email: Joi.string().trim().email({ tlds: false }).max(LIMITS.email).required().label('Email'),
  givenName: title(LIMITS.name).required().label('Given name'),
  familyName: title(LIMITS.name).required().label('Family name'),
  password: Joi.string().min(LIMITS.passwordLeast).max(LIMITS.password).required().label('Password'),
  teaches: Joi.boolean().label('Teaches'),
});

/** What the school knows of somebody. */
export interface PersonChange {
  readonly email: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly isAdministrator: boolean;
  readonly teaches: boolean;
  readonly isActive: boolean;
}
export const personChange = Joi.object<PersonChange, true>({
  email: Joi.string().trim().email({ tlds: false }).max(LIMITS.email).required().label('Email'),
  givenName: title(LIMITS.name).required().label('Given name'),
  familyName: title(LIMITS.name).required().label('Family name'),
  isAdministrator: Joi.boolean().required().label('Administrator'),
  teaches: Joi.boolean().required().label('Teaches'),
  isActive: Joi.boolean().required().label('Active'),
});

export interface NewTerm {
  readonly title: string;
  readonly startsOn: string;
  readonly endsOn: string;
  readonly meetingDays: number[];
  readonly holidays: { readonly title: string; readonly startsOn: string; readonly endsOn: string }[];
}

const termFields = {
  title: title(LIMITS.name).required().label('Title'),
  startsOn: day().label('First day'),
  endsOn: day().label('Last day'),
  meetingDays: Joi.array().items(whole(1, 7)).unique().required(),
  holidays: Joi.array()
    .max(60)
    .required()
    .items(
      Joi.object({
        title: title(LIMITS.name).required().label('Holiday'),
        startsOn: day().label('Holiday from'),
        endsOn: day().label('Holiday to'),
      }),
    ),
};
export const newTerm = Joi.object<NewTerm, true>(termFields);

export interface TermChange extends NewTerm {
  readonly version: number;
}
export const termChange = Joi.object<TermChange, true>({ ...termFields, version: version() });

export interface School {
  readonly title: string;
  readonly terms: readonly {
    readonly id: string;
    readonly title: string;
    readonly startsOn: string;
    readonly endsOn: string;
    readonly weeks: number;
    readonly meetingDays: readonly number[];
    readonly version: number;
    readonly holidays: readonly { readonly title: string; readonly startsOn: string; readonly endsOn: string }[];
  }[];
  readonly people: readonly (PersonName & {
    readonly email: string;
    readonly isAdministrator: boolean;
    readonly teaches: boolean;
    readonly isActive: boolean;
  })[];
  readonly courses: readonly {
    readonly id: string;
    readonly code: string;
    readonly run: string;
    readonly title: string;
    readonly term: string;
    readonly students: number;
    readonly staff: string;
    readonly isOpen: boolean;
    readonly isArchived: boolean;
    /** Deleted, and reached by nobody; null where it is not. */
    readonly removedAt: string | null;
  }[];
}

/** The sites whose pages may be shown inside a page of a course: host names alone, such as maps.example.org. */
export interface EmbedHosts {
  readonly hosts: string[];
}
export const embedHosts = Joi.object<EmbedHosts, true>({
  hosts: Joi.array()
    .max(LIMITS.embedHosts)
    .unique()
    .required()
    .items(
      Joi.string()
        .trim()
        .lowercase()
        .pattern(/^(?=.{4,200}$)([a-z0-9]([a-z0-9-]*[a-z0-9])?\.)+[a-z]{2,}$/)
        .label('Site')
        .messages({ 'string.pattern.base': '{{#label}} is “{{#value}}”; it is written as a host name alone, such as maps.example.org.' }),
    ),
});

/** One row of the school's lists, and what becomes of it. */
export interface ListedRow {
  readonly of: 'term' | 'person' | 'course' | 'section' | 'enrolment' | 'file';
  readonly file: string;
  readonly line: number;
  readonly what: ListedWhat;
  readonly name: string;
  readonly text: string;
}
export interface ListsPreview {
  /** What the file is, in words. */
  readonly kind: string;
  readonly counts: { readonly [what in ListedWhat]: number };
  /** The rows that say something, refused ones first; at most 2,000. */
  readonly rows: readonly ListedRow[];
}
export interface ListsDone {
  readonly counts: ListsPreview['counts'];
  /** How many people were mailed a way to set their first password. */
  readonly invited: number;
  readonly school: School;
}

export interface Welcome {
  readonly givenName: string;
  readonly email: string;
}
export interface FirstPassword {
  readonly password: string;
}
export const firstPassword = Joi.object<FirstPassword, true>({
  password: Joi.string().min(LIMITS.passwordLeast).max(LIMITS.password).required().label('Password'),
});

/** What a comparison of the ledger of grades with the grades that are kept found. */
export interface LedgerCheck {
  readonly at: string;
  readonly cells: number;
  readonly differing: number;
  /** Some of those that differ, in words. */
  readonly examples: readonly string[];
}

/** A piece of the school's background work that failed and is tried again. */
export interface JobFailure {
  readonly job: string;
  readonly words: string;
  readonly piece: string;
  readonly tries: number;
  readonly reason: string;
  readonly firstAt: string;
  readonly lastAt: string;
  /** Null where it was tried often enough and is set aside. */
  readonly nextAt: string | null;
}

export interface JobAgain {
  readonly job: string;
  readonly piece: string;
}
export const jobAgain = Joi.object<JobAgain, true>({
  job: Joi.string().max(60).required().label('Job'),
  piece: Joi.string().max(200).required().label('Piece'),
});

/** How much a course may hold, and how much one person may add to a course as their own work. */
export interface StorageLimits {
  readonly courseMegabytes: number;
  readonly personMegabytes: number;
}
export const storageLimits = Joi.object<StorageLimits, true>({
  courseMegabytes: whole(100, 10_000_000).required().label('A course may hold'),
  personMegabytes: whole(10, 1_000_000).required().label('A person may add to a course'),
});
/** What is kept in files: of the school, of each course and of each person, and what was cleared away last. */
export interface Storage {
  readonly limits: StorageLimits;
  readonly bytes: number;
  readonly unfinishedBytes: number;
  readonly courses: readonly { readonly id: string; readonly title: string; readonly files: number; readonly bytes: number }[];
  readonly people: readonly {
    readonly id: string;
    readonly name: string;
    readonly course: string;
    readonly files: number;
    readonly bytes: number;
  }[];
  readonly cleared: readonly { readonly id: string; readonly words: string; readonly at: string | null; readonly many: number }[];
}

/** The public holidays of a country between two days, as they are offered to a term. */
export interface PublicHolidays {
  readonly holidays: readonly { readonly title: string; readonly startsOn: string; readonly endsOn: string }[];
  /** The parts of the country that have holidays of their own. */
  readonly regions: readonly { readonly code: string; readonly name: string }[];
}
export interface HolidayCountries {
  readonly countries: readonly { readonly code: string; readonly name: string }[];
}

/** A look of an administrator into a course. */
export interface CourseLook {
  readonly courseId: string;
  readonly endsAt: string;
}

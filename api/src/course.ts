import { OUTLINES, COURSE_CODE } from '@rosemary/core';
import type { DocumentNode, ItemKind, OutlineKind, Role, Term, TermWeek, WeekLoad } from '@rosemary/core';
import { id, Joi, title } from './joi.ts';
import { LIMITS } from './limits.ts';

export interface NewCourse {
  readonly code: string;
  readonly run: string;
  readonly title: string;
  readonly termId: string;
  readonly timeZone: string;
  readonly instructorId: string;
  readonly sections: string[];
}

const code = (): Joi.StringSchema =>
  Joi.string()
    .trim()
    .replace(/\s+/g, ' ')
    .pattern(COURSE_CODE)
    .required()
    .messages({ 'string.pattern.base': '{{#label}} is “{{#value}}”; it takes up to 20 letters, digits, spaces, points and hyphens.' });

export const newCourse = Joi.object<NewCourse, true>({
  code: code().label('Code'),
  run: code().label('Run'),
  title: title().required().label('Title'),
  termId: id().required().label('Term'),
  timeZone: Joi.string().max(60).required().label('Time zone'),
  instructorId: id().required().label('Instructor'),
  sections: Joi.array().min(1).max(40).items(title(LIMITS.name)).unique().required().label('Sections'),
});

/** A course made by the one who will teach it. */
export interface OwnCourseStart {
  readonly code: string;
  readonly run: string;
  readonly title: string;
  readonly termId: string;
  readonly timeZone: string;
  readonly sections: string[];
  readonly outline: OutlineKind;
}

export const ownCourseStart = Joi.object<OwnCourseStart, true>({
  code: code().label('Code'),
  run: code().label('Run'),
  title: title().required().label('Title'),
  termId: id().required().label('Term'),
  timeZone: Joi.string().max(60).required().label('Time zone'),
  sections: Joi.array().min(1).max(40).items(title(LIMITS.name)).unique().required().label('Sections'),
  outline: Joi.string()
    .valid(...OUTLINES)
    .required()
    .label('Outline'),
});

/** The course programme as its reader may see it. */
export interface Programme {
  readonly title: string;
  readonly code: string;
  readonly term: Term;
  readonly timeZone: string;
  readonly sections: readonly string[];
  readonly staff: readonly { readonly name: string; readonly email: string; readonly role: string }[];
  readonly units: readonly {
    readonly id: string;
    readonly title: string;
    readonly items: readonly {
      readonly id: string;
      readonly kind: ItemKind;
      readonly title: string;
      readonly dueAt: string | null;
      readonly week: number | null;
      readonly time: string;
      readonly possible: number;
      readonly category: string | null;
    }[];
  }[];
  readonly policy: readonly string[];
  readonly text: DocumentNode | null;
  readonly version: number;
  readonly drafts: number;
  readonly canEdit: boolean;
}

/** A term of the school, as starting a course in it needs it. */
export interface TermChoice extends Term {
  readonly id: string;
}

export interface CourseStart {
  readonly terms: readonly TermChoice[];
  readonly taken: readonly { readonly code: string; readonly run: string }[];
}

/** What changed in a course, told to those who look at it. `again` after a gap: read everything afresh. */
export type Topic = 'plan' | 'marks' | 'grades' | 'work' | 'people' | 'returned' | 'talk' | 'again';

export interface CourseEvent {
  readonly topic: Topic;
  readonly itemId: string | null;
  readonly enrolmentId: string | null;
  /** The students whose rows of the gradebook are others now; null where it may be any of them. */
  readonly rows: readonly string[] | null;
  /** The browser tab the change came from: it knows already. */
  readonly tab: string | null;
  /** Who did it; empty for a job. */
  readonly by: string;
}

export interface LineItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly title: string;
  readonly dueAt: string;
  readonly position: number;
  readonly category: number;
  readonly courseId: string;
  readonly points: number;
}

export interface TermLineData {
  readonly weeks: readonly TermWeek[];
  readonly today: number;
  readonly todayText: string;
  readonly items: readonly LineItem[];
  readonly loads: readonly WeekLoad[];
  readonly week: number;
}

export interface SectionName {
  readonly id: string;
  readonly title: string;
  readonly students: number;
}

export interface CourseHead {
  readonly id: string;
  readonly code: string;
  readonly run: string;
  readonly title: string;
  readonly shortTitle: string;
  readonly term: string;
  readonly timeZone: string;
  readonly language: string;
  /** Its dates are those of one who starts on the first day of the term; each student’s are counted from their own start. */
  readonly isSelfPaced: boolean;
  readonly role: Role;
  readonly isOpen: boolean;
  readonly isArchived: boolean;
  readonly about: string;
  readonly sections: readonly SectionName[];
  /** Groups by the title of their set and their own; for staff. */
  readonly groups: readonly { readonly id: string; readonly title: string }[];
  readonly line: TermLineData;
  readonly toMark: number;
  readonly now: string;
  readonly version: number;
  /** Until when an administrator looks into it; null for whoever is a member. */
  readonly looksUntil: string | null;
  readonly seenAs: string | null;
}

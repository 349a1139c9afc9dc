import type { Term } from '@rosemary/core';
import { id, instant, Joi, title, version, whole } from './joi.ts';
import { LIMITS } from './limits.ts';

export type ProgressShown = 'nothing' | 'own' | 'class';

export interface SectionSetting {
  readonly id: string;
  readonly title: string;
  /** Its own meeting days, 1 Monday to 7; null is those of the term. */
  readonly meetingDays: readonly number[] | null;
  readonly students: number;
}
export interface CoursePicture {
  readonly fileId: string;
  readonly src: string;
  readonly alt: string;
}
/** Where a course stands between being made and being deleted. */
export interface CourseLife {
  readonly isOpen: boolean;
  readonly isArchived: boolean;
  /** How many study in it. */
  readonly students: number;
}
export interface CourseSettings {
  readonly code: string;
  readonly run: string;
  readonly term: Term;
  readonly title: string;
  readonly shortTitle: string;
  readonly description: string;
  readonly timeZone: string;
  /** The language of its texts, as BCP 47 has it: en, pt-PT. */
  readonly language: string;
  /** Dated by its term, or counted from each student’s start. */
  readonly pacing: 'term' | 'self';
  readonly picture: CoursePicture | null;
  readonly progressBy: 'items' | 'minutes';
  /** What students see of their progress: nothing, their own, or beside it how far the class is. */
  readonly progressShows: ProgressShown;
  /** From which percent an objective counts as reached, and from which with merit, in thousandths. */
  readonly reachedPercent: number;
  readonly meritPercent: number;
  readonly isPublic: boolean;
  readonly enrolsFrom: string | null;
  readonly enrolsUntil: string | null;
  readonly version: number;
  readonly sections: readonly SectionSetting[];
  readonly joined: readonly JoinedSection[];
}
export interface SettingsChange {
  readonly version: number;
  readonly title?: string;
  readonly shortTitle?: string;
  readonly description?: string;
  readonly timeZone?: string;
  readonly language?: string;
  readonly pacing?: 'term' | 'self';
  readonly pictureFileId?: string | null;
  readonly pictureAlt?: string;
  readonly progressBy?: 'items' | 'minutes';
  readonly progressShows?: ProgressShown;
  readonly reachedPercent?: number;
  readonly meritPercent?: number;
  readonly isPublic?: boolean;
  readonly enrolsFrom?: string | null;
  readonly enrolsUntil?: string | null;
}
export const settingsChange = Joi.object<SettingsChange, true>({
  version: version(),
  title: title().label('Title'),
  shortTitle: Joi.string().trim().allow('').max(40).label('Short title'),
  description: Joi.string().allow('').max(4000).label('Description'),
  timeZone: Joi.string().max(60).label('Time zone'),
  language: Joi.string().trim().max(35).label('Language'),
  pacing: Joi.string().valid('term', 'self').label('Dated by'),
  pictureFileId: id().allow(null).label('Picture'),
  pictureAlt: Joi.string().trim().allow('').max(400).label('What the picture shows'),
  progressBy: Joi.string().valid('items', 'minutes').label('Progress'),
  progressShows: Joi.string().valid('nothing', 'own', 'class').label('What students see of their progress'),
  reachedPercent: whole(0, 100_000).label('Reached from'),
  meritPercent: whole(0, 100_000).label('With merit from'),
  isPublic: Joi.boolean(),
  enrolsFrom: instant().label('Enrolment from'),
  enrolsUntil: instant().label('Enrolment until'),
});

/** A new section, empty or with students of another one, who bring everything of theirs along. */
export interface NewSection {
  readonly title: string;
  readonly enrolmentIds: string[];
}
export const newSection = Joi.object<NewSection, true>({
  title: title(LIMITS.name).required().label('Title of the section'),
  enrolmentIds: Joi.array().max(2000).unique().items(id()).required(),
});
export interface SectionChange {
  readonly title?: string;
  readonly meetingDays?: number[] | null;
}
export const sectionChange = Joi.object<SectionChange, true>({
  title: title(LIMITS.name).label('Title of the section'),
  meetingDays: Joi.array().items(whole(1, 7)).unique().allow(null).label('Meeting days') as never,
});
export interface SectionJoin {
  readonly into: string;
}
export const sectionJoin = Joi.object<SectionJoin, true>({ into: id().required().label('Section') });
/** Students who changed section together, by an act that can be taken back at any later time. */
export interface SectionMoved {
  readonly settings: CourseSettings;
  readonly actId: string;
}
export interface SectionParting {
  readonly actId: string;
}
/** How many are where they came from again, and how many stayed since they have changed section by themselves. */
export interface SectionsParted {
  readonly settings: CourseSettings;
  readonly back: number;
  readonly stayed: number;
}
/** A section that was joined to another and can be parted from it again. */
export interface JoinedSection {
  readonly actId: string;
  readonly title: string;
  readonly into: string;
  readonly at: string;
  /** How many it moved. */
  readonly students: number;
}
export const sectionParting = Joi.object<SectionParting, true>({ actId: id().required().label('Joining') });

/** What anyone may read of a course that shows itself. */
export interface PublicCourse {
  readonly language: string;
  readonly isSelfPaced: boolean;
  /** The address of its picture and what it shows, if it has one. */
  readonly picture: { readonly src: string; readonly alt: string } | null;
  readonly title: string;
  readonly code: string;
  readonly school: string;
  readonly description: string;
  readonly term: Term;
  readonly staff: readonly string[];
  readonly sections: readonly { readonly id: string; readonly title: string; readonly meetingDays: readonly number[] }[];
  readonly enrolsFrom: string | null;
  readonly enrolsUntil: string | null;
  readonly isEnrolling: boolean;
}
export interface SelfEnrolment {
  readonly sectionId: string;
}
export const selfEnrolment = Joi.object<SelfEnrolment, true>({ sectionId: id().required().label('Section') });

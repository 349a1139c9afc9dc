import { endpoint, is } from '../contract.ts';
import type { CourseHead, CourseStart, OwnCourseStart, Programme } from '../course.ts';
import type { FirstSteps } from '../firstSteps.ts';
import type { DocumentChange } from '../plan.ts';
import type {
  CourseLife,
  CourseSettings,
  NewSection,
  PublicCourse,
  SectionChange,
  SectionJoin,
  SectionMoved,
  SectionsParted,
  SectionParting,
  SelfEnrolment,
  SettingsChange,
} from '../settings.ts';

export const getCourseStart = endpoint({
  method: 'get',
  path: '/course-start',
  needs: 'person',
  answer: is<CourseStart>(),
});

export const startCourse = endpoint({
  method: 'post',
  path: '/courses',
  needs: 'person',
  body: is<OwnCourseStart>(),
  answer: is<{ readonly id: string }>(),
  audit: 'course made',
});

export const getCourseHead = endpoint({
  method: 'get',
  path: '/courses/:courseId',
  needs: 'course.see',
  answer: is<CourseHead>(),
});

export const getProgramme = endpoint({
  method: 'get',
  path: '/courses/:courseId/programme',
  needs: 'course.see',
  answer: is<Programme>(),
});

export const saveProgramme = endpoint({
  method: 'put',
  path: '/courses/:courseId/programme',
  needs: 'plan.edit',
  body: is<DocumentChange>(),
  answer: is<{ readonly version: number }>(),
  audit: 'programme written',
});

export const openCourse = endpoint({
  method: 'post',
  path: '/courses/:courseId/open',
  needs: 'plan.edit',
  audit: 'course opened',
});

export const getCourseLife = endpoint({
  method: 'get',
  path: '/courses/:courseId/life',
  needs: 'course.teach',
  answer: is<CourseLife>(),
});

export const closeCourse = endpoint({
  method: 'post',
  path: '/courses/:courseId/close',
  needs: 'plan.edit',
  answer: is<CourseLife>(),
  audit: 'course closed to students',
});

export const archiveCourse = endpoint({
  method: 'post',
  path: '/courses/:courseId/archival',
  needs: 'plan.edit',
  answer: is<CourseLife>(),
  audit: 'course archived',
});

export const unarchiveCourse = endpoint({
  method: 'delete',
  path: '/courses/:courseId/archival',
  needs: 'plan.edit',
  isDoneInArchive: true,
  answer: is<CourseLife>(),
  audit: 'course back from the archive',
});

/** Deletes a course without students; one with students is deleted by the administrators of the school. */
export const removeCourse = endpoint({
  method: 'delete',
  path: '/courses/:courseId',
  needs: 'plan.edit',
  isDoneInArchive: true,
  audit: 'course deleted',
});

export const getSettings = endpoint({
  method: 'get',
  path: '/courses/:courseId/settings',
  needs: 'course.teach',
  answer: is<CourseSettings>(),
});

export const changeSettings = endpoint({
  method: 'patch',
  path: '/courses/:courseId/settings',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<SettingsChange>(),
  answer: is<CourseSettings>(),
  audit: 'course settings changed',
  undo: 'itself',
});

export const partSections = endpoint({
  method: 'post',
  path: '/courses/:courseId/section-partings',
  needs: 'roster.edit',
  movesGrades: true,
  body: is<SectionParting>(),
  answer: is<SectionsParted>(),
  audit: 'sections parted again',
  undo: { none: 'It is the way back itself.' },
});

export const addSection = endpoint({
  method: 'post',
  path: '/courses/:courseId/sections',
  needs: 'roster.edit',
  movesGrades: true,
  body: is<NewSection>(),
  answer: is<SectionMoved & { readonly id: string }>(),
  audit: 'section added',
  undo: partSections,
});

export const changeSection = endpoint({
  method: 'patch',
  path: '/courses/:courseId/sections/:sectionId',
  needs: 'roster.edit',
  body: is<SectionChange>(),
  answer: is<CourseSettings>(),
  audit: 'section changed',
});

export const removeSection = endpoint({
  method: 'delete',
  path: '/courses/:courseId/sections/:sectionId',
  needs: 'roster.edit',
  answer: is<CourseSettings>(),
  audit: 'section removed',
});

export const getPublicCourse = endpoint({
  method: 'get',
  path: '/public-courses/:publicId',
  needs: 'public',
  answer: is<PublicCourse>(),
});

export const getPublicCoursePicture = endpoint({
  method: 'get',
  path: '/public-courses/:publicId/picture',
  needs: 'public',
  isStream: true,
});

export const enrolOneself = endpoint({
  method: 'post',
  path: '/public-courses/:publicId/enrolment',
  needs: 'person',
  body: is<SelfEnrolment>(),
  audit: 'enrolled themselves',
});

export const listenToCourse = endpoint({
  method: 'get',
  path: '/courses/:courseId/events',
  needs: 'course.see',
  isStream: true,
});

export const joinSection = endpoint({
  method: 'post',
  path: '/courses/:courseId/sections/:sectionId/join',
  needs: 'roster.edit',
  movesGrades: true,
  body: is<SectionJoin>(),
  answer: is<SectionMoved>(),
  audit: 'sections merged',
  undo: partSections,
});

/** What a course has and lacks until its first students read something. */
export const getFirstSteps = endpoint({
  method: 'get',
  path: '/courses/:courseId/first-steps',
  needs: 'plan.edit',
  answer: is<FirstSteps>(),
});

/** Somebody who teaches the course looks at it as a student does. */
export const noteSeen = endpoint({
  method: 'put',
  path: '/courses/:courseId/first-steps/seen',
  needs: 'course.seeAs',
  audit: { none: 'It says that somebody has looked, and no more.' },
  isSilent: true,
  isDoneInArchive: true,
});

export { courseEventRoutes } from './events.ts';
export { type CourseRow, getCourse, listOwnCourses, listSections } from './queries.ts';
export { changeSettings, getSettings } from './settings.ts';
export { settingsRoutes } from './settingsRoutes.ts';
export { closeCourse, getLife, noteSeen, removeCourse, restoreCourse, setArchived } from './life.ts';
export { openCourse, putCourse } from './putCourse.ts';
export { requireSection } from './requireSection.ts';

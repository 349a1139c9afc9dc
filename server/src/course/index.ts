export { courseEventRoutes } from './events.ts';
export { type CourseRow, getCourse, listOwnCourses, listSections } from './queries.ts';
export { moveStudents } from './sections.ts';
export { changeSettings, getSettings } from './settings.ts';
export { settingsRoutes } from './settingsRoutes.ts';

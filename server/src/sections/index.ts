export { moveStudents, putSection } from './sections.ts';
export { sectionRoutes } from './routes.ts';

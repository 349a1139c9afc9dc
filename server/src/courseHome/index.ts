export { addCourse } from './addCourse.ts';
export { schoolSteps } from './firstSteps.ts';
export { saveProgramme } from './programme.ts';
export { courseRoutes } from './routes.ts';
export { putProgramme } from './programme.ts';

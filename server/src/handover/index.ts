export { handOverGrades } from './job.ts';
export { handoverRoutes } from './routes.ts';

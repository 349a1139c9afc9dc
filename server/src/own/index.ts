export { studentRoutes } from './routes.ts';
export { addVisit } from './visits.ts';

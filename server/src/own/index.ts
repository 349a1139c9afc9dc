export { studentRoutes } from './routes.ts';
export { addVisit, forgetActivity } from './visits.ts';

export { addObjective, align, listObjectives } from './queries.ts';
export { objectiveRoutes } from './routes.ts';

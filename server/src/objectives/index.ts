export { addObjective, align, listObjectives } from './queries.ts';
export { objectiveRoutes } from './routes.ts';
export { alignCopies } from './alignCopies.ts';
export { carryObjectives } from './carryObjectives.ts';
export { listRemovedObjectives, listTitlesOfObjectives } from './removed.ts';

export { copyRubrics } from './copyRubrics.ts';
export { keptRubricRoutes } from './keptRubrics.ts';
export { findRubric, findRubricInUse, findRubrics } from './rubrics.ts';
export { writeRubric } from './writeRubric.ts';

export { copyRubrics } from './copyRubrics.ts';
export { keptRubricRoutes } from './keptRubrics.ts';
export { findRubric, findRubricInUse } from './rubrics.ts';
export { writeRubric } from './writeRubric.ts';

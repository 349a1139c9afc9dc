export { findAssignment } from './findAssignment.ts';
export { saveAssignment } from './saveAssignment.ts';
export { saveRubric } from './saveRubric.ts';
export { assignment } from './assignment.ts';

import { asks, endpoint, is, LOOKS } from '../contract.ts';
import type {
  Alignment,
  NewObjective,
  ObjectiveChange,
  ObjectiveView,
  Objectives,
  ObjectivesDone,
  ObjectivesPreview,
} from '../objectives.ts';

export const listObjectives = endpoint({
  method: 'get',
  path: '/courses/:courseId/objectives',
  needs: 'course.teach',
  answer: is<{ readonly objectives: readonly ObjectiveView[] }>(),
});

export const getObjectivesFile = endpoint({
  method: 'get',
  path: '/courses/:courseId/objectives/file',
  needs: 'course.teach',
  isStream: true,
  query: asks({ format: ['csv', 'case'] }, 'format'),
});

export const addObjective = endpoint({
  method: 'post',
  path: '/courses/:courseId/objectives',
  needs: 'plan.edit',
  body: is<NewObjective>(),
  answer: is<{ readonly objectives: readonly ObjectiveView[]; readonly id: string }>(),
  audit: 'objective added',
});

export const previewObjectives = endpoint({
  method: 'post',
  path: '/courses/:courseId/objectives/preview',
  needs: 'plan.edit',
  isSilent: true,
  takesFile: 'file',
  answer: is<ObjectivesPreview>(),
  audit: LOOKS,
});

export const importObjectives = endpoint({
  method: 'post',
  path: '/courses/:courseId/objectives/import',
  needs: 'plan.edit',
  takesFile: 'file',
  answer: is<ObjectivesDone>(),
  audit: 'objectives imported',
});

export const changeObjective = endpoint({
  method: 'patch',
  path: '/courses/:courseId/objectives/:objectiveId',
  needs: 'plan.edit',
  body: is<ObjectiveChange>(),
  answer: is<{ readonly objectives: readonly ObjectiveView[] }>(),
  audit: 'objective changed',
});

export const removeObjective = endpoint({
  method: 'delete',
  path: '/courses/:courseId/objectives/:objectiveId',
  needs: 'plan.edit',
  answer: is<Objectives>(),
  audit: 'objective deleted',
});

export const restoreObjective = endpoint({
  method: 'post',
  path: '/courses/:courseId/objectives/:objectiveId/restore',
  needs: 'plan.edit',
  answer: is<Objectives>(),
  audit: 'objective brought back',
});

export const getItemObjectives = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/objectives',
  needs: 'course.teach',
  answer: is<{ readonly objectiveIds: readonly string[] }>(),
});

export const alignItem = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/objectives',
  needs: 'plan.edit',
  body: is<Alignment>(),
  answer: is<{ readonly objectiveIds: readonly string[] }>(),
  audit: 'objectives of an item changed',
});

export const getCriterionObjectives = endpoint({
  method: 'get',
  path: '/courses/:courseId/criteria/:criterionId/objectives',
  needs: 'course.teach',
  answer: is<{ readonly objectiveIds: readonly string[] }>(),
});

export const alignCriterion = endpoint({
  method: 'put',
  path: '/courses/:courseId/criteria/:criterionId/objectives',
  needs: 'plan.edit',
  body: is<Alignment>(),
  answer: is<{ readonly objectiveIds: readonly string[] }>(),
  audit: 'objectives of a criterion changed',
});

import type { DatesChange, DatesDone } from '../dates.ts';
import type { DocumentNode } from '@rosemary/core';
import { asks, endpoint, is, BACK, LOOKS, OWN, TYPED, VERSIONS } from '../contract.ts';
import type { AssignmentChange, InstructionsChange, RubricChange, RubricView } from '../assignment.ts';
import type { CarryDone, CarryPreview, CarryWish } from '../carry.ts';
import type { LinkChange, ShownFileChange } from '../files.ts';
import type {
  BatchChange,
  BatchDone,
  ChangesDropped,
  CourseCheck,
  CourseTime,
  DocumentChange,
  ItemChange,
  ItemChoice,
  ItemDetail,
  NewItem,
  NewTemplate,
  NewUnit,
  Order,
  PageTemplate,
  PageVersion,
  Plan,
  PlanItem,
  TextPublished,
  TextSaved,
  UnitChange,
  VariantsChange,
  VersionSeen,
} from '../plan.ts';

export const getPlan = endpoint({
  method: 'get',
  path: '/courses/:courseId/plan',
  needs: 'course.teach',
  answer: is<Plan>(),
});

export const getCheck = endpoint({
  method: 'get',
  path: '/courses/:courseId/check',
  needs: 'course.teach',
  answer: is<CourseCheck>(),
});

export const getCourseTime = endpoint({
  method: 'get',
  path: '/courses/:courseId/time',
  needs: 'course.teach',
  answer: is<CourseTime>(),
});

export const addUnit = endpoint({
  method: 'post',
  path: '/courses/:courseId/units',
  needs: 'plan.edit',
  body: is<NewUnit>(),
  answer: is<{ readonly id: string; readonly plan: Plan }>(),
  audit: 'unit added',
});

export const changeUnit = endpoint({
  method: 'patch',
  path: '/courses/:courseId/units/:unitId',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<UnitChange>(),
  answer: is<Plan>(),
  audit: 'unit changed',
  undo: 'itself',
});

export const changeItems = endpoint({
  method: 'put',
  path: '/courses/:courseId/items',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<BatchChange>(),
  answer: is<BatchDone>(),
  audit: 'items changed',
  undo: 'itself',
});

/** Moves many dates of a course together: items with the dates of their sections, units, and announcements that are still to come. */
export const changeDates = endpoint({
  method: 'put',
  path: '/courses/:courseId/dates',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<DatesChange>(),
  answer: is<DatesDone>(),
  audit: 'dates moved',
  undo: 'itself',
});

export const duplicateItems = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/duplicates',
  needs: 'plan.edit',
  body: is<ItemChoice>(),
  answer: is<{ readonly made: readonly string[]; readonly plan: Plan }>(),
  audit: 'items duplicated',
});

export const previewCarrying = endpoint({
  method: 'post',
  path: '/courses/:courseId/carry/preview',
  needs: 'plan.edit',
  isSilent: true,
  body: is<CarryWish>(),
  answer: is<CarryPreview>(),
  audit: LOOKS,
});

export const carryItems = endpoint({
  method: 'post',
  path: '/courses/:courseId/carry',
  needs: 'plan.edit',
  body: is<CarryWish>(),
  answer: is<CarryDone>(),
  audit: 'items copied from another course',
});

export const restoreItems = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/restorals',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<ItemChoice>(),
  answer: is<Plan>(),
  audit: 'items brought back',
  undo: BACK,
});

export const restoreUnit = endpoint({
  method: 'post',
  path: '/courses/:courseId/units/:unitId/restore',
  needs: 'plan.edit',
  movesGrades: true,
  answer: is<Plan>(),
  audit: 'unit brought back',
  undo: BACK,
});

export const restoreItem = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/:itemId/restore',
  needs: 'plan.edit',
  movesGrades: true,
  answer: is<Plan>(),
  audit: 'item brought back',
  undo: BACK,
});

export const orderPlan = endpoint({
  method: 'put',
  path: '/courses/:courseId/order',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<Order>(),
  answer: is<Plan>(),
  audit: 'items moved',
  undo: 'itself',
});

export const addItem = endpoint({
  method: 'post',
  path: '/courses/:courseId/items',
  needs: 'plan.edit',
  body: is<NewItem>(),
  answer: is<{ readonly id: string; readonly plan: Plan }>(),
  audit: 'item added',
});

export const getItem = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId',
  needs: 'course.teach',
  answer: is<ItemDetail>(),
});

export const changeItem = endpoint({
  method: 'patch',
  path: '/courses/:courseId/items/:itemId',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<ItemChange>(),
  answer: is<PlanItem>(),
  audit: 'item changed',
  undo: 'itself',
});

export const savePage = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/page',
  needs: 'plan.edit',
  body: is<DocumentChange>(),
  answer: is<TextSaved>(),
  audit: VERSIONS,
});

/** Students read the working copy from now on. */
export const publishText = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/:itemId/publish',
  needs: 'plan.edit',
  body: is<VersionSeen>(),
  answer: is<TextPublished>(),
  audit: 'changes published',
});

/** Students read the given text again, and what they read until now is the working copy. */
export const takeBackPublishing = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/published',
  needs: 'plan.edit',
  body: is<DocumentChange>(),
  answer: is<TextSaved>(),
  audit: 'publishing taken back',
});

/** The working copy is no more. */
export const dropWorkingCopy = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/:itemId/drop-changes',
  needs: 'plan.edit',
  body: is<VersionSeen>(),
  answer: is<ChangesDropped>(),
  audit: 'changes dropped',
});

export const saveLink = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/link',
  needs: 'plan.edit',
  body: is<LinkChange>(),
  answer: is<{ readonly version: number }>(),
  audit: 'link changed',
});

export const saveShownFile = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/file',
  needs: 'plan.edit',
  body: is<ShownFileChange>(),
  answer: is<{ readonly version: number }>(),
  audit: 'file shown changed',
});

export const getPageVersions = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/versions',
  needs: 'course.teach',
  answer: is<{ readonly versions: readonly PageVersion[] }>(),
});

export const getPageVersion = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/version',
  needs: 'course.teach',
  query: asks({ number: 'whole' }, 'number'),
  answer: is<{ readonly document: DocumentNode }>(),
});

export const listTemplates = endpoint({
  method: 'get',
  path: '/templates',
  needs: 'person',
  answer: is<{ readonly templates: readonly PageTemplate[] }>(),
});

export const addTemplate = endpoint({
  method: 'post',
  path: '/templates',
  needs: 'person',
  body: is<NewTemplate>(),
  answer: is<{ readonly id: string }>(),
  audit: OWN,
});

/** A template's text for a page here; its files come among those of this course. */
export const useTemplate = endpoint({
  method: 'post',
  path: '/courses/:courseId/templates/:templateId/uses',
  needs: 'plan.edit',
  answer: is<{ readonly document: DocumentNode }>(),
  audit: 'template used',
});

export const removeTemplate = endpoint({
  method: 'delete',
  path: '/templates/:templateId',
  needs: 'person',
  audit: OWN,
});

export const restoreTemplate = endpoint({
  method: 'post',
  path: '/templates/:templateId/restore',
  needs: 'person',
  audit: OWN,
});

export const saveAssignment = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/assignment',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<AssignmentChange>(),
  answer: is<{ readonly version: number }>(),
  audit: 'assignment changed',
  undo: 'itself',
});

export const saveRubric = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/rubric',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<RubricChange>(),
  answer: is<{ readonly rubric: RubricView | null; readonly followed: number; readonly kept: number }>(),
  audit: 'rubric changed',
  undo: 'itself',
});

export const saveVariants = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/variants',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<VariantsChange>(),
  answer: is<PlanItem>(),
  audit: 'other dates changed',
  undo: 'itself',
});

export const removeItems = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/removals',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<ItemChoice>(),
  answer: is<Plan>(),
  audit: 'items deleted',
  undo: restoreItems,
});

export const removeUnit = endpoint({
  method: 'delete',
  path: '/courses/:courseId/units/:unitId',
  needs: 'plan.edit',
  movesGrades: true,
  answer: is<Plan>(),
  audit: 'unit deleted',
  undo: restoreUnit,
});

export const removeItem = endpoint({
  method: 'delete',
  path: '/courses/:courseId/items/:itemId',
  needs: 'plan.edit',
  movesGrades: true,
  answer: is<Plan>(),
  audit: 'item deleted',
  undo: restoreItem,
});

/** The words of an assignment, saved as they are typed; what it asks and how it counts is saved apart from them. */
export const saveInstructions = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/instructions',
  needs: 'plan.edit',
  body: is<InstructionsChange>(),
  answer: is<TextSaved>(),
  audit: TYPED,
});

import { endpoint, is, BACK, LOOKS, OWN_WORK } from '../contract.ts';
import type { GroupChoice, GroupSetChange, Groups, ListedGroups, NewGroupSet } from '../groups.ts';

export const getGroups = endpoint({
  method: 'get',
  path: '/courses/:courseId/group-sets',
  needs: 'course.teach',
  answer: is<Groups>(),
});

export const addGroupSet = endpoint({
  method: 'post',
  path: '/courses/:courseId/group-sets',
  needs: 'roster.edit',
  body: is<NewGroupSet>(),
  answer: is<{ readonly id: string; readonly groups: Groups }>(),
  audit: 'groups made',
});

export const changeGroupSet = endpoint({
  method: 'put',
  path: '/courses/:courseId/group-sets/:setId',
  needs: 'roster.edit',
  movesGrades: true,
  body: is<GroupSetChange>(),
  answer: is<Groups>(),
  audit: 'groups changed',
  undo: 'itself',
});

export const readGroupList = endpoint({
  method: 'post',
  path: '/courses/:courseId/group-sets/read',
  needs: 'roster.edit',
  isSilent: true,
  takesFile: 'file',
  answer: is<ListedGroups>(),
  audit: LOOKS,
});

export const joinGroup = endpoint({
  method: 'put',
  path: '/courses/:courseId/own/group-sets/:setId',
  needs: 'work.own',
  gives: true,
  body: is<GroupChoice>(),
  audit: OWN_WORK,
});

export const restoreGroupSet = endpoint({
  method: 'post',
  path: '/courses/:courseId/group-sets/:setId/restore',
  needs: 'roster.edit',
  movesGrades: true,
  answer: is<Groups>(),
  audit: 'groups brought back',
  undo: BACK,
});

export const removeGroupSet = endpoint({
  method: 'delete',
  path: '/courses/:courseId/group-sets/:setId',
  needs: 'roster.edit',
  movesGrades: true,
  answer: is<Groups>(),
  audit: 'groups removed',
  undo: restoreGroupSet,
});

import { endpoint, is, LOOKS } from '../contract.ts';
import type { GivePlace, GiveWish, GivenBoard, GivingChange, GivingDone, GivingLine } from '../giving.ts';
import type { ItemChoice } from '../plan.ts';

export const listGivePlaces = endpoint({
  method: 'post',
  path: '/courses/:courseId/giving/places',
  needs: 'plan.edit',
  isSilent: true,
  body: is<ItemChoice>(),
  answer: is<readonly GivePlace[]>(),
  audit: LOOKS,
});

/** Deletes the copies of a giving with what was announced of them, or brings all of that back. */
export const setGiving = endpoint({
  method: 'put',
  path: '/courses/:courseId/giving/:givingId',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<GivingChange>(),
  audit: 'what was given taken back or restored',
  undo: 'itself',
});

/** Copies items to several classes, each with its own dates: all of them or none. */
export const giveItems = endpoint({
  method: 'post',
  path: '/courses/:courseId/giving',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<GiveWish>(),
  answer: is<GivingDone>(),
  audit: 'items given to classes',
  undo: setGiving,
});

export const listGivings = endpoint({
  method: 'get',
  path: '/courses/:courseId/giving',
  needs: 'course.teach',
  answer: is<readonly GivingLine[]>(),
});

/** Who has handed in what was given, over all classes. */
export const getGivenBoard = endpoint({
  method: 'get',
  path: '/courses/:courseId/giving/:givingId',
  needs: 'course.teach',
  answer: is<GivenBoard>(),
});

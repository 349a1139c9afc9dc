import { endpoint, is } from '../contract.ts';
import type { PlanItem } from '../plan.ts';
import type { HandOpeningWish, Touched } from '../release.ts';

export const getTouched = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/touched',
  needs: 'plan.edit',
  answer: is<Touched>(),
});

export const endHandOpening = endpoint({
  method: 'delete',
  path: '/courses/:courseId/items/:itemId/hand-openings/:openingId',
  needs: 'plan.edit',
  movesGrades: true,
  answer: is<PlanItem>(),
  audit: 'opening by hand ended',
  undo: { none: 'It is opened by hand again.' },
});

export const openByHand = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/:itemId/hand-openings',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<HandOpeningWish>(),
  answer: is<{ readonly id: string; readonly item: PlanItem }>(),
  audit: 'item opened by hand',
  undo: endHandOpening,
});

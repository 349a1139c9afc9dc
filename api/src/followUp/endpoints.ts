import { endpoint, is } from '../contract.ts';
import type { FollowUps, FollowWish } from '../followUp.ts';

export const getFollowUps = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/follow-ups',
  needs: 'marking.see',
  answer: is<FollowUps>(),
});

export const addFollowUp = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/:itemId/follow-ups',
  needs: 'plan.edit',
  body: is<FollowWish>(),
  answer: is<{ readonly id: string }>(),
  audit: 'follow-up added',
});

export const removeFollowUp = endpoint({
  method: 'delete',
  path: '/courses/:courseId/items/:itemId/follow-ups/:ruleId',
  needs: 'plan.edit',
  audit: 'follow-up ended',
});

export const restoreFollowUp = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/:itemId/follow-ups/:ruleId/restore',
  needs: 'plan.edit',
  audit: 'follow-up brought back',
});

export const takeBackFollowUp = endpoint({
  method: 'delete',
  path: '/courses/:courseId/items/:itemId/follow-ups/:ruleId/students/:enrolmentId',
  needs: 'marking.mark',
  audit: 'follow-up taken back',
});

export const tryFollowUpAgain = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/:itemId/follow-ups/:ruleId/students/:enrolmentId/again',
  needs: 'marking.mark',
  audit: 'follow-up tried again',
});

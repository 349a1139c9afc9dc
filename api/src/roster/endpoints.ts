import { endpoint, is } from '../contract.ts';
import type { MemberChange, NewMember, Roster } from '../roster.ts';

export const getRoster = endpoint({
  method: 'get',
  path: '/courses/:courseId/roster',
  needs: 'roster.see',
  answer: is<Roster>(),
});

export const addMember = endpoint({
  method: 'post',
  path: '/courses/:courseId/roster',
  needs: 'roster.edit',
  body: is<NewMember>(),
  answer: is<Roster>(),
  audit: 'member added',
});

export const changeMember = endpoint({
  method: 'patch',
  path: '/courses/:courseId/roster/:enrolmentId',
  needs: 'roster.edit',
  movesGrades: true,
  body: is<MemberChange>(),
  answer: is<Roster>(),
  audit: 'member changed',
  undo: 'itself',
});

import { asks, endpoint, is } from '../contract.ts';
import type { MemberChange, NewMember, PersonToAdd, Roster } from '../roster.ts';

export const getRoster = endpoint({
  method: 'get',
  path: '/courses/:courseId/roster',
  needs: 'roster.see',
  answer: is<Roster>(),
});

/** Those of the school who are not in the course yet and have these letters in their name or email. */
export const findPeople = endpoint({
  method: 'get',
  path: '/courses/:courseId/people',
  needs: 'roster.edit',
  query: asks({ q: 'text' }),
  answer: is<readonly PersonToAdd[]>(),
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

import { endpoint, is, LOOKS } from '../contract.ts';
import type { MatchReport, MatchSetting, MatchState } from '../matching.ts';

export const getMatching = endpoint({
  method: 'get',
  path: '/courses/:courseId/matching/:itemId',
  needs: 'marking.see',
  answer: is<MatchState>(),
});

export const changeMatching = endpoint({
  method: 'put',
  path: '/courses/:courseId/matching/:itemId',
  needs: 'marking.release',
  body: is<MatchSetting>(),
  answer: is<MatchState>(),
  audit: 'matching changed',
});

export const runMatching = endpoint({
  method: 'post',
  path: '/courses/:courseId/matching/:itemId/run',
  needs: 'marking.mark',
  isSilent: true,
  answer: is<MatchState>(),
  audit: LOOKS,
});

export const getMatches = endpoint({
  method: 'get',
  path: '/courses/:courseId/marking/:itemId/:enrolmentId/matches',
  needs: 'marking.see',
  answer: is<{ readonly report: MatchReport | null }>(),
});

export const getOwnMatches = endpoint({
  method: 'get',
  path: '/courses/:courseId/own/items/:itemId/matches',
  needs: 'work.own',
  answer: is<{ readonly report: MatchReport | null }>(),
});

import { endpoint, is } from '../contract.ts';
import type { ProgressDetail, ProgressView } from '../progress.ts';

export const getProgress = endpoint({
  method: 'get',
  path: '/courses/:courseId/progress',
  needs: 'progress.see',
  answer: is<ProgressView>(),
});

export const getProgressOf = endpoint({
  method: 'get',
  path: '/courses/:courseId/progress/:enrolmentId',
  needs: 'progress.see',
  answer: is<ProgressDetail>(),
});

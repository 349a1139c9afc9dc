import { asks, endpoint, is } from '../contract.ts';
import type { Bin, CourseHistory } from '../history.ts';

/** What was deleted in the last 30 days; each is put back by the endpoint of its own kind. */
export const getBin = endpoint({
  method: 'get',
  path: '/courses/:courseId/bin',
  needs: 'plan.edit',
  answer: is<Bin>(),
});

/** What was done in a course, the latest first; `before` goes on from an earlier page, `by` keeps to one person. */
export const getHistory = endpoint({
  method: 'get',
  path: '/courses/:courseId/history',
  needs: 'plan.edit',
  query: asks({ before: 'whole', by: 'id' }),
  answer: is<CourseHistory>(),
});

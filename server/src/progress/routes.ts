import { reachesSection } from '@rosemary/core';
import { notFound } from '../platform/errors.ts';
import { courseRoute, type Route } from '../platform/route.ts';
import { makeDetail, makeProgress, readDetail } from './report.ts';

export const progressRoutes: readonly Route[] = [
  courseRoute('progress.see', {
    method: 'get',
    path: '/courses/:courseId/progress',
    handle: ({ db, courseId, member, now }) => makeProgress(db, courseId, member.sectionIds, now),
  }),
  courseRoute('progress.see', {
    method: 'get',
    path: '/courses/:courseId/progress/:enrolmentId',
    handle: async ({ db, courseId, member, params, now }) => {
      const { course, person } = await readDetail(db, courseId, params.enrolmentId ?? '');
      if (person === null || !reachesSection(member, person.sectionId)) throw notFound();
      return makeDetail(course, person, now);
    },
  }),
];

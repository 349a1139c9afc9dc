import * as api from '@rosemary/api/endpoints';
import { reachesSection } from '@rosemary/core';
import { notFound } from '../platform/errors.ts';
import { implement, type Route } from '../platform/route.ts';
import { makeDetail, makeProgress, readDetail } from './report.ts';

export const progressRoutes: readonly Route[] = [
  implement(api.getProgress, ({ db, courseId, member, now }) => makeProgress(db, courseId, member.sectionIds, now)),
  implement(api.getProgressOf, async ({ db, courseId, member, params, now }) => {
    const { course, person } = await readDetail(db, courseId, params.enrolmentId, now);
    if (person === null || !reachesSection(member, person.sectionId)) throw notFound();
    return makeDetail(course, person, now);
  }),
];

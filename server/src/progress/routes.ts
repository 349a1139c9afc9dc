import * as api from '@rosemary/api/endpoints';
import { reachesSection } from '@rosemary/core';
import { notFound } from '../platform/errors.ts';
import { implement, type Route } from '../platform/route.ts';
import { readClassProgress } from './classProgress.ts';
import { listAlignedQuestions, makeObjectives } from './aligned.ts';
import { makeDetail } from './detail.ts';
import { readCourse } from './readCourse.ts';
import { makeReport } from './report.ts';
import { makeRhythm } from './rhythm.ts';
import { makeVisits } from './visits.ts';

export const progressRoutes: readonly Route[] = [
  implement(api.getProgress, ({ db, courseId, member, now }) => makeReport(db, courseId, member.sectionIds, now)),
  implement(api.getProgressObjectives, ({ db, courseId, member, now }) => makeObjectives(db, courseId, member.sectionIds, now)),
  implement(api.getAlignedQuestions, ({ db, courseId, member, query, now }) =>
    listAlignedQuestions(db, courseId, { objective: query.objective ?? '', item: query.item ?? '' }, member.sectionIds, now),
  ),
  implement(api.getProgressRhythm, ({ db, courseId, member }) => makeRhythm(db, courseId, { sectionIds: member.sectionIds })),
  implement(api.getProgressVisits, ({ db, courseId, member, now }) => makeVisits(db, courseId, member.sectionIds, now)),
  implement(api.getClassProgress, ({ db, courseId, now }) => readClassProgress(db, courseId, now)),
  implement(api.getProgressOf, async ({ db, courseId, member, params, now }) => {
    const course = await readCourse(db, courseId, { enrolmentId: params.enrolmentId }, now);
    const [person] = course.facts.people;
    if (person === undefined || !reachesSection(member, person.sectionId)) throw notFound();
    return makeDetail(course, person, now);
  }),
];

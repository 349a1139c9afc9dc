import { selfEnrolment, settingsChange } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { findFile, sendFile } from '../files/index.ts';
import { notFound } from '../platform/errors.ts';
import { implement, type Route } from '../platform/route.ts';
import { enrolSelf, getPublicCourse, getPublicPicture } from './publicPage.ts';
import { changeSettings, getSettings } from './settings.ts';

export const settingsRoutes: readonly Route[] = [
  implement(api.getSettings, ({ db, courseId }) => getSettings(db, courseId)),
  implement(api.changeSettings, settingsChange, (c) => changeSettings(c.db, c.courseId, c.body)),
  implement(api.getPublicCourse, ({ db, params, now }) => getPublicCourse(db, params.publicId, now)),
  implement(api.getPublicCoursePicture, async ({ db, params, request, response }) => {
    const courseId = params.publicId;
    const file = await findFile(db, courseId, await getPublicPicture(db, courseId));
    if (file === null) throw notFound();
    return sendFile(file, request, response);
  }),
  implement(api.enrolOneself, selfEnrolment, async ({ db, params, person, body, now, account }) => {
    const courseId = params.publicId;
    await enrolSelf(db, courseId, person.personId, body.sectionId, now);
    account({ courseId });
  }),
];

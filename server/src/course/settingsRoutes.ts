import { newSection, sectionChange, sectionJoin, sectionParting, selfEnrolment, settingsChange } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { findFile, sendFile } from '../files/index.ts';
import { notFound } from '../platform/errors.ts';
import { implement, type Route } from '../platform/route.ts';
import { enrolSelf, getPublicCourse, getPublicPicture } from './publicPage.ts';
import { addSection, changeSection, joinSection, partAgain, removeSection } from './sections.ts';
import { changeSettings, getSettings } from './settings.ts';

export const settingsRoutes: readonly Route[] = [
  implement(api.getSettings, ({ db, courseId }) => getSettings(db, courseId)),
  implement(api.changeSettings, settingsChange, async (c) => {
    const settings = await changeSettings(c.db, c.courseId, c.body);
    return settings;
  }),
  implement(api.addSection, newSection, async (c) => {
    const done = await addSection(c.db, c.courseId, c.body);
    return done;
  }),
  implement(api.changeSection, sectionChange, async (c) => {
    await changeSection(c.db, c.courseId, c.params.sectionId, c.body);
    return getSettings(c.db, c.courseId);
  }),
  implement(api.joinSection, sectionJoin, async (c) => {
    const done = await joinSection(c.db, c.courseId, c.params.sectionId, c.body.into);
    return done;
  }),
  implement(api.partSections, sectionParting, async (c) => {
    const settings = await partAgain(c.db, c.courseId, c.body.moved);
    return settings;
  }),
  implement(api.removeSection, async (c) => {
    const settings = await removeSection(c.db, c.courseId, c.params.sectionId);
    return settings;
  }),
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

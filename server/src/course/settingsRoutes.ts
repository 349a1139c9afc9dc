import {
  newSection,
  sectionChange,
  sectionJoin,
  sectionParting,
  selfEnrolment,
  settingsChange,
  type NewSection,
  type SectionChange,
  type SectionJoin,
  type SectionParting,
  type SelfEnrolment,
  type SettingsChange,
} from '@rosemary/api';
import { sendFile } from '../files/send.ts';
import { findFile } from '../files/store.ts';
import { writeAudit } from '../platform/audit.ts';
import { notFound } from '../platform/errors.ts';
import { courseRoute, personRoute, publicRoute, type MemberContext, type Route } from '../platform/route.ts';
import {
  addSection,
  changeSection,
  changeSettings,
  enrolSelf,
  getPublicCourse,
  getPublicPicture,
  getSettings,
  joinSection,
  partAgain,
  removeSection,
} from './settings.ts';

const SECTION = '/courses/:courseId/sections/:sectionId';
const audit = (c: MemberContext<unknown>, action: string, subject: string, after: unknown): Promise<void> =>
  writeAudit(c.db, { at: c.now, actorId: c.person.personId, courseId: c.courseId, action, subject, after });

export const settingsRoutes: readonly Route[] = [
  courseRoute('course.teach', {
    method: 'get',
    path: '/courses/:courseId/settings',
    handle: ({ db, courseId }) => getSettings(db, courseId),
  }),
  courseRoute<SettingsChange>('plan.edit', {
    method: 'patch',
    path: '/courses/:courseId/settings',
    movesGrades: true,
    body: settingsChange,
    handle: async (c) => {
      const settings = await changeSettings(c.db, c.courseId, c.body);
      await audit(c, 'course settings changed', c.courseId, c.body);
      return settings;
    },
  }),
  courseRoute<NewSection>('roster.edit', {
    method: 'post',
    path: '/courses/:courseId/sections',
    movesGrades: true,
    body: newSection,
    handle: async (c) => {
      const done = await addSection(c.db, c.courseId, c.body);
      await audit(c, 'section added', done.id, c.body);
      return done;
    },
  }),
  courseRoute<SectionChange>('roster.edit', {
    method: 'patch',
    path: SECTION,
    body: sectionChange,
    handle: async (c) => {
      await changeSection(c.db, c.courseId, c.params.sectionId ?? '', c.body);
      await audit(c, 'section changed', c.params.sectionId ?? '', c.body);
      return getSettings(c.db, c.courseId);
    },
  }),
  courseRoute<SectionJoin>('roster.edit', {
    method: 'post',
    path: `${SECTION}/join`,
    movesGrades: true,
    body: sectionJoin,
    handle: async (c) => {
      const done = await joinSection(c.db, c.courseId, c.params.sectionId ?? '', c.body.into);
      await audit(c, 'section joined to another', c.params.sectionId ?? '', c.body);
      return done;
    },
  }),
  courseRoute<SectionParting>('roster.edit', {
    method: 'post',
    path: '/courses/:courseId/section-partings',
    movesGrades: true,
    body: sectionParting,
    handle: async (c) => {
      const settings = await partAgain(c.db, c.courseId, c.body.moved);
      await audit(c, 'sections parted again', c.courseId, c.body);
      return settings;
    },
  }),
  courseRoute('roster.edit', {
    method: 'delete',
    path: SECTION,
    handle: async (c) => {
      const settings = await removeSection(c.db, c.courseId, c.params.sectionId ?? '');
      await audit(c, 'section taken away', c.params.sectionId ?? '', null);
      return settings;
    },
  }),
  publicRoute({
    method: 'get',
    path: '/public-courses/:publicId',
    handle: ({ db, params, now }) => getPublicCourse(db, params.publicId ?? '', now),
  }),
  publicRoute({
    method: 'get',
    path: '/public-courses/:publicId/picture',
    answers: 'stream',
    handle: async ({ db, params, request, response }) => {
      const courseId = params.publicId ?? '';
      const file = await findFile(db, courseId, await getPublicPicture(db, courseId));
      if (file === null) throw notFound();
      return sendFile(file, request, response);
    },
  }),
  personRoute<SelfEnrolment>({
    method: 'post',
    path: '/public-courses/:publicId/enrolment',
    body: selfEnrolment,
    handle: async ({ db, params, person, body, now }) => {
      const courseId = params.publicId ?? '';
      await enrolSelf(db, courseId, person.personId, body.sectionId, now);
      await writeAudit(db, { at: now, actorId: person.personId, courseId, action: 'enrolled themselves', after: body });
    },
  }),
];

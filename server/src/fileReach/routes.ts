import * as api from '@rosemary/api/endpoints';
import { findFile, sendFile } from '../files/index.ts';
import { notFound } from '../platform/errors.ts';
import { implement, type Route } from '../platform/route.ts';
import { canReach } from './canReach.ts';

export const fileReachRoutes: readonly Route[] = [
  implement(api.getFile, async ({ db, courseId, params, person, member, now, request, response }) => {
    const file = await findFile(db, courseId, params.fileId);
    if (file === null || !(await canReach(db, courseId, file, member, person.personId, now))) throw notFound();
    return sendFile(file, request, response);
  }),
];

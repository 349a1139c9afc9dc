import { noticeChoice } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { maybe } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';
import { implement, type Route } from '../platform/route.ts';
import { getNotices, listOutbox, setChoice, setSeen } from './notices.ts';

export const noticeRoutes: readonly Route[] = [
  implement(api.getNotices, ({ db, person }) => getNotices(db, person.personId)),
  implement(api.seeNotices, async ({ db, person, now }) => {
    await setSeen(db, person.personId, now);
    return getNotices(db, person.personId);
  }),
  implement(api.chooseNotices, noticeChoice, async ({ db, person, body }) => {
    await setChoice(db, person.personId, body);
    return getNotices(db, person.personId);
  }),
  implement(api.getOutbox, async ({ db, person }) => {
    const school = await maybe<{ is_demo: boolean }>(db, 'select is_demo from school');
    if (school?.is_demo !== true && !person.isAdministrator)
      throw new AppError('refused', 'The outbox is for administrators of the school.');
    return { mails: await listOutbox(db) };
  }),
];

import { datesChange } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { implement, type Route } from '../platform/route.ts';
import { changeDates } from './changeDates.ts';

export const dateSheetRoutes: readonly Route[] = [
  implement(api.changeDates, datesChange, async (c) => {
    const done = await changeDates(c.db, c.courseId, c.body, c.now);
    c.account({ before: done.undo });
    return done;
  }),
];

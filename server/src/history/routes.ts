import * as api from '@rosemary/api/endpoints';
import { implement, type Route } from '../platform/route.ts';
import { BIN_DAYS, listBin, readHistory } from './queries.ts';

export const historyRoutes: readonly Route[] = [
  implement(api.getBin, async ({ db, courseId, now }) => ({ entries: await listBin(db, courseId, now), days: BIN_DAYS })),
  implement(api.getHistory, ({ db, courseId, query }) => readHistory(db, courseId, query.before ?? null, query.by ?? null)),
];

import { markTogether, type MarkTogether } from '@rosemary/api';
import { courseRoute, type Route } from '../platform/route.ts';
import { makeFairness } from './fairness.ts';
import { ITEM } from './routes.ts';
import { listAnswers, markTogetherAll } from './together.ts';

/** What is done about the works of an item as a whole. */
export const togetherRoutes: readonly Route[] = [
  courseRoute('marking.see', { method: 'get', path: `${ITEM}/answers`, handle: listAnswers }),
  courseRoute<MarkTogether>('marking.mark', {
    method: 'post',
    path: `${ITEM}/together`,
    gives: true,
    body: markTogether,
    handle: markTogetherAll,
  }),
  courseRoute('marking.release', {
    method: 'get',
    path: `${ITEM}/fairness`,
    handle: ({ db, courseId, params, now }) => makeFairness(db, courseId, params.itemId ?? '', now),
  }),
];

import * as api from '@rosemary/api/endpoints';
import { markTogether } from '@rosemary/api';
import { implement, type Route } from '../platform/route.ts';
import { makeFairness } from './fairness.ts';
import { listAnswers, markTogetherAll } from './together.ts';

/** What is done about the works of an item as a whole. */
export const togetherRoutes: readonly Route[] = [
  implement(api.getAnswers, listAnswers),
  implement(api.markTogether, markTogether, markTogetherAll),
  implement(api.getFairness, ({ db, courseId, params, now }) => makeFairness(db, courseId, params.itemId, now)),
];

import { handOpening } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { getPlanItem } from '../items/index.ts';
import { countTouched, endHandOpening, openByHand, readReach } from '../opening/index.ts';
import { implement, type Route } from '../platform/route.ts';

export const releaseRoutes: readonly Route[] = [
  implement(api.getTouched, async ({ db, courseId, params, now }) => {
    const { id } = await getPlanItem(db, courseId, params.itemId, now);
    return countTouched(db, courseId, id, (await readReach(db, courseId)).isFor);
  }),
  implement(api.openByHand, handOpening, async ({ db, courseId, params, person, body, now }) => {
    const itemId = params.itemId;
    const id = await openByHand(db, courseId, itemId, body, person.personId, now);
    return { id, item: await getPlanItem(db, courseId, itemId, now) };
  }),
  implement(api.endHandOpening, async ({ db, courseId, params, now }) => {
    const itemId = params.itemId;
    await endHandOpening(db, courseId, itemId, params.openingId, now);
    return getPlanItem(db, courseId, itemId, now);
  }),
];

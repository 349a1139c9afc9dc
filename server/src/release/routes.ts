import { handOpening, type HandOpeningWish } from '@rosemary/api';
import { getPlanItem } from '../plan/queries.ts';
import { writeAudit } from '../platform/audit.ts';
import { courseRoute, type Route } from '../platform/route.ts';
import { countTouched, endHandOpening, openByHand } from './changes.ts';
import { readReach } from './reach.ts';

const ITEM = '/courses/:courseId/items/:itemId';

export const releaseRoutes: readonly Route[] = [
  courseRoute('plan.edit', {
    method: 'get',
    path: `${ITEM}/touched`,
    handle: async ({ db, courseId, params, now }) => {
      const { id } = await getPlanItem(db, courseId, params.itemId ?? '', now);
      return countTouched(db, courseId, id, (await readReach(db, courseId)).isFor);
    },
  }),
  courseRoute<HandOpeningWish>('plan.edit', {
    method: 'post',
    path: `${ITEM}/hand-openings`,
    movesGrades: true,
    body: handOpening,
    handle: async ({ db, courseId, params, person, body, now }) => {
      const itemId = params.itemId ?? '';
      const id = await openByHand(db, courseId, itemId, body, person.personId, now);
      await writeAudit(db, { at: now, actorId: person.personId, courseId, action: 'item opened by hand', subject: itemId, after: body });
      return { id, item: await getPlanItem(db, courseId, itemId, now) };
    },
  }),
  courseRoute('plan.edit', {
    method: 'delete',
    path: `${ITEM}/hand-openings/:openingId`,
    movesGrades: true,
    handle: async ({ db, courseId, params, person, now }) => {
      const itemId = params.itemId ?? '';
      await endHandOpening(db, courseId, itemId, params.openingId ?? '', now);
      await writeAudit(db, { at: now, actorId: person.personId, courseId, action: 'opening by hand ended', subject: itemId });
      return getPlanItem(db, courseId, itemId, now);
    },
  }),
];

import { giveWish, givingChange, itemChoice } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { implement, type Route } from '../platform/route.ts';
import { listGivings, makeGivenBoard } from './board.ts';
import { giveItems } from './give.ts';
import { listGivePlaces } from './places.ts';
import { setGiving } from './takeBack.ts';

export const givingRoutes: readonly Route[] = [
  implement(api.listGivePlaces, itemChoice, (c) => listGivePlaces(c.db, c.courseId, c.body.itemIds, c.person.memberships, c.now)),
  implement(api.giveItems, giveWish, async (c) => {
    const done = await giveItems(c.db, c.courseId, c.body, c.person, c.now);
    // Each course it reaches has it in its own account.
    for (const { courseId, itemIds } of done.made)
      c.account({ courseId, before: { courseId: c.courseId, itemIds: c.body.cells.map((cell) => cell.itemId) }, after: itemIds });
    return done;
  }),
  implement(api.setGiving, givingChange, (c) =>
    setGiving(c.db, c.courseId, c.params.givingId, c.body.isTakenBack, c.person.memberships, c.now),
  ),
  implement(api.listGivings, (c) => listGivings(c.db, c.courseId)),
  implement(api.getGivenBoard, (c) => makeGivenBoard(c.db, c.courseId, c.params.givingId, c.person.memberships, c.now)),
];

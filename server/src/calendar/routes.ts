import * as api from '@rosemary/api/endpoints';
import { implement, type Route } from '../platform/route.ts';
import { getFeedSecret, makeCalendar, makeFeed } from './calendar.ts';

export const calendarRoutes: readonly Route[] = [
  implement(api.getCourseCalendar, (c) => makeCalendar(c.db, [c.member], c.person.personId, c.now)),
  implement(api.getCalendar, ({ db, person, now }) =>
    makeCalendar(
      db,
      person.memberships.filter((m) => m.isActive),
      person.personId,
      now,
    ),
  ),
  implement(api.getCalendarFeed, async ({ db, person, now }) => ({ secret: await getFeedSecret(db, person.personId, false, now) })),
  implement(api.renewCalendarFeed, async ({ db, person, now }) => ({ secret: await getFeedSecret(db, person.personId, true, now) })),
  implement(api.getCalendarFile, async ({ db, params, response, now }) => {
    const text = await makeFeed(db, params.secret, now);
    response.set({ 'content-type': 'text/calendar; charset=utf-8', 'cache-control': 'private, no-cache' }).send(text);
  }),
];

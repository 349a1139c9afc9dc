import { slipChoice, type SlipChoice } from '@rosemary/api';
import { run } from '../platform/database.ts';
import { personRoute, type Route } from '../platform/route.ts';
import { makeDesk } from './desk.ts';

export const deskRoutes: readonly Route[] = [
  personRoute({ method: 'get', path: '/desk', handle: ({ db, person, now }) => makeDesk(db, person, now) }),
  personRoute<SlipChoice>({
    method: 'post',
    path: '/desk/slips',
    body: slipChoice,
    handle: async ({ db, person, body, now }) => {
      await run(
        db,
        'insert into slip_choice (person_id, slip, hidden_until) values ($1, $2, $3) on conflict (person_id, slip) do update set hidden_until = excluded.hidden_until',
        [person.personId, body.slip, body.until],
      );
      return makeDesk(db, person, now);
    },
  }),
];

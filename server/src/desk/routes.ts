import * as api from '@rosemary/api/endpoints';
import { slipChoice } from '@rosemary/api';
import { run } from '../platform/database.ts';
import { implement, type Route } from '../platform/route.ts';
import { makeDesk } from './desk.ts';

export const deskRoutes: readonly Route[] = [
  implement(api.getDesk, ({ db, person, now }) => makeDesk(db, person, now)),
  implement(api.putSlipAside, slipChoice, async ({ db, person, body, now }) => {
    await run(
      db,
      'insert into slip_choice (person_id, slip, hidden_until) values ($1, $2, $3) on conflict (person_id, slip) do update set hidden_until = excluded.hidden_until',
      [person.personId, body.slip, body.until],
    );
    return makeDesk(db, person, now);
  }),
];

import type { PersonChange } from '@rosemary/api';
import { maybe, run, type Db } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';

/**
 * Changes what the school knows of somebody. Whoever is deactivated is signed out everywhere and signs in no more; their work, marks and
 * messages stay. Nobody takes from themselves what only another administrator could give back.
 */
export async function changePerson(db: Db, personId: string, change: PersonChange, byId: string, now: number): Promise<void> {
  if (personId === byId && !change.isActive) throw invalid('isActive', 'You cannot deactivate yourself. Ask another administrator.');
  if (personId === byId && !change.isAdministrator)
    throw invalid('isAdministrator', 'You cannot stop being an administrator by yourself. Ask another one.');
  const taken = await maybe(db, 'select 1 as one from person where email = $1 and id <> $2', [change.email, personId]);
  if (taken !== null) throw invalid('email', `Someone with the email ${change.email} is here already.`);
  const changed = await run(
    db,
    `update person set given_name = $2, family_name = $3, email = $4, is_administrator = $5, teaches = $8,
            deactivated_at = case when $6 then null else coalesce(deactivated_at, to_timestamp($7 / 1000.0)) end
     where id = $1`,
    [personId, change.givenName, change.familyName, change.email, change.isAdministrator, change.isActive, now, change.teaches],
  );
  if (changed === 0) throw notFound();
  if (!change.isActive) await run(db, "delete from session where sess ->> 'personId' = $1", [personId]);
}

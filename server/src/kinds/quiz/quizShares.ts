import type { QuizShareChange, QuizShareView } from '@rosemary/api';
import type { Actor } from '@rosemary/core';
import { requirePersonByEmail } from '../../people/index.ts';
import { type Db, rows, run } from '../../platform/database.ts';
import { invalid } from '../../platform/errors.ts';

/** The colleagues with whom a quiz is shared. */
export const listQuizShares = (db: Db, itemId: string): Promise<QuizShareView[]> =>
  rows<QuizShareView>(
    db,
    `select s.person_id as "personId", p.given_name || ' ' || p.family_name as name, s.can_edit as "canEdit"
     from quiz_share s join person p on p.id = s.person_id where s.item_id = $1 order by p.family_name, p.given_name`,
    [itemId],
  );

export async function changeQuizShares(
  db: Db,
  actor: Actor,
  itemId: string,
  change: QuizShareChange,
  now: number,
): Promise<QuizShareView[]> {
  const { addShare, endShare } = change;
  if (addShare !== undefined) {
    const personId = await requirePersonByEmail(db, addShare.email);
    if (personId === actor.personId) throw invalid('email', 'This is your own email; the quiz is yours already.');
    await run(
      db,
      `insert into quiz_share (item_id, person_id, can_edit, by_id, at) values ($1, $2, $3, $4, to_timestamp($5 / 1000.0))
       on conflict (item_id, person_id) do update set can_edit = excluded.can_edit, by_id = excluded.by_id, at = excluded.at`,
      [itemId, personId, addShare.canEdit, actor.personId, now],
    );
  }
  if (endShare !== undefined) await run(db, 'delete from quiz_share where item_id = $1 and person_id = $2', [itemId, endShare]);
  return listQuizShares(db, itemId);
}

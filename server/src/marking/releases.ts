import { rows, type Db } from '../platform/database.ts';
import { setReleased } from './marks.ts';

/** Releases the finished marks of every item whose release date has come. Doing it twice does nothing twice. */
export async function releaseDue(db: Db, now: number): Promise<number> {
  const due = await rows<{ id: string; actor_id: string; enrolments: string[] }>(
    db,
    `
    select i.id, (select e.person_id from enrolment e where e.course_id = i.course_id and e.role = 'instructor' order by e.is_of_record desc limit 1) as actor_id, array_agg(g.enrolment_id) as enrolments
    from item i join grade g on g.item_id = i.id and not g.is_released and g.state is not null
    where i.release_mode = 'date' and i.release_at <= to_timestamp($1 / 1000.0) and i.removed_at is null and not i.is_draft group by i.id`,
    [now],
  );
  let many = 0;
  for (const item of due) many += await setReleased(db, item.id, item.enrolments, true, item.actor_id, now, 'job');
  return many;
}

import { type Db, run } from '../platform/database.ts';

/** A visit of a student to an item; progress and rhythm are made from these. */
export async function addVisit(db: Db, itemId: string, enrolmentId: string, at: number, seconds: number): Promise<void> {
  await run(db, 'insert into visit (item_id, enrolment_id, at, seconds) values ($1, $2, to_timestamp($3 / 1000.0), $4)', [
    itemId,
    enrolmentId,
    at,
    seconds,
  ]);
}

/** The student's own tick that an item is done, or taking it away. */
export async function setTick(db: Db, itemId: string, enrolmentId: string, at: number | null): Promise<void> {
  if (at === null) await run(db, 'delete from tick where item_id = $1 and enrolment_id = $2', [itemId, enrolmentId]);
  else
    await run(db, 'insert into tick (item_id, enrolment_id, at) values ($1, $2, to_timestamp($3 / 1000.0)) on conflict do nothing', [
      itemId,
      enrolmentId,
      at,
    ]);
}

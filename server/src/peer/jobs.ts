import { type Db, maybe, rows } from '../platform/database.ts';
import { jobOf } from '../platform/jobs.ts';
import { draw } from './draw.ts';
import { readPeer } from './readPeer.ts';
import { recordPeerResults } from './results.ts';

interface Due {
  readonly id: string;
  readonly courseId: string;
}

/**
 * Peer reviews of which works are to be given out now: for the first time when they are due, at the time set, or once enough are in; later
 * where something came, or somebody left, since it was last looked, as long as reviews are not due.
 */
const listToDraw = (db: Db, now: number): Promise<Due[]> =>
  rows<{ id: string; courseId: string }>(
    db,
    `select p.item_id as id, i.course_id as "courseId" from peer_setting p join item i on i.id = p.item_id join course c on c.id = i.course_id
     where p.is_on and i.removed_at is null and not i.is_draft and c.archived_at is null and p.drawing <> 'hand'
       and (p.reviews_due_at is null or p.reviews_due_at > to_timestamp($1 / 1000.0))
       and exists (select 1 from reviewed_work w where w.item_id = i.id)
       and case when p.drawn_at is null then
           case p.drawing when 'works due' then i.due_at <= to_timestamp($1 / 1000.0) when 'time' then p.draw_at <= to_timestamp($1 / 1000.0)
             else p.own_work = 'alone' or (select count(distinct w.work_id) from reviewed_work w where w.item_id = i.id) > p.reviews_per_work end
         else (p.fits_late_works and exists (select 1 from reviewed_work w where w.item_id = i.id and w.first_at > p.fitted_at))
           or exists (select 1 from review r join enrolment e on e.id = r.enrolment_id where r.item_id = i.id and r.dropped_at is null and r.handed_in_at is null and e.withdrawn_at > p.fitted_at) end
     order by p.item_id`,
    [now],
  );

/** Gives out works at their time, and fits in what comes late. */
export const drawReviewers = jobOf<Due>({
  name: 'draw-reviewers',
  due: listToDraw,
  one: (db, { id, courseId }, now) => draw(db, courseId, id, { asksForMore: false, dropsPast: false }, now),
});

const listResultsDue = (db: Db, now: number): Promise<Due[]> =>
  rows<{ id: string; courseId: string }>(
    db,
    `select p.item_id as id, i.course_id as "courseId" from peer_setting p join item i on i.id = p.item_id join course c on c.id = i.course_id
     where p.is_on and i.removed_at is null and not i.is_draft and c.archived_at is null and p.results_out_at is null and p.results_at <= to_timestamp($1 / 1000.0) and p.drawn_at is not null
     order by p.item_id`,
    [now],
  );

/** In whose name what comes by itself stands in the ledger: who teaches the course longest. */
async function findActor(db: Db, courseId: string): Promise<string | null> {
  const found = await maybe<{ person_id: string }>(
    db,
    "select person_id from enrolment where course_id = $1 and role = 'instructor' and withdrawn_at is null order by id limit 1",
    [courseId],
  );
  return found?.person_id ?? null;
}

/** Gives the results out at their time. */
export const givePeerResults = jobOf<Due>({
  name: 'give-peer-results',
  due: listResultsDue,
  one: async (db, { id, courseId }, now) => {
    const actorId = await findActor(db, courseId);
    if (actorId !== null) await recordPeerResults(db, courseId, await readPeer(db, courseId, id, now), actorId, now);
  },
});

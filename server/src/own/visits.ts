import type { Visiting } from '@rosemary/core';
import { DateTime } from 'luxon';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { jobOf } from '../platform/jobs.ts';

/** What a student did where, for how long; `seconds` lie before `at`, and none say that a visit begins. */
export interface Visited {
  readonly doing: Visiting;
  readonly at: number;
  readonly seconds: number;
}

/** One bit for each hour of the day of `at` in which there was something. */
function hoursOf({ at, seconds }: Visited, zone: string): { day: string; hours: number } {
  // What ends on the hour is not of the next one.
  const end = DateTime.fromMillis(seconds > 0 ? at - 1 : at, { zone });
  const begin = DateTime.max(end.startOf('day'), end.minus({ seconds: Math.max(0, seconds - 1) }));
  let hours = 0;
  for (let { hour } = begin; hour <= end.hour; hour += 1) hours |= 1 << hour;
  return { day: end.toISODate()!, hours };
}

/** A visit of a student to an item; progress and rhythm are made from these. They are kept by day. */
export async function addVisit(db: Db, itemId: string, enrolmentId: string, visited: Visited): Promise<void> {
  const course = await maybe<{ time_zone: string }>(
    db,
    'select c.time_zone from item i join course c on c.id = i.course_id where i.id = $1',
    [itemId],
  );
  const { day, hours } = hoursOf(visited, course?.time_zone ?? 'UTC');
  await run(
    db,
    `with opened as (
       insert into item_opened (enrolment_id, item_id, first_at, last_at) values ($1, $2, to_timestamp($5 / 1000.0) - make_interval(secs => $6), to_timestamp($5 / 1000.0))
       on conflict (enrolment_id, item_id) do update set
         first_at = least(item_opened.first_at, excluded.first_at), last_at = greatest(item_opened.last_at, excluded.last_at))
     insert into visit (enrolment_id, item_id, day, doing, last_at, times, seconds, longest_seconds, hours)
     values ($1, $2, $3, $4, to_timestamp($5 / 1000.0), 1, $6, $6, $7)
     on conflict (enrolment_id, day, item_id, doing) do update set
       last_at = greatest(visit.last_at, excluded.last_at),
       times = visit.times + (excluded.seconds = 0)::int, seconds = least(86400, visit.seconds + excluded.seconds),
       longest_seconds = greatest(visit.longest_seconds, excluded.longest_seconds), hours = visit.hours | excluded.hours`,
    [enrolmentId, itemId, day, visited.doing, visited.at, visited.seconds, hours],
  );
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

const IN_ONE_GO = 50_000;

/** Forgets activity older than the school keeps it, some thousands of rows at a time, and says whether more is left. */
async function forgetVisits(db: Db, now: number): Promise<boolean> {
  const school = await maybe<{ activity_months: number }>(db, 'select activity_months from school');
  const months = school?.activity_months ?? 24;
  const until = DateTime.fromMillis(now, { zone: 'utc' }).minus({ months }).toISODate();
  const gone = await run(
    db,
    `delete from visit v using (select enrolment_id, day, item_id, doing from visit where day < $1 limit ${IN_ONE_GO}) o
     where v.enrolment_id = o.enrolment_id and v.day = o.day and v.item_id = o.item_id and v.doing = o.doing`,
    [until],
  );
  return gone === IN_ONE_GO;
}

/** Once a day, activity older than the school keeps it is forgotten. That an item was opened, first and last, stays. */
export const forgetActivity = jobOf<{ id: string }>({
  name: 'forget-activity',
  due: (db, now) =>
    rows(
      db,
      "select 'activity' as id from school where activity_forgotten_on is null or activity_forgotten_on < (to_timestamp($1 / 1000.0) at time zone 'UTC')::date",
      [now],
    ),
  one: async (db, _piece, now) => {
    if (await forgetVisits(db, now)) return;
    await run(db, "update school set activity_forgotten_on = (to_timestamp($1 / 1000.0) at time zone 'UTC')::date", [now]);
  },
});

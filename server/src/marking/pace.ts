import { markingPace, type Pace } from '@rosemary/core';
import { rows, type Db } from '../platform/database.ts';

export const NO_PACE: Pace = { minutes: 0, isOwn: false };

/** The pace of a marker at each item of a course, from their last thirty works of it. Breaks over an hour are no pace. */
export async function readPaces(db: Db, courseId: string, markerId: string | null): Promise<Map<string, Pace>> {
  const found = await rows<{ id: string; marking_minutes: number; own: number[] }>(
    db,
    `
    select i.id, i.marking_minutes, coalesce(array_agg(m.minutes) filter (where m.minutes is not null), '{}') as own
    from item i left join lateral (
      select extract(epoch from m.finished_at - m.started_at)::float8 / 60 as minutes from mark m join submission s on s.id = m.submission_id
      where s.item_id = i.id and m.marker_id = $2 and m.finished_at - m.started_at between interval '20 seconds' and interval '1 hour'
      order by m.finished_at desc limit 30) m on true
    where i.course_id = $1 group by i.id`,
    [courseId, markerId],
  );
  return new Map(found.map((row) => [row.id, markingPace(row.marking_minutes, row.own)]));
}

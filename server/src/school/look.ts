import type { CourseLook } from '@rosemary/api';
import { maybe, run, type Db } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';

const HOURS = 8;

/** An administrator looks into a course until the evening: it is written down, and nothing in it can be changed by them. */
export async function beginLook(db: Db, courseId: string, personId: string, now: number): Promise<CourseLook> {
  const course = await maybe<{ is_member: boolean }>(
    db,
    `select exists (select 1 from enrolment e where e.course_id = c.id and e.person_id = $2 and e.withdrawn_at is null) as is_member
     from course c where c.id = $1 and c.removed_at is null`,
    [courseId, personId],
  );
  if (course === null) throw notFound();
  if (course.is_member) throw new AppError('not-now', 'You are in this course yourself. Open it from your Desk.');
  const endsAt = now + HOURS * 3_600_000;
  await run(
    db,
    'insert into course_look (course_id, person_id, began_at, ends_at) values ($1, $2, to_timestamp($3 / 1000.0), to_timestamp($4 / 1000.0))',
    [courseId, personId, now, endsAt],
  );
  return { courseId, endsAt: new Date(endsAt).toISOString() };
}

/** Ends the look at once. */
export async function endLook(db: Db, courseId: string, personId: string, now: number): Promise<void> {
  const ended = await run(
    db,
    `update course_look set ends_at = to_timestamp($3 / 1000.0)
     where course_id = $1 and person_id = $2 and ends_at > to_timestamp($3 / 1000.0)`,
    [courseId, personId, now],
  );
  if (ended === 0) throw notFound();
}

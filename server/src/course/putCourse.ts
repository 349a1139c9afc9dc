import type { NewCourse } from '@rosemary/api';
import { maybe, run, type Db } from '../platform/database.ts';

/** A new course; null where the run is there already. */
export async function putCourse(db: Db, course: NewCourse, isOpen: boolean): Promise<string | null> {
  const made = await maybe<{ id: string }>(
    db,
    'insert into course (code, run, title, term_id, time_zone, is_open) values ($1, $2, $3, $4, $5, $6) on conflict (code, run) do nothing returning id',
    [course.code, course.run, course.title, course.termId, course.timeZone, isOpen],
  );
  return made?.id ?? null;
}

/** Opens a course to its students; false where it was open. */
export const openCourse = async (db: Db, courseId: string): Promise<boolean> =>
  (await run(db, 'update course set is_open = true, version = version + 1 where id = $1 and not is_open', [courseId])) > 0;

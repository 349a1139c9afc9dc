import { maybe, type Db } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

/** The title of a section of the course that is there. */
export async function requireSection(db: Db, courseId: string, sectionId: string): Promise<string> {
  const found = await maybe<{ title: string }>(db, 'select title from section where id = $1 and course_id = $2 and removed_at is null', [
    sectionId,
    courseId,
  ]);
  if (found === null) throw notFound();
  return found.title;
}

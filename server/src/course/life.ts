import type { CourseLife } from '@rosemary/api';
import { maybe, run, type Db } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';

interface LifeRow {
  is_open: boolean;
  archived_at: Date | null;
  removed_at: Date | null;
  students: number;
}

/** Where a course stands between being made and being deleted. Its students keep it from being deleted. */
async function readLife(db: Db, courseId: string): Promise<LifeRow> {
  const row = await maybe<LifeRow>(
    db,
    `select c.is_open, c.archived_at, c.removed_at,
            (select count(*)::int from enrolment e where e.course_id = c.id and e.role = 'student' and not e.is_sample and e.withdrawn_at is null) as students
     from course c where c.id = $1`,
    [courseId],
  );
  if (row === null) throw notFound();
  return row;
}
export async function getLife(db: Db, courseId: string): Promise<CourseLife> {
  const row = await readLife(db, courseId);
  return { isOpen: row.is_open, isArchived: row.archived_at !== null, students: row.students };
}

/** Closes a course to its students; whoever teaches goes on. */
export async function closeCourse(db: Db, courseId: string): Promise<void> {
  if ((await run(db, 'update course set is_open = false, version = version + 1 where id = $1 and is_open', [courseId])) === 0)
    throw new AppError('not-now', 'The course is closed to students already.');
}

/** An archived course is read as before by everybody who could, and changed by nobody; it stands among the running ones no more. */
export async function setArchived(db: Db, courseId: string, at: number | null): Promise<void> {
  await run(db, 'update course set archived_at = to_timestamp($2 / 1000.0), version = version + 1 where id = $1', [courseId, at]);
}

/** Deletes a course that has no students, or any where an administrator says so; it is closed, and can be put back. */
export async function removeCourse(db: Db, courseId: string, isAdministrator: boolean, now: number): Promise<void> {
  const { students, removed_at: removedAt } = await readLife(db, courseId);
  if (removedAt !== null) throw notFound();
  if (students > 0 && !isAdministrator)
    throw new AppError(
      'not-now',
      `The course has ${students === 1 ? 'one student' : `${students} students`}, so only an administrator of the school can delete it. Archive it instead, or ask them.`,
    );
  await run(db, 'update course set removed_at = to_timestamp($2 / 1000.0), is_open = false, version = version + 1 where id = $1', [
    courseId,
    now,
  ]);
}

/** Puts a deleted course back; it is closed to students until it is opened again. */
export async function restoreCourse(db: Db, courseId: string): Promise<void> {
  if (
    (await run(db, 'update course set removed_at = null, version = version + 1 where id = $1 and removed_at is not null', [courseId])) === 0
  )
    throw notFound();
}

/** Somebody who teaches the course has looked at it as a student does. */
export async function noteSeen(db: Db, courseId: string, now: number): Promise<void> {
  await run(db, 'update course set seen_as_student_at = to_timestamp($2 / 1000.0) where id = $1 and seen_as_student_at is null', [
    courseId,
    now,
  ]);
}

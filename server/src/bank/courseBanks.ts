import { randomUUID } from 'node:crypto';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, notFound } from '../platform/errors.ts';

/** A bank of nobody yet: its first folder, under a name that no other bank has. */
async function makeBank(db: Db, title: string): Promise<string> {
  const row = await maybe<{ id: string }>(db, 'insert into bank_folder (title, subject) values ($1, $2) returning id', [
    title,
    randomUUID(),
  ]);
  return row?.id ?? '';
}

const give = (db: Db, folderId: string, courseId: string, byId: string | null): Promise<number> =>
  run(db, 'insert into bank_course (folder_id, course_id, given_by) values ($1, $2, $3)', [folderId, courseId, byId]);

/** Who writes in the bank that courses of this code use, newest course first; whether the course they teach has that code itself. */
export const listTeachersOfCode = (db: Db, code: string): Promise<{ personId: string; name: string; isOfCode: boolean }[]> =>
  rows(
    db,
    `select p.id as "personId", p.given_name || ' ' || p.family_name as name, c.code = $1 as "isOfCode"
     from bank_course used join course named on named.id = used.course_id and named.code = $1
       join bank_course b on b.folder_id = used.folder_id and b.removed_at is null join course c on c.id = b.course_id
       join enrolment e on e.course_id = c.id and e.role = 'instructor' and e.withdrawn_at is null join person p on p.id = e.person_id
     where used.removed_at is null order by c.created_at desc, e.is_of_record desc`,
    [code],
  );

/**
 * Gives a new course its bank: that of a course with the same code whose bank whoever makes it writes in (an administrator, null, gives any),
 * else one of its own.
 */
export async function giveBank(db: Db, courseId: string, code: string, byId: string | null): Promise<void> {
  const found = await maybe<{ folder_id: string }>(
    db,
    `select b.folder_id from bank_course b join course c on c.id = b.course_id
     where c.code = $2 and c.id <> $1 and b.removed_at is null
       and ($3::uuid is null or exists (select 1 from bank_course o join enrolment e on e.course_id = o.course_id and e.role = 'instructor' and e.withdrawn_at is null
                                  where o.folder_id = b.folder_id and o.removed_at is null and e.person_id = $3))
     order by c.created_at desc, b.given_at limit 1`,
    [courseId, code, byId],
  );
  await give(db, found?.folder_id ?? (await makeBank(db, code)), courseId, byId);
}

/** The first folder of the bank that new questions of a course join. Where the course was taken out of its bank it begins one of its own. */
export async function folderOf(db: Db, courseId: string): Promise<string> {
  const row = await maybe<{ folder_id: string }>(
    db,
    'select folder_id from bank_course where course_id = $1 and removed_at is null order by given_at, folder_id limit 1',
    [courseId],
  );
  if (row !== null) return row.folder_id;
  const course = await maybe<{ title: string }>(db, "select code || ' ' || run as title from course where id = $1 for update", [courseId]);
  if (course === null) throw notFound();
  const made = await makeBank(db, course.title);
  await give(db, made, courseId, null);
  return made;
}

/** Takes a course out of a bank that others use too, or lets it use the bank again. What its quizzes hold of the bank stays in them. */
export async function setCourseOut(db: Db, folderId: string, courseId: string, isOut: boolean, now: number): Promise<void> {
  const others = await maybe<{ many: number }>(
    db,
    'select count(*)::int as many from bank_course where folder_id = $1 and course_id <> $2 and removed_at is null',
    [folderId, courseId],
  );
  if (isOut && others?.many === 0)
    throw new AppError('not-now', 'This is the only course that uses the bank. Its teachers are those who reach it.');
  const changed = await run(
    db,
    'update bank_course set removed_at = case when $3 then to_timestamp($4 / 1000.0) end where folder_id = $1 and course_id = $2',
    [folderId, courseId, isOut, now],
  );
  if (changed === 0) throw notFound();
}

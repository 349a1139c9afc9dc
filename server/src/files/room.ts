import { sizeInWords } from '@rosemary/core';
import { maybe, type Db } from '../platform/database.ts';
import { AppError } from '../platform/errors.ts';

/** Whose a file will be. What stands in the store of a course is the course's; all else is the person's own as well. */
export interface Place {
  readonly courseId: string;
  readonly ownerId: string;
  readonly isKept?: boolean;
}

const MB = 1_048_576;

interface Room {
  readonly most_course_mb: number;
  readonly most_person_mb: number;
  readonly course: string;
  readonly own: string;
}

/** Refuses a file for which there is no room: a course holds so much, and so does what one person added to it. */
export async function requireRoom(db: Db, { courseId, ownerId, isKept = false }: Place, name: string, bytes: number): Promise<void> {
  const row = await maybe<Room>(
    db,
    `select s.most_course_mb, s.most_person_mb,
       (select coalesce(sum(b.size), 0) from file f join file_blob b on b.sha256 = f.sha256 where f.course_id = $1) as course,
       (select coalesce(sum(b.size), 0) from file f join file_blob b on b.sha256 = f.sha256 where f.course_id = $1 and f.owner_id = $2 and not f.is_kept)
       + (select coalesce(sum(u.size), 0) from upload u join item i on i.id = u.item_id where u.person_id = $2 and i.course_id = $1 and u.received < u.size) as own
     from school s`,
    [courseId, ownerId],
  );
  if (row === null) return;
  const [course, own] = [Number(row.course), Number(row.own)];
  const refuse = (whose: string, held: number, most: number): never => {
    throw new AppError(
      'too-large',
      `There is no room for “${name}” (${sizeInWords(bytes)}). ${whose} ${sizeInWords(held)} of the ${sizeInWords(most)} there may be. Delete files that are not needed, or ask an administrator for more.`,
      [{ field: 'file', text: 'no room' }],
    );
  };
  if (course + bytes > row.most_course_mb * MB) refuse('This course holds', course, row.most_course_mb * MB);
  if (!isKept && own + bytes > row.most_person_mb * MB) refuse('You have', own, row.most_person_mb * MB);
}

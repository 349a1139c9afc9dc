import { type CourseFile, FILE_TYPES } from '@rosemary/api';
import type { Target } from '../anonymity/index.ts';
import { FILE_COLUMNS, type FileRow, fileView, storeFile } from '../files/index.ts';
import { listMates, makeSubmission } from '../handIn/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';

const MOST = 10;

/** Files and voice that go with the overall feedback of a work, in the order they were added: all there are now, or the ones named. */
export async function listFeedbackFiles(db: Db, target: Target, ids: readonly string[] | null = null): Promise<CourseFile[]> {
  if (ids !== null) {
    const named = await rows<FileRow>(
      db,
      `select ${FILE_COLUMNS} from unnest($1::uuid[]) with ordinality as w(id, n) join file f on f.id = w.id join file_blob b on b.sha256 = f.sha256 order by w.n`,
      [ids],
    );
    return named.map(fileView);
  }
  const found = await rows<FileRow>(
    db,
    `select ${FILE_COLUMNS} from feedback_file k join submission s on s.id = k.submission_id join file f on f.id = k.file_id join file_blob b on b.sha256 = f.sha256
     where s.item_id = $1 and s.enrolment_id = $2 order by k.position, f.created_at`,
    [target.itemId, target.enrolmentId],
  );
  return found.map(fileView);
}

/** Adds a file to the feedback, for everyone whose work it is. */
export async function addFeedbackFile(
  db: Db,
  courseId: string,
  target: Target,
  file: { path: string; name: string },
  ownerId: string,
  now: number,
): Promise<CourseFile[]> {
  const present = await listFeedbackFiles(db, target);
  if (present.length >= MOST) throw invalid('file', `Ten files go with the feedback of a work. Remove one first.`);
  const stored = await storeFile(db, { ...file, courseId, ownerId, types: Object.keys(FILE_TYPES), mostBytes: 52_428_800, now });
  const submissions: string[] = [];
  for (const enrolmentId of await listMates(db, target.itemId, target.enrolmentId))
    submissions.push((await makeSubmission(db, target.itemId, enrolmentId)).id);
  await run(db, 'insert into feedback_file (submission_id, file_id, position) select unnest($1::uuid[]), $2, $3 on conflict do nothing', [
    submissions,
    stored.id,
    present.length,
  ]);
  return listFeedbackFiles(db, target);
}

/** Takes a file out of the feedback, or puts it back. */
export async function setFeedbackFileKept(
  db: Db,
  courseId: string,
  target: Target,
  fileId: string,
  isKept: boolean,
): Promise<CourseFile[]> {
  const mates = await listMates(db, target.itemId, target.enrolmentId);
  const changed = isKept
    ? await run(
        db,
        `insert into feedback_file (submission_id, file_id, position) select s.id, f.id, 99 from submission s, file f
         where s.item_id = $1 and s.enrolment_id = any($2) and f.id = $3 and f.course_id = $4
           and f.owner_id in (select person_id from enrolment where course_id = $4 and role <> 'student') on conflict do nothing`,
        [target.itemId, mates, fileId, courseId],
      )
    : await run(
        db,
        'delete from feedback_file k using submission s where s.id = k.submission_id and s.item_id = $1 and s.enrolment_id = any($2) and k.file_id = $3 and $4::uuid is not null',
        [target.itemId, mates, fileId, courseId],
      );
  if (changed === 0) throw notFound();
  return listFeedbackFiles(db, target);
}

import type { Storage, StorageLimits } from '@rosemary/api';
import { maybe, rows, type Db } from '../platform/database.ts';
import { TIDIED } from './tidy.ts';

const MOST_ROWS = 200;

/** What is kept, by course and by person, how much there may be, and what was cleared away last. */
export async function getStorage(db: Db): Promise<Storage> {
  const limits = await maybe<StorageLimits>(
    db,
    'select most_course_mb as "courseMegabytes", most_person_mb as "personMegabytes" from school',
  );
  const whole = await maybe<{ bytes: string; unfinished: string }>(
    db,
    `select (select coalesce(sum(size), 0) from file_blob) as bytes, (select coalesce(sum(received), 0) from upload) as unfinished`,
  );
  const courses = await rows<{ id: string; title: string; files: number; bytes: string }>(
    db,
    `select c.id, c.code || ' ' || c.run || ' ' || c.title as title, count(*)::int as files, sum(b.size) as bytes
     from file f join file_blob b on b.sha256 = f.sha256 join course c on c.id = f.course_id group by c.id order by bytes desc limit ${MOST_ROWS}`,
  );
  const people = await rows<{ id: string; name: string; course: string; files: number; bytes: string }>(
    db,
    `select p.id || ' ' || c.id as id, p.given_name || ' ' || p.family_name as name, c.code || ' ' || c.run as course, count(*)::int as files, sum(b.size) as bytes
     from file f join file_blob b on b.sha256 = f.sha256 join course c on c.id = f.course_id join person p on p.id = f.owner_id
     where not f.is_kept group by p.id, c.id order by bytes desc limit ${MOST_ROWS}`,
  );
  const tidied = await rows<{ what: string; at: Date; many: string }>(db, 'select what, at, many from tidied');
  return {
    limits: limits ?? { courseMegabytes: 0, personMegabytes: 0 },
    bytes: Number(whole?.bytes ?? 0),
    unfinishedBytes: Number(whole?.unfinished ?? 0),
    courses: courses.map((c) => ({ ...c, bytes: Number(c.bytes) })),
    people: people.map((p) => ({ ...p, bytes: Number(p.bytes) })),
    cleared: TIDIED.map(({ id, words }) => {
      const done = tidied.find((row) => row.what === id);
      return { id, words, at: done?.at.toISOString() ?? null, many: Number(done?.many ?? 0) };
    }),
  };
}

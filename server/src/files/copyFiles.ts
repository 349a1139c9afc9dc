import { randomUUID } from 'node:crypto';
import { run, type Db } from '../platform/database.ts';

/** Files known in another course under names of their own; their bytes are kept once. Answers the new names by the old. */
export async function copyFiles(
  db: Db,
  courseId: string,
  fileIds: readonly string[],
  ownerId: string,
  now: number,
): Promise<Map<string, string>> {
  const files = fileIds.map((old) => ({ old, made: randomUUID() }));
  await run(
    db,
    `insert into file (id, course_id, sha256, name, owner_id, created_at, is_kept) select t.made, $1, f.sha256, f.name, $2, to_timestamp($3 / 1000.0), true from unnest($4::uuid[], $5::uuid[]) as t(old, made) join file f on f.id = t.old`,
    [courseId, ownerId, now, files.map((f) => f.old), files.map((f) => f.made)],
  );
  return new Map(files.map((f) => [f.old, f.made]));
}

import type { ListedStudent } from '@rosemary/core';
import { type Db, rows } from '../platform/database.ts';

/** The registrar’s lists of the sections of a course, as far as he has told them. */
export async function readLists(db: Db, courseId: string): Promise<ReadonlyMap<string, readonly ListedStudent[]>> {
  const found = await rows<{ section_id: string; listed: ListedStudent[] }>(
    db,
    'select r.section_id, r.listed from handover_read r join section s on s.id = r.section_id where s.course_id = $1 and r.listed is not null',
    [courseId],
  );
  return new Map(found.map((f) => [f.section_id, f.listed]));
}

import type { Removed } from '@rosemary/api';
import { rows, type Db } from '../platform/database.ts';

/** Objectives that were deleted since; those below one go and come back with it, and are not listed by themselves. */
export const listRemovedObjectives = (db: Db, courseId: string, since: number): Promise<Removed[]> =>
  rows<Removed>(
    db,
    `select 'objective' as kind, o.id, trim(o.code || ' ' || o.statement) as title, o.removed_at as "removedAt",
            coalesce((select string_agg(trim(b.code || ' ' || left(b.statement, 60)), ', ' order by b.position) from objective b where b.parent_id = o.id and b.removed_at = o.removed_at), '') as holds
     from objective o left join objective p on p.id = o.parent_id
     where o.course_id = $1 and o.removed_at >= to_timestamp($2 / 1000.0) and p.removed_at is distinct from o.removed_at`,
    [courseId, since],
  );

/** Objectives by their ids, deleted ones too, in their words. */
export const listTitlesOfObjectives = (db: Db, courseId: string, ids: readonly string[]): Promise<{ id: string; title: string }[]> =>
  rows(db, `select id, trim(code || ' ' || left(statement, 80)) as title from objective where course_id = $1 and id = any($2)`, [
    courseId,
    ids,
  ]);

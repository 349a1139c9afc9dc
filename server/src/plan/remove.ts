import { type Db, run } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

/** Hides or brings back a unit or an item; nothing that students did is touched. */
export async function setRemoved(db: Db, table: 'unit' | 'item', courseId: string, id: string, removedAt: number | null): Promise<void> {
  const sql =
    table === 'unit'
      ? 'update unit set removed_at = to_timestamp($3 / 1000.0), version = version + 1 where course_id = $1 and id = $2'
      : 'update item set removed_at = to_timestamp($3 / 1000.0), version = version + 1 where course_id = $1 and id = $2';
  if ((await run(db, sql, [courseId, id, removedAt])) === 0) throw notFound();
}

import { type Db, run } from '../platform/database.ts';
import type { Copied } from './copied.ts';
import { columnsOf, type PartTable } from './itemParts.ts';

/** Rows of a part of the items, as they stand, to their copies: within the same course with what names its people and days. */
export async function copyPart(db: Db, table: PartTable, copies: readonly Copied[], isWithinCourse: boolean): Promise<void> {
  const columns = columnsOf(table, isWithinCourse);
  await run(
    db,
    `insert into ${table} (item_id, ${columns.names}) select t.made, ${columns.from('p')} from unnest($1::uuid[], $2::uuid[]) as t(old, made) join ${table} p on p.item_id = t.old`,
    [copies.map((c) => c.itemId), copies.map((c) => c.copyId)],
  );
}

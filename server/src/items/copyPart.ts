import { type Db, run } from '../platform/database.ts';
import type { Copied } from './copied.ts';
import { columnsOf, type PartsOfItem } from './itemParts.ts';

/** Rows of the parts of items, as they stand, to their copies: within the same course with what names its people and days. */
export async function copyParts<P extends PartsOfItem>(
  db: Db,
  parts: P,
  tables: readonly (keyof P & string)[],
  copies: readonly Copied[],
  isWithinCourse: boolean,
): Promise<void> {
  const [old, made] = [copies.map((c) => c.itemId), copies.map((c) => c.copyId)];
  for (const table of tables) {
    const columns = columnsOf(parts[table] as PartsOfItem[string], isWithinCourse);
    await run(
      db,
      `insert into ${table} (item_id, ${columns.names}) select t.made, ${columns.from('p')} from unnest($1::uuid[], $2::uuid[]) as t(old, made) join ${table} p on p.item_id = t.old`,
      [old, made],
    );
  }
}

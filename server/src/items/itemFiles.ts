import { type Db, rows, run } from '../platform/database.ts';
import type { Copied } from './copied.ts';

/** The files that items show, each once. */
export async function listItemFiles(db: Db, itemIds: readonly string[]): Promise<string[]> {
  const found = await rows<{ file_id: string }>(db, 'select distinct file_id from item_file where item_id = any($1)', [itemIds]);
  return found.map((f) => f.file_id);
}

/** The files an item shows, and no others. */
export async function setItemFiles(db: Db, itemId: string, fileIds: readonly string[]): Promise<void> {
  await run(db, 'delete from item_file where item_id = $1', [itemId]);
  await run(db, 'insert into item_file (item_id, file_id) select $1, unnest($2::uuid[])', [itemId, fileIds]);
}

/** Which files the items show, under their new names. */
export async function carryItemFiles(db: Db, copies: readonly Copied[], files: ReadonlyMap<string, string>): Promise<void> {
  await run(
    db,
    'insert into item_file (item_id, file_id, part) select t.made, m.made, f.part from unnest($1::uuid[], $2::uuid[]) as t(old, made) join item_file f on f.item_id = t.old join unnest($3::uuid[], $4::uuid[]) as m(old, made) on m.old = f.file_id',
    [copies.map((c) => c.itemId), copies.map((c) => c.copyId), [...files.keys()], [...files.values()]],
  );
}

import type { ArchiveItem } from '@rosemary/api';
import { putBeforeNote } from '../../items/index.ts';
import { rows, run } from '../../platform/database.ts';
import { type ServedKind, takesAnyChange } from '../servedKind.ts';
import { PARTS } from './parts.ts';
import { findShownFile, saveShownFile } from './saveShownFile.ts';

export const file: ServedKind = {
  parts: PARTS,
  putFirst: putBeforeNote('item_shown_file'),
  text: null,
  insert: async (db, itemIds) => {
    await run(db, 'insert into item_shown_file (item_id) select unnest($1::uuid[])', [itemIds]);
  },
  /** A file that is known in the new course under another name is that one. */
  copy: async ({ db, copies, files }) => {
    await run(
      db,
      `insert into item_shown_file (item_id, file_id, note) select t.made, coalesce(m.made, s.file_id), s.note
       from unnest($1::uuid[], $2::uuid[]) as t(old, made) join item_shown_file s on s.item_id = t.old
       left join unnest($3::uuid[], $4::uuid[]) as m(old, made) on m.old = s.file_id`,
      [copies.map((c) => c.itemId), copies.map((c) => c.copyId), [...files.keys()], [...files.values()]],
    );
  },
  detail: async (db, itemId) => ({ file: await findShownFile(db, itemId) }),
  checkChange: takesAnyChange,
  readOut: async (db, itemIds) => {
    const found = await rows<NonNullable<ArchiveItem['file']> & { item_id: string }>(
      db,
      'select item_id, file_id as "fileId", note from item_shown_file where item_id = any($1)',
      [itemIds],
    );
    return { items: new Map(found.map(({ item_id, ...own }) => [item_id, { file: own }])) };
  },
  bring: async ({ db, courseId, itemId, now, fileOf }, item) => {
    if (item.file === null) return;
    const fileId = item.file.fileId === null ? null : fileOf(item.file.fileId);
    await saveShownFile(db, courseId, itemId, { note: item.file.note, fileId, version: 1 }, now);
  },
};

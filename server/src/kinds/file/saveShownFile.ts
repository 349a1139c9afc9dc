import type { ItemDetail, ShownFileChange } from '@rosemary/api';
import { FILE_COLUMNS, type FileRow, fileView } from '../../files/index.ts';
import { getPlanItem, setItemFiles } from '../../items/index.ts';
import { type Db, maybe, run } from '../../platform/database.ts';
import { conflict, invalid, notFound } from '../../platform/errors.ts';

export async function findShownFile(db: Db, itemId: string): Promise<ItemDetail['file']> {
  const found = await maybe<FileRow & { note: string; version: number }>(
    db,
    `
    select ${FILE_COLUMNS}, s.note, s.version from item_shown_file s left join file f on f.id = s.file_id and f.removed_at is null left join file_blob b on b.sha256 = f.sha256 where s.item_id = $1`,
    [itemId],
  );
  return found === null
    ? null
    : { note: found.note, version: found.version, file: (found.id as string | null) === null ? null : fileView(found) };
}

/** Sets which file of the course an item is; students reach it through the item from then on. */
export async function saveShownFile(db: Db, courseId: string, itemId: string, change: ShownFileChange, now: number): Promise<number> {
  await getPlanItem(db, courseId, itemId, now);
  const current = await findShownFile(db, itemId);
  if (current === null) throw notFound();
  if (current.version !== change.version) throw conflict(current);
  const fileId = change.fileId === undefined ? (current.file?.id ?? null) : change.fileId;
  const isHere =
    fileId === null ||
    (await maybe(db, 'select 1 as one from file where id = $1 and course_id = $2 and is_kept and removed_at is null', [
      fileId,
      courseId,
    ])) !== null;
  if (!isHere) throw invalid('fileId', 'This file is no longer in the course. Choose another, or add it again.');
  await run(db, 'update item_shown_file set file_id = $2, note = $3, version = version + 1 where item_id = $1', [
    itemId,
    fileId,
    change.note ?? current.note,
  ]);
  await setItemFiles(db, itemId, fileId === null ? [] : [fileId]);
  return current.version + 1;
}

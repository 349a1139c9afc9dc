import type { FileChange, FileStore, FolderChange, NewFolder, StoreFile } from '@rosemary/api';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { FILE_COLUMNS, fileView, type FileRow } from './store.ts';
import { isoOf } from '../platform/instants.ts';

interface KeptRow extends FileRow {
  folder_id: string | null;
  opens_at: Date | null;
  closes_at: Date | null;
  created_at: Date;
  owner: string;
  version: number;
  uses: StoreFile['uses'];
  is_picture: boolean;
  past: { id: string; name: string; until: string; by: string }[];
}

/** The store of a course: its folders, its files with what shows each, and what they held before they were replaced. */
export async function getFileStore(db: Db, courseId: string): Promise<FileStore> {
  const folders = await rows<{
    id: string;
    parent_id: string | null;
    title: string;
    opens_at: Date | null;
    closes_at: Date | null;
    version: number;
  }>(
    db,
    'select id, parent_id, title, opens_at, closes_at, version from file_folder where course_id = $1 and removed_at is null order by lower(title), id',
    [courseId],
  );
  const files = await rows<KeptRow>(
    db,
    `
    select ${FILE_COLUMNS}, f.folder_id, f.opens_at, f.closes_at, f.created_at, p.given_name || ' ' || p.family_name as owner, f.version,
           exists (select 1 from course c where c.picture_file_id = f.id) as is_picture,
           coalesce((select json_agg(json_build_object('itemId', i.id, 'title', i.title) order by i.title) from item_file u join item i on i.id = u.item_id where u.file_id = f.id and i.removed_at is null), '[]') as uses,
           coalesce((select json_agg(json_build_object('id', h.id::text, 'name', h.name, 'until', h.replaced_at, 'by', q.given_name || ' ' || q.family_name) order by h.id desc)
                     from file_past h join person q on q.id = h.replaced_by where h.file_id = f.id), '[]') as past
    from file f join file_blob b on b.sha256 = f.sha256 join person p on p.id = f.owner_id
    where f.course_id = $1 and f.is_kept and f.removed_at is null order by lower(f.name), f.id`,
    [courseId],
  );
  return {
    folders: folders.map((f) => ({
      id: f.id,
      parentId: f.parent_id,
      title: f.title,
      opensAt: isoOf(f.opens_at),
      closesAt: isoOf(f.closes_at),
      version: f.version,
    })),
    files: files.map((f) => ({
      ...fileView(f),
      folderId: f.folder_id,
      opensAt: isoOf(f.opens_at),
      closesAt: isoOf(f.closes_at),
      addedAt: f.created_at.toISOString(),
      addedBy: f.owner,
      version: f.version,
      uses: f.uses,
      isPicture: f.is_picture,
      past: f.past.map((p) => ({ ...p, until: new Date(p.until).toISOString() })),
    })),
    bytes: files.reduce((sum, f) => sum + Number(f.size), 0),
  };
}

async function requireFolder(db: Db, courseId: string, folderId: string | null | undefined): Promise<void> {
  if (folderId === null || folderId === undefined) return;
  const found = await maybe(db, 'select 1 as one from file_folder where id = $1 and course_id = $2 and removed_at is null', [
    folderId,
    courseId,
  ]);
  if (found === null) throw invalid('folderId', 'This folder is no longer here. Choose another.');
}

export async function addFolder(db: Db, courseId: string, folder: NewFolder): Promise<string> {
  await requireFolder(db, courseId, folder.parentId);
  const made = await rows<{ id: string }>(db, 'insert into file_folder (course_id, parent_id, title) values ($1, $2, $3) returning id', [
    courseId,
    folder.parentId,
    folder.title,
  ]);
  return made[0]?.id ?? '';
}

/** A time to end before it begins would shut something for good. */
function requireOrder(opensAt: string | null, closesAt: string | null): void {
  if (opensAt !== null && closesAt !== null && Date.parse(closesAt) <= Date.parse(opensAt))
    throw invalid('closesAt', 'It is open until before it is open from. Set a later end or an earlier beginning.');
}

/** Changes a folder; it may not be put into itself or what stands in it. */
export async function changeFolder(db: Db, courseId: string, folderId: string, change: FolderChange): Promise<void> {
  const current = await maybe<{
    title: string;
    parent_id: string | null;
    opens_at: Date | null;
    closes_at: Date | null;
    version: number;
  }>(
    db,
    'select title, parent_id, opens_at, closes_at, version from file_folder where id = $1 and course_id = $2 and removed_at is null for update',
    [folderId, courseId],
  );
  if (current === null) throw notFound();
  if (current.version !== change.version) throw conflict(current);
  await requireFolder(db, courseId, change.parentId);
  if (change.parentId) {
    const isInside = await maybe(
      db,
      `
      with recursive up as (select id, parent_id from file_folder where id = $1 union select f.id, f.parent_id from file_folder f join up on up.parent_id = f.id)
      select 1 as one from up where id = $2`,
      [change.parentId, folderId],
    );
    if (isInside !== null) throw invalid('parentId', `“${current.title}” cannot be put into itself. Choose a folder outside it.`);
  }
  const next = {
    title: change.title ?? current.title,
    parentId: change.parentId === undefined ? current.parent_id : change.parentId,
    opensAt: change.opensAt === undefined ? isoOf(current.opens_at) : change.opensAt,
    closesAt: change.closesAt === undefined ? isoOf(current.closes_at) : change.closesAt,
  };
  requireOrder(next.opensAt, next.closesAt);
  await run(db, 'update file_folder set title = $2, parent_id = $3, opens_at = $4, closes_at = $5, version = version + 1 where id = $1', [
    folderId,
    next.title,
    next.parentId,
    next.opensAt,
    next.closesAt,
  ]);
}

/** Takes a folder away, or brings it back. One with something in it stays. */
export async function setFolderRemoved(db: Db, courseId: string, folderId: string, removedAt: number | null): Promise<void> {
  const inside = await maybe<{ files: number; folders: number }>(
    db,
    `
    select (select count(*)::int from file where folder_id = $1 and is_kept and removed_at is null) as files,
           (select count(*)::int from file_folder where parent_id = $1 and removed_at is null) as folders`,
    [folderId],
  );
  const many = (inside?.files ?? 0) + (inside?.folders ?? 0);
  if (removedAt !== null && many > 0)
    throw new AppError(
      'not-now',
      `This folder still holds ${many === 1 ? 'one thing' : `${many} things`}. Move or delete what is in it first.`,
    );
  const changed = await run(
    db,
    'update file_folder set removed_at = to_timestamp($3 / 1000.0), version = version + 1 where id = $1 and course_id = $2',
    [folderId, courseId, removedAt],
  );
  if (changed === 0) throw notFound();
}

export async function changeFile(db: Db, courseId: string, fileId: string, change: FileChange): Promise<void> {
  const current = await maybe<{ name: string; folder_id: string | null; opens_at: Date | null; closes_at: Date | null; version: number }>(
    db,
    'select name, folder_id, opens_at, closes_at, version from file where id = $1 and course_id = $2 and is_kept and removed_at is null for update',
    [fileId, courseId],
  );
  if (current === null) throw notFound();
  if (current.version !== change.version) throw conflict(current);
  await requireFolder(db, courseId, change.folderId);
  const next = {
    name: change.name ?? current.name,
    folderId: change.folderId === undefined ? current.folder_id : change.folderId,
    opensAt: change.opensAt === undefined ? isoOf(current.opens_at) : change.opensAt,
    closesAt: change.closesAt === undefined ? isoOf(current.closes_at) : change.closesAt,
  };
  requireOrder(next.opensAt, next.closesAt);
  await run(db, 'update file set name = $2, folder_id = $3, opens_at = $4, closes_at = $5, version = version + 1 where id = $1', [
    fileId,
    next.name,
    next.folderId,
    next.opensAt,
    next.closesAt,
  ]);
}

/** Takes files out of the store, or brings them back. What an item still shows stays, and is named. */
export async function setFilesRemoved(db: Db, courseId: string, ids: readonly string[], removedAt: number | null): Promise<void> {
  const used = await rows<{ name: string; title: string }>(
    db,
    'select f.name, i.title from item_file u join item i on i.id = u.item_id and i.removed_at is null join file f on f.id = u.file_id where u.file_id = any($1) and f.course_id = $2 order by f.name limit 3',
    [ids, courseId],
  );
  if (removedAt !== null && used.length > 0)
    throw new AppError(
      'not-now',
      `${used.map((u) => `“${u.name}” is shown in “${u.title}”`).join(', ')}. Remove it there first, or replace it here.`,
    );
  const changed = await run(
    db,
    'update file set removed_at = to_timestamp($3 / 1000.0), version = version + 1 where course_id = $1 and id = any($2) and is_kept',
    [courseId, ids, removedAt],
  );
  if (changed !== ids.length) throw notFound();
}

/** Gives a file other content where it stands; what it held is kept and can be brought back. */
export async function putContent(
  db: Db,
  courseId: string,
  fileId: string,
  next: { readonly sha256: Buffer; readonly name: string },
  personId: string,
  now: number,
): Promise<void> {
  const kept = await run(
    db,
    `
    insert into file_past (file_id, sha256, name, replaced_at, replaced_by)
    select id, sha256, name, to_timestamp($4 / 1000.0), $3 from file where id = $1 and course_id = $2 and is_kept and removed_at is null`,
    [fileId, courseId, personId, now],
  );
  if (kept === 0) throw notFound();
  await run(db, 'update file set sha256 = $2, name = $3, version = version + 1 where id = $1', [fileId, next.sha256, next.name]);
}

/** Brings back what a file held before; what it holds now is kept as well. */
export async function takePast(db: Db, courseId: string, fileId: string, pastId: string, personId: string, now: number): Promise<void> {
  const past = await maybe<{ sha256: Buffer; name: string }>(
    db,
    'select h.sha256, h.name from file_past h join file f on f.id = h.file_id where h.id = $1 and f.id = $2 and f.course_id = $3',
    [pastId, fileId, courseId],
  );
  if (past === null) throw notFound();
  await putContent(db, courseId, fileId, past, personId, now);
}

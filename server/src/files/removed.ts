import type { Removed } from '@rosemary/api';
import { rows, type Db } from '../platform/database.ts';

/** Files and folders of a course that were deleted since. */
export const listRemovedFiles = (db: Db, courseId: string, since: number): Promise<Removed[]> =>
  rows<Removed>(
    db,
    `select 'file' as kind, f.id, f.name as title, coalesce(d.title, '') as holds, f.removed_at as "removedAt"
     from file f left join file_folder d on d.id = f.folder_id where f.course_id = $1 and f.is_kept and f.removed_at >= to_timestamp($2 / 1000.0)
     union all
     select 'folder', d.id, d.title, '', d.removed_at from file_folder d where d.course_id = $1 and d.removed_at >= to_timestamp($2 / 1000.0)`,
    [courseId, since],
  );

/** The names of files and folders, deleted ones too, by their ids. */
export const listTitlesOfFiles = (db: Db, courseId: string, ids: readonly string[]): Promise<{ id: string; title: string }[]> =>
  rows(
    db,
    'select id, name as title from file where course_id = $1 and id = any($2) union all select id, title from file_folder where course_id = $1 and id = any($2)',
    [courseId, ids],
  );

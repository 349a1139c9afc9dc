import type { Removed } from '@rosemary/api';
import { rows, type Db } from '../platform/database.ts';

export const listRemovedAnnouncements = (db: Db, courseId: string, since: number): Promise<Removed[]> =>
  rows<Removed>(
    db,
    `select 'announcement' as kind, id, title, '' as holds, removed_at as "removedAt" from announcement where course_id = $1 and removed_at >= to_timestamp($2 / 1000.0)`,
    [courseId, since],
  );

/** The titles of announcements, deleted ones too, by their ids. */
export const listTitlesOfAnnouncements = (db: Db, courseId: string, ids: readonly string[]): Promise<{ id: string; title: string }[]> =>
  rows(db, 'select id, title from announcement where course_id = $1 and id = any($2)', [courseId, ids]);

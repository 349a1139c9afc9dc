import type { Removed } from '@rosemary/api';
import { rows, type Db } from '../platform/database.ts';

export const listRemovedGroupSets = (db: Db, courseId: string, since: number): Promise<Removed[]> =>
  rows<Removed>(
    db,
    `select 'groups' as kind, s.id, s.title, s.removed_at as "removedAt", coalesce((select string_agg(g.title, ', ' order by g.title) from course_group g where g.set_id = s.id), '') as holds
     from group_set s where s.course_id = $1 and s.removed_at >= to_timestamp($2 / 1000.0)`,
    [courseId, since],
  );

/** The titles of sets of groups, deleted ones too, by their ids. */
export const listTitlesOfGroupSets = (db: Db, courseId: string, ids: readonly string[]): Promise<{ id: string; title: string }[]> =>
  rows(db, 'select id, title from group_set where course_id = $1 and id = any($2)', [courseId, ids]);

import type { Removed } from '@rosemary/api';
import { rows, type Db } from '../platform/database.ts';

/** Units and items that were deleted since, with what comes back with a unit. */
export const listRemovedFromPlan = (db: Db, courseId: string, since: number): Promise<Removed[]> =>
  rows<Removed>(
    db,
    `select 'unit' as kind, u.id, u.title, u.removed_at as "removedAt",
            coalesce((select string_agg(i.title, ', ' order by ui.position) from unit_item ui join item i on i.id = ui.item_id and i.removed_at is null where ui.unit_id = u.id), '') as holds
     from unit u where u.course_id = $1 and u.removed_at >= to_timestamp($2 / 1000.0)
     union all
     select 'item', i.id, i.title, i.removed_at, coalesce((select min(u.title) from unit_item ui join unit u on u.id = ui.unit_id where ui.item_id = i.id), '')
     from item i where i.course_id = $1 and i.removed_at >= to_timestamp($2 / 1000.0)`,
    [courseId, since],
  );

/** The titles of units and items, deleted ones too, by their ids. */
export const listTitlesOfPlan = (db: Db, courseId: string, ids: readonly string[]): Promise<{ id: string; title: string }[]> =>
  rows(
    db,
    'select id, title from item where course_id = $1 and id = any($2) union all select id, title from unit where course_id = $1 and id = any($2)',
    [courseId, ids],
  );

import type { NewItem } from '@rosemary/api';
import { decimalText, kindOfItem } from '@rosemary/core';
import { addColumns } from '../gradebook/index.ts';
import { servedKind } from '../kinds/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';
import { requireStanding } from './standing.ts';

export async function addItem(db: Db, courseId: string, item: NewItem): Promise<string> {
  const unit = await maybe<{ default_category_id: string | null; is_standing: boolean }>(
    db,
    'select default_category_id, is_standing from unit where id = $1 and course_id = $2 and removed_at is null',
    [item.unitId, courseId],
  );
  if (unit === null) throw notFound();
  if (unit.is_standing) requireStanding([item.kind]);
  const { column, begins, doneRules } = kindOfItem(item.kind);
  const row = await rows<{ id: string }>(
    db,
    `
    insert into item (course_id, kind, title, done_rule, estimated_minutes, marking_minutes, release_mode, is_required) values ($1, $2, $3, $4, $5, $6, $7, $8) returning id`,
    [
      courseId,
      item.kind,
      item.title,
      doneRules[0],
      unit.is_standing ? 0 : begins.estimatedMinutes,
      begins.markingMinutes,
      begins.releaseMode,
      !unit.is_standing,
    ],
  );
  const id = row[0]?.id ?? '';
  await run(db, 'update unit_item set position = position + 1 where unit_id = $1 and position >= $2', [item.unitId, item.position]);
  await run(db, 'insert into unit_item (unit_id, item_id, position) values ($1, $2, $3)', [item.unitId, id, item.position]);
  if (column !== 'never')
    await addColumns(db, courseId, [
      { itemId: id, categoryId: unit.default_category_id, possible: decimalText(begins.possible), counts: begins.counts },
    ]);
  await servedKind(item.kind).insert(db, [id]);
  return id;
}

/** An item in one more unit, where it is not there yet. */
export async function placeItem(db: Db, unitId: string, itemId: string, position: number): Promise<void> {
  await run(db, 'insert into unit_item (unit_id, item_id, position) values ($1, $2, $3) on conflict do nothing', [
    unitId,
    itemId,
    position,
  ]);
}

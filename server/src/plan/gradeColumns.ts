import type { ColumnPlace, NewColumn } from '@rosemary/api';
import { countOf, decimalText } from '@rosemary/core';
import { addCategory, addColumns, setPeriod } from '../gradebook/index.ts';
import { getPlanItem } from '../items/index.ts';
import { servedKind } from '../kinds/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, invalid, notFound } from '../platform/errors.ts';
import { placeItem } from './addItem.ts';
import { changeItem } from './changes.ts';

/** A column made in the gradebook: a class activity that stands in no unit and is open from the beginning. */
export async function addGradeColumn(db: Db, courseId: string, wish: NewColumn, now: number): Promise<{ itemId: string }> {
  const { title, newCategory, isToldAtOnce, possible, dueAt, audience, showsStatistics, isExtraCredit, multiplier } = wish;
  const twice = await maybe(
    db,
    "select 1 as one from item where course_id = $1 and lower(title) = lower($2) and kind = 'activity' and removed_at is null",
    [courseId, title],
  );
  if (twice !== null) throw invalid('title', `There is a class activity “${title}” already. Give this one another title.`);
  const categoryId = newCategory === null ? wish.categoryId : await addCategory(db, courseId, newCategory);
  const made = await rows<{ id: string }>(
    db,
    "insert into item (course_id, kind, title, done_rule, estimated_minutes, marking_minutes, release_mode, is_required, is_draft) values ($1, 'activity', $2, 'marked', 0, 0, $3, false, false) returning id",
    [courseId, title, isToldAtOnce ? 'finished' : 'hand'],
  );
  const itemId = made[0]?.id ?? '';
  await addColumns(db, courseId, [{ itemId, categoryId: null, possible: decimalText(possible), counts: true }]);
  await servedKind('activity').insert(db, [itemId]);
  const { version } = await getPlanItem(db, courseId, itemId, now);
  const { studentReads, ownLevels, periodId } = wish;
  const reading = { studentReads, staffReads: studentReads, ownLevels };
  await changeItem(
    db,
    courseId,
    itemId,
    { version, categoryId, dueAt, audience, showsStatistics, isExtraCredit, multiplier, ...reading },
    now,
  );
  if (periodId !== null) await setPeriod(db, courseId, itemId, periodId);
  return { itemId };
}

/** A class activity of the gradebook alone becomes an item of the Plan, as it is or as an assignment; its column and results stay. */
export async function placeGradeColumn(db: Db, courseId: string, itemId: string, place: ColumnPlace): Promise<void> {
  const item = await maybe<{ title: string; units: number }>(
    db,
    `select i.title, (select count(*)::int from unit_item ui where ui.item_id = i.id) as units from item i
     where i.id = $1 and i.course_id = $2 and i.kind = 'activity' and i.removed_at is null for update`,
    [itemId, courseId],
  );
  if (item === null) throw notFound();
  if (item.units > 0)
    throw new AppError('not-now', `“${item.title}” stands in ${countOf(item.units, 'unit')} of the Plan already. Change it there.`);
  const unit = await maybe<{ at: number; is_standing: boolean }>(
    db,
    'select (select coalesce(max(position), -1) + 1 from unit_item where unit_id = u.id)::int as at, u.is_standing from unit u where u.id = $1 and u.course_id = $2 and u.removed_at is null',
    [place.unitId, courseId],
  );
  if (unit === null || unit.is_standing) throw invalid('unitId', 'This unit is no longer in the Plan. Choose another.');
  await placeItem(db, place.unitId, itemId, unit.at);
  if (!place.isHandedIn) return;
  await run(db, "update item set kind = 'assignment', done_rule = 'handed in', version = version + 1 where id = $1", [itemId]);
  await servedKind('assignment').insert(db, [itemId]);
}

import type { ItemChange, PlanItem, Whom } from '@rosemary/api';
import { dateFaults, decimalText } from '@rosemary/core';
import { changeColumn, checkLevels, COLUMN_FIELDS, type ColumnFields, saveColumnLate } from '../gradebook/index.ts';
import { getPlanItem } from '../items/index.ts';
import { servedKind } from '../kinds/index.ts';
import { applyDates, type DateChange, hasDates, saveAudience, saveOpening } from '../opening/index.ts';
import { type Db, maybe, run } from '../platform/database.ts';
import { AppError, conflict, invalid } from '../platform/errors.ts';
import { getTerm } from '../term/index.ts';

/** What of a change is the item’s own; the rest is its column’s, its audience’s, its opening’s. */
const ITEM_FIELDS: {
  readonly [field in Exclude<keyof ItemChange, 'version' | 'audience' | 'opening' | 'whom' | 'late' | keyof ColumnFields>]-?: string;
} = {
  title: 'title',
  isDraft: 'is_draft',
  isOff: 'off_was_draft',
  isRequired: 'is_required',
  announcedAt: 'announced_at',
  opensAt: 'opens_at',
  dueAt: 'due_at',
  closesAt: 'closes_at',
  estimatedMinutes: 'estimated_minutes',
  markingMinutes: 'marking_minutes',
  taskTypeId: 'task_type_id',
  doneRule: 'done_rule',
  doneScore: 'done_score',
  releaseMode: 'release_mode',
  releaseAt: 'release_at',
  isStaffOnly: 'is_staff_only',
  nextNote: 'next_note',
};

const THOUSANDTHS = new Set(['possible', 'multiplier', 'doneScore']);

async function applyDatesOf(
  db: Db,
  courseId: string,
  item: PlanItem,
  change: DateChange,
  whom: Whom,
): Promise<'item too' | 'not the item'> {
  const { zone } = await getTerm(db, courseId);
  const at = (text: string | null): number | null => (text === null ? null : Date.parse(text));
  const dated = {
    id: item.id,
    announcedAt: at(item.announcedAt),
    opensAt: at(item.opensAt),
    dueAt: at(item.dueAt),
    closesAt: at(item.closesAt),
  };
  return applyDates(db, courseId, zone, dated, change, whom);
}

/**
 * What is switched off becomes a draft and keeps whether it was one; switched on, it is that again. Until then it cannot be opened.
 */
export function switched<C extends Pick<ItemChange, 'isDraft' | 'isOff'>>(before: PlanItem, change: C): C {
  if (change.isOff === undefined || change.isOff === before.isOff) {
    if (before.isOff && change.isDraft === false)
      throw invalid('isDraft', `“${before.title}” is switched off, so it cannot be opened. Switch it on first.`);
    return change;
  }
  return { ...change, isDraft: change.isOff ? true : (change.isDraft ?? before.isDraftOnceOn) };
}
/** What is kept of an item that is switched off: whether it was a draft. Nothing of one that is on. */
export const offColumn = (before: PlanItem, change: Pick<ItemChange, 'isOff'>): boolean | null =>
  (change.isOff ?? before.isOff) ? before.isDraftOnceOn : null;

/** Staff-only material can never be opened; what is open becomes a draft first, so that no student loses it unawares. */
export function checkStaffOnly(
  before: Pick<PlanItem, 'isDraft' | 'isStaffOnly' | 'title'>,
  change: Pick<ItemChange, 'isDraft' | 'isStaffOnly'>,
): void {
  const after = { ...before, ...change };
  if (!after.isStaffOnly || after.isDraft) return;
  if (before.isStaffOnly)
    throw invalid('isDraft', `“${before.title}” is for staff only and can never be opened. Take “staff only” away first.`);
  throw invalid('isStaffOnly', `“${before.title}” is open to students. Set it back to draft first, then make it staff-only.`);
}

/** What of a change belongs to the column of the item’s work. */
const columnFieldsOf = (change: ItemChange): ColumnFields => {
  const fields: Record<string, unknown> = {};
  for (const field of COLUMN_FIELDS) {
    const value = change[field];
    if (value !== undefined) fields[field] = THOUSANDTHS.has(field) && typeof value === 'number' ? decimalText(value) : value;
  }
  return fields;
};

/** Changes the fields named. Dates that contradict one another are refused by name; another's change since is a conflict. */
export async function changeItem(db: Db, courseId: string, itemId: string, wish: ItemChange, now: number): Promise<void> {
  const before = await getPlanItem(db, courseId, itemId, now);
  const change = switched(before, wish);
  if (before.version !== change.version) throw conflict(before);
  const at = (field: 'announcedAt' | 'opensAt' | 'dueAt' | 'closesAt'): number | null => {
    const value = change[field] === undefined ? before[field] : change[field];
    return value === null || value === undefined ? null : Date.parse(value);
  };
  const faults = dateFaults({ announced: at('announcedAt'), opens: at('opensAt'), due: at('dueAt'), closes: at('closesAt') });
  if (faults.length > 0)
    throw new AppError(
      'invalid',
      faults.map((f) => f.text).join(' '),
      faults.map((f) => ({ field: `${f.field === 'announced' ? 'announced' : f.field}At`, text: f.text })),
    );
  if (
    change.categoryId !== undefined &&
    change.categoryId !== null &&
    (await maybe(db, 'select 1 as one from category where id = $1 and course_id = $2', [change.categoryId, courseId])) === null
  ) {
    throw invalid('categoryId', 'This category is no longer in the course. Choose another.');
  }
  if (
    (change.releaseMode ?? before.releaseMode) === 'date' &&
    (change.releaseAt === undefined ? before.releaseAt : change.releaseAt) === null
  )
    throw invalid('releaseAt', 'Release at a date needs its date and time.');
  if (
    change.taskTypeId !== undefined &&
    change.taskTypeId !== null &&
    change.taskTypeId !== before.taskTypeId &&
    (await maybe(db, 'select 1 as one from task_type where id = $1 and removed_at is null', [change.taskTypeId])) === null
  ) {
    throw invalid('taskTypeId', 'This type of task is no longer in the school’s list. Choose another.');
  }
  if (change.ownLevels !== undefined && change.ownLevels !== null) checkLevels('ownLevels', change.ownLevels);
  checkStaffOnly(before, change);
  await servedKind(before.kind).checkChange(db, before, change);
  const isForSome =
    change.whom !== undefined && hasDates(change) && (await applyDatesOf(db, courseId, before, change, change.whom)) === 'not the item';
  const fields = (Object.keys(ITEM_FIELDS) as (keyof typeof ITEM_FIELDS)[]).filter(
    (field) => change[field] !== undefined && !(isForSome && (field === 'opensAt' || field === 'dueAt' || field === 'closesAt')),
  );
  const values = fields.map((field) => {
    if (field === 'isOff') return offColumn(before, change);
    const value = change[field];
    return THOUSANDTHS.has(field) && typeof value === 'number' ? decimalText(value) : value;
  });
  const sets = fields.map((field, n) => `${ITEM_FIELDS[field]} = $${n + 4}`);
  const changed = await run(
    db,
    `update item set ${[...sets, 'version = version + 1'].join(', ')} where course_id = $1 and id = $2 and version = $3`,
    [courseId, itemId, change.version, ...values],
  );
  if (changed === 0) throw conflict(await getPlanItem(db, courseId, itemId, now));
  if (change.audience !== undefined) await saveAudience(db, courseId, 'item', itemId, change.audience);
  if (change.opening !== undefined) await saveOpening(db, courseId, itemId, change.opening);
  await changeColumn(db, itemId, columnFieldsOf(change));
  if (change.late !== undefined) await saveColumnLate(db, itemId, change.late);
}

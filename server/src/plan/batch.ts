import type { BatchChange, BatchDone, BatchFields, PlanItem } from '@rosemary/api';
import { dateFaults, decimalText } from '@rosemary/core';
import { setColumns } from '../gradebook/index.ts';
import { servedKind } from '../kinds/index.ts';
import { saveAudience } from '../opening/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, conflict, invalid, notFound } from '../platform/errors.ts';
import { checkStaffOnly, offColumn, switched } from './changes.ts';
import { getPlan } from './queries.ts';

const FIELDS = [
  'isDraft',
  'isOff',
  'categoryId',
  'announcedAt',
  'opensAt',
  'dueAt',
  'closesAt',
  'estimatedMinutes',
  'possible',
  'audience',
] as const;

/** The items named, in the order named; all of them must stand in the Plan. */
async function readItems(db: Db, courseId: string, ids: readonly string[], now: number): Promise<PlanItem[]> {
  const byId = new Map((await getPlan(db, courseId, now)).units.flatMap((u) => u.items).map((item) => [item.id, item]));
  return ids.map((id) => {
    const item = byId.get(id);
    if (item === undefined) throw notFound();
    return item;
  });
}

function checkDates(item: PlanItem): void {
  const at = (value: string | null): number | null => (value === null ? null : Date.parse(value));
  const faults = dateFaults({ announced: at(item.announcedAt), opens: at(item.opensAt), due: at(item.dueAt), closes: at(item.closesAt) });
  const first = faults[0];
  if (first !== undefined)
    throw new AppError('invalid', `“${item.title}”: ${first.text} Nothing was changed.`, [{ field: `${first.field}At`, text: first.text }]);
}

/** Changes several items together, all of them or none. Gives back what stood before, which undoes it. */
export async function changeItems(db: Db, courseId: string, { changes }: BatchChange, now: number): Promise<BatchDone> {
  const before = await readItems(
    db,
    courseId,
    changes.map((c) => c.id),
    now,
  );
  const settled = before.map((item, n) => switched(item, changes[n] as BatchChange['changes'][number]));
  const after = before.map((item, n): PlanItem => {
    const { version, ...fields } = settled[n] as (typeof settled)[number];
    if (item.version !== version) throw conflict(item);
    checkStaffOnly(item, fields);
    const audience = fields.audience?.map((member) => ({ ...member, name: '' }));
    return { ...item, ...fields, audience: audience ?? item.audience };
  });
  for (const [n, item] of before.entries()) await servedKind(item.kind).checkChange(db, item, settled[n] ?? {});
  for (const item of after) checkDates(item);
  const categories = [...new Set(after.flatMap((item) => item.categoryId ?? []))];
  const known = await maybe<{ many: number }>(db, 'select count(*)::int as many from category where course_id = $1 and id = any($2)', [
    courseId,
    categories,
  ]);
  if (known?.many !== categories.length) throw invalid('categoryId', 'This category is no longer in the course. Choose another.');
  await run(
    db,
    `
    update item i set is_draft = t.is_draft, announced_at = t.announced_at, opens_at = t.opens_at, due_at = t.due_at, closes_at = t.closes_at,
      estimated_minutes = t.minutes, off_was_draft = t.off, version = version + 1
    from unnest($2::uuid[], $3::bool[], $4::timestamptz[], $5::timestamptz[], $6::timestamptz[], $7::timestamptz[], $8::int[], $9::bool[])
      as t(id, is_draft, announced_at, opens_at, due_at, closes_at, minutes, off)
    where i.course_id = $1 and i.id = t.id`,
    [
      courseId,
      after.map((i) => i.id),
      after.map((i) => i.isDraft),
      after.map((i) => i.announcedAt),
      after.map((i) => i.opensAt),
      after.map((i) => i.dueAt),
      after.map((i) => i.closesAt),
      after.map((i) => i.estimatedMinutes),
      before.map((i, n) => offColumn(i, changes[n] ?? {})),
    ],
  );
  await setColumns(
    db,
    after.map((i) => ({ itemId: i.id, categoryId: i.categoryId, possible: decimalText(i.possible) })),
  );
  for (const [n, { id }] of before.entries()) {
    const { audience } = changes[n] as BatchFields;
    if (audience !== undefined) await saveAudience(db, courseId, 'item', id, audience);
  }
  const undo = before.map((item, n) => {
    const named = changes[n] as BatchFields;
    const was = { ...item, audience: item.audience.map(({ sectionId, enrolmentId }) => ({ sectionId, enrolmentId })) };
    const fields = Object.fromEntries(FIELDS.filter((f) => named[f] !== undefined).map((f) => [f, was[f]]));
    return { id: item.id, version: item.version + 1, ...fields };
  });
  return { plan: await getPlan(db, courseId, now), undo: { changes: undo } };
}

/** Takes several items out of the Plan, or brings them back; nothing that students did is touched. */
export async function setItemsRemoved(db: Db, courseId: string, ids: readonly string[], removedAt: number | null): Promise<void> {
  const changed = await rows<{ id: string }>(
    db,
    'update item set removed_at = to_timestamp($3 / 1000.0), version = version + 1 where course_id = $1 and id = any($2) returning id',
    [courseId, ids, removedAt],
  );
  if (changed.length !== new Set(ids).size) throw notFound();
}

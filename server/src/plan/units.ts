import type { UnitChange } from '@rosemary/api';
import { dateFaults } from '@rosemary/core';
import { saveAudience } from '../opening/index.ts';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { AppError, conflict, notFound } from '../platform/errors.ts';

export async function addUnit(db: Db, courseId: string, title: string, isStanding = false): Promise<string> {
  if (
    isStanding &&
    (await maybe(db, 'select 1 as one from unit where course_id = $1 and is_standing and removed_at is null', [courseId])) !== null
  )
    throw new AppError('not-now', 'The course has its standing pages already. Add to them.');
  const row = await rows<{ id: string }>(
    db,
    'insert into unit (course_id, title, is_standing, position) select $1, $2, $3, coalesce(max(position), -1) + 1 from unit where course_id = $1 returning id',
    [courseId, title, isStanding],
  );
  return row[0]?.id ?? '';
}

const UNIT_COLUMNS = {
  title: 'title',
  announcedAt: 'announced_at',
  opensAt: 'opens_at',
  closesAt: 'closes_at',
  isStaffOnly: 'is_staff_only',
} as const;

/** Changes the fields named of a unit; dates that contradict one another are refused, another's change since is a conflict. */
export async function changeUnit(db: Db, courseId: string, unitId: string, change: UnitChange): Promise<void> {
  const current = await maybe<{ title: string; version: number; announced_at: Date | null; opens_at: Date | null; closes_at: Date | null }>(
    db,
    'select title, version, announced_at, opens_at, closes_at from unit where course_id = $1 and id = $2 and removed_at is null for update',
    [courseId, unitId],
  );
  if (current === null) throw notFound();
  if (current.version !== change.version) throw conflict(current);
  const at = (next: string | null | undefined, was: Date | null): number | null =>
    next === undefined ? (was?.getTime() ?? null) : next === null ? null : Date.parse(next);
  const faults = dateFaults({
    announced: at(change.announcedAt, current.announced_at),
    opens: at(change.opensAt, current.opens_at),
    due: null,
    closes: at(change.closesAt, current.closes_at),
  });
  if (faults.length > 0)
    throw new AppError(
      'invalid',
      faults.map((f) => f.text).join(' '),
      faults.map((f) => ({ field: `${f.field}At`, text: f.text })),
    );
  const fields = (Object.keys(UNIT_COLUMNS) as (keyof typeof UNIT_COLUMNS)[]).filter((field) => change[field] !== undefined);
  const sets = fields.map((field, n) => `${UNIT_COLUMNS[field]} = $${n + 2}`);
  await run(db, `update unit set ${[...sets, 'version = version + 1'].join(', ')} where id = $1`, [
    unitId,
    ...fields.map((f) => change[f]),
  ]);
  if (change.audience !== undefined) await saveAudience(db, courseId, 'unit', unitId, change.audience);
}

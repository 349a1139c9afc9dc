import type { ItemChange, Whom } from '@rosemary/api';
import { type Db, rows, run } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';
import { type DatedItem, makeDatesFor } from './dates.ts';
import { type Reach, readReach } from './reach.ts';

const DATES = { opensAt: 'opens_at', dueAt: 'due_at', closesAt: 'closes_at' } as const;

type DateField = keyof typeof DATES;

export type DateChange = Pick<ItemChange, DateField>;

export const hasDates = (change: DateChange): boolean => Object.keys(DATES).some((field) => change[field as DateField] !== undefined);

/** Puts dates for one section or student beside what is set for them already. */
async function putVariants(
  db: Db,
  itemId: string,
  owner: 'section_id' | 'enrolment_id',
  dates: readonly ({ readonly id: string } & DateChange)[],
): Promise<void> {
  const values = [
    itemId,
    dates.map((d) => d.id),
    dates.map((d) => d.opensAt ?? null),
    dates.map((d) => d.dueAt ?? null),
    dates.map((d) => d.closesAt ?? null),
  ];
  const given = 'unnest($2::uuid[], $3::timestamptz[], $4::timestamptz[], $5::timestamptz[]) as t(id, opens_at, due_at, closes_at)';
  const known = await rows<{ id: string }>(
    db,
    `
    update date_variant v set opens_at = coalesce(t.opens_at, v.opens_at), due_at = coalesce(t.due_at, v.due_at), closes_at = coalesce(t.closes_at, v.closes_at)
    from ${given} where v.item_id = $1 and v.${owner} = t.id returning t.id`,
    values,
  );
  await run(
    db,
    `insert into date_variant (item_id, ${owner}, opens_at, due_at, closes_at) select $1, t.id, t.opens_at, t.due_at, t.closes_at from ${given} where t.id <> all($6::uuid[])`,
    [...values, known.map((k) => k.id)],
  );
}

/** Those who have opened an item or begun its work keep the dates they began under, whatever the item's become. */
async function keepForBegun(db: Db, courseId: string, zone: string, item: DatedItem, change: DateChange, reach: Reach): Promise<void> {
  const begun = await rows<{ id: string; section_id: string | null }>(
    db,
    `
    select e.id, e.section_id from enrolment e where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null
      and (exists (select 1 from item_opened v where v.item_id = $2 and v.enrolment_id = e.id) or exists (select 1 from submission b where b.item_id = $2 and b.enrolment_id = e.id))`,
    [courseId, item.id],
  );
  const bare: Reach = { ...reach, boundsOf: () => ({ units: [], openUntil: null }) };
  const datesFor = await makeDatesFor(db, courseId, zone, null, bare, { withArrangements: false });
  const names = { opensAt: 'opens', dueAt: 'due', closesAt: 'closes' } as const;
  const kept = begun.map((person) => {
    const dates = datesFor(item, { enrolmentId: person.id, sectionId: person.section_id });
    const own = (field: DateField): string | null => {
      const { at } = dates[names[field]];
      return change[field] === undefined || at === null ? null : new Date(at).toISOString();
    };
    return { id: person.id, opensAt: own('opensAt'), dueAt: own('dueAt'), closesAt: own('closesAt') };
  });
  await putVariants(
    db,
    item.id,
    'enrolment_id',
    kept.filter((k) => k.opensAt !== null || k.dueAt !== null || k.closesAt !== null),
  );
}

/**
 * Gives changed dates to some only: to chosen sections (the item keeps its own), or to those who have not begun (the others keep
 * what they had). Answers what is left to change of the item itself.
 */
export async function applyDates(
  db: Db,
  courseId: string,
  zone: string,
  item: DatedItem,
  change: DateChange,
  whom: Whom,
): Promise<'item too' | 'not the item'> {
  if (whom === 'everyone') return 'item too';
  if (whom === 'not begun') {
    await keepForBegun(db, courseId, zone, item, change, await readReach(db, courseId));
    return 'item too';
  }
  const sections = await rows<{ id: string }>(db, 'select id from section where course_id = $1 and id = any($2)', [courseId, whom]);
  if (sections.length !== whom.length) throw invalid('whom', 'A section named here is not in this course. Choose again.');
  const { opensAt = null, dueAt = null, closesAt = null } = change;
  if (opensAt === null && dueAt === null && closesAt === null)
    throw invalid('whom', 'A date is removed for everyone or for nobody: a section has its own date, or the item’s.');
  await putVariants(
    db,
    item.id,
    'section_id',
    whom.map((id) => ({ id, opensAt, dueAt, closesAt })),
  );
  return 'not the item';
}

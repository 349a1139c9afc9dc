import type { BatchChange, DatesChange, DatesDone, Plan } from '@rosemary/api';
import { moveAnnouncement } from '../announcements/index.ts';
import { changeItems, changeUnit, getPlan, saveVariants } from '../plan/index.ts';
import type { Db } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

type Item = DatesChange['items'][number];
type Unit = DatesChange['units'][number];
const ITEM_DATES = ['announcedAt', 'opensAt', 'dueAt', 'closesAt'] as const;
const UNIT_DATES = ['announcedAt', 'opensAt', 'closesAt'] as const;

const itemsOf = (plan: Plan): ReadonlyMap<string, Plan['units'][number]['items'][number]> =>
  new Map(plan.units.flatMap((unit) => unit.items).map((item) => [item.id, item]));
const unitsOf = (plan: Plan): ReadonlyMap<string, Plan['units'][number]> => new Map(plan.units.map((unit) => [unit.id, unit]));

/** The dates of items, and then those of their sections, groups and students. */
async function moveItems(db: Db, courseId: string, items: readonly Item[], now: number): Promise<void> {
  if (items.length === 0) return;
  const changes: BatchChange['changes'] = items.map(({ variants: _, ...change }) => change);
  await changeItems(db, courseId, { changes }, now);
  for (const { id, variants } of items) if (variants !== undefined) await saveVariants(db, courseId, id, { variants }, now);
}

/** What stood before for each date that is named, with the version that the change has made. */
function undoOf(change: DatesChange, before: Plan, after: Plan): Pick<DatesChange, 'items' | 'units'> {
  const [items, newItems, units, newUnits] = [itemsOf(before), itemsOf(after), unitsOf(before), unitsOf(after)];
  return {
    items: change.items.map((one): Item => {
      const was = items.get(one.id);
      if (was === undefined) throw notFound();
      const dates = Object.fromEntries(ITEM_DATES.filter((field) => one[field] !== undefined).map((field) => [field, was[field]]));
      const variants = was.variants.map(({ sectionId, enrolmentId, groupId, opensAt, dueAt, closesAt }) => ({
        ...{ sectionId, enrolmentId, groupId: groupId ?? null },
        ...{ opensAt, dueAt, closesAt },
      }));
      return { id: one.id, version: newItems.get(one.id)?.version ?? 0, ...dates, ...(one.variants === undefined ? {} : { variants }) };
    }),
    units: change.units.map((one): Unit => {
      const was = units.get(one.id);
      if (was === undefined) throw notFound();
      const dates = Object.fromEntries(UNIT_DATES.filter((field) => one[field] !== undefined).map((field) => [field, was[field]]));
      return { id: one.id, version: newUnits.get(one.id)?.version ?? 0, ...dates };
    }),
  };
}

/** Moves many dates of a course, all of them or none. Gives back what stood before, which undoes it. */
export async function changeDates(db: Db, courseId: string, change: DatesChange, now: number): Promise<DatesDone> {
  const before = await getPlan(db, courseId, now);
  await moveItems(db, courseId, change.items, now);
  for (const { id, ...unit } of change.units) await changeUnit(db, courseId, id, unit);
  const announcements: DatesChange['announcements'] = [];
  for (const one of change.announcements) announcements.push(await moveAnnouncement(db, courseId, one, now));
  const after = await getPlan(db, courseId, now);
  return { undo: { ...undoOf(change, before, after), announcements } };
}

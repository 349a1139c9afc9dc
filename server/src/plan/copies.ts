import type { CopiesMade, CopyPlace, CopyWish, PlanItem } from '@rosemary/api';
import { dateFaults, type Membership, moveDates } from '@rosemary/core';
import { DateTime } from 'luxon';
import { getCourse, listSections } from '../course/index.ts';
import { saveAudience } from '../opening/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { invalid, notFound } from '../platform/errors.ts';
import { carry } from './carry.ts';
import { CARRIED_DATES, readCarriage } from './carryPreview.ts';
import { duplicateItems } from './copy.ts';
import { getPlan } from './queries.ts';

/** The courses this person teaches, the one at hand first. */
const taught = (memberships: readonly Membership[], courseId: string): string[] => [
  courseId,
  ...new Set(memberships.filter((m) => m.role === 'instructor' && m.isActive && m.courseId !== courseId).map((m) => m.courseId)),
];

const carriage = (fromCourseId: string, itemIds: readonly string[]) => ({
  fromCourseId,
  itemIds: [...itemIds],
  hasPolicy: false,
  hasDates: true,
  weekdays: [],
  again: itemIds.map((itemId) => ({ itemId, how: 'add' as const })),
});

const listPlanItems = async (db: Db, courseId: string, now: number): Promise<ReadonlyMap<string, PlanItem>> =>
  new Map((await getPlan(db, courseId, now)).units.flatMap((u) => u.items).map((i) => [i.id, i]));

/** Every course and section that copies of these items can go to, with the due dates they would have there by teaching week. */
export async function listCopyPlaces(
  db: Db,
  courseId: string,
  itemIds: readonly string[],
  memberships: readonly Membership[],
  now: number,
): Promise<CopyPlace[]> {
  const items = await listPlanItems(db, courseId, now);
  if (itemIds.some((id) => !items.has(id))) throw notFound();
  const places: CopyPlace[] = [];
  // As many courses as one person teaches: a handful.
  for (const id of taught(memberships, courseId)) {
    const course = await getCourse(db, id);
    const isHere = id === courseId;
    const dates = isHere ? null : (await readCarriage(db, id, carriage(courseId, itemIds), now)).dates;
    places.push({
      courseId: id,
      course: `${course.code} ${course.run}, ${course.short_title === '' ? course.title : course.short_title}`,
      zone: course.time_zone,
      isHere,
      sections: (await listSections(db, id)).map((s) => ({ id: s.id, title: s.title })),
      dues: itemIds.map((itemId) => {
        if (dates === null) return { itemId, dueAt: items.get(itemId)?.dueAt ?? null, note: '' };
        const moved = dates.get(itemId)?.find((d) => d.name === 'dueAt');
        const will = moved?.will ?? null;
        return { itemId, dueAt: will === null ? null : new Date(will).toISOString(), note: moved?.note ?? '' };
      }),
    });
  }
  return places;
}

/** Gives a copy its due date; its other dates go along by as many days, so that it opens and closes as long before and after. */
async function setDue(db: Db, item: PlanItem, dueAt: string | null, zone: string): Promise<void> {
  if (item.dueAt === dueAt) return;
  const day = (at: string): DateTime => DateTime.fromISO(at, { zone }).startOf('day');
  const days = dueAt === null || item.dueAt === null ? 0 : Math.round(day(dueAt).diff(day(item.dueAt), 'days').days);
  const moved = { ...item, ...(days === 0 ? {} : moveDates(item, days, zone)), dueAt };
  const at = (text: string | null): number | null => (text === null ? null : Date.parse(text));
  const fault = dateFaults({
    announced: at(moved.announcedAt),
    opens: at(moved.opensAt),
    due: at(moved.dueAt),
    closes: at(moved.closesAt),
  })[0];
  if (fault !== undefined) throw invalid('targets', `“${item.title}”: ${fault.text} Nothing was copied.`);
  await run(db, 'update item set announced_at = $2, opens_at = $3, due_at = $4, closes_at = $5 where id = $1', [
    item.id,
    ...CARRIED_DATES.map((name) => moved[name]),
  ]);
}

/** Copies items to several courses and sections in one go, all of it or nothing. Copies arrive as drafts. */
export async function makeCopies(
  db: Db,
  courseId: string,
  wish: CopyWish,
  by: { readonly personId: string; readonly memberships: readonly Membership[] },
  now: number,
): Promise<CopiesMade> {
  const allowed = new Set(taught(by.memberships, courseId));
  const made: CopiesMade['made'][number][] = [];
  for (const target of wish.targets) {
    if (!allowed.has(target.courseId)) throw notFound();
    const course = await getCourse(db, target.courseId);
    const section = (await listSections(db, target.courseId)).find((s) => s.id === target.sectionId);
    if (target.sectionId !== null && section === undefined)
      throw invalid('targets', `A section chosen in ${course.code} ${course.run} is no longer there. Choose again.`);
    const isHere = target.courseId === courseId;
    const copies = isHere
      ? await duplicateItems(db, courseId, wish.itemIds)
      : (await carry(db, target.courseId, carriage(courseId, wish.itemIds), by.personId, now)).itemIds;
    // What is carried comes in the order of its units; each copy knows what it was made of.
    const sources = isHere
      ? new Map(copies.map((id, n) => [wish.itemIds[n], id]))
      : new Map(
          (
            await rows<{ id: string; source: string }>(db, 'select id, source_item_id as source from item where id = any($1)', [copies])
          ).map((row) => [row.source, row.id]),
        );
    const laid = await listPlanItems(db, target.courseId, now);
    for (const { itemId, dueAt } of target.dues) {
      const copy = laid.get(sources.get(itemId) ?? '');
      if (copy !== undefined) await setDue(db, copy, dueAt, course.time_zone);
    }
    if (section !== undefined)
      for (const id of copies)
        await saveAudience(db, target.courseId, 'item', id, [{ sectionId: section.id, enrolmentId: null, groupId: null }]);
    made.push({ courseId: target.courseId, course: `${course.code} ${course.run}`, section: section?.title ?? '', itemIds: copies });
  }
  return { made };
}

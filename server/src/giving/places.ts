import type { GivePlace, PlanItem } from '@rosemary/api';
import type { Membership } from '@rosemary/core';
import { getCourse, listSections } from '../course/index.ts';
import { getPlan, readCarriage } from '../plan/index.ts';
import type { Db } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

/** The courses in which this person can give something out, the one at hand first. */
export const taught = (memberships: readonly Membership[], courseId: string): string[] => [
  courseId,
  ...new Set(
    memberships
      .filter((m) => m.role === 'instructor' && m.isActive && m.isArchived !== true && m.courseId !== courseId)
      .map((m) => m.courseId),
  ),
];

export const carriage = (fromCourseId: string, itemIds: readonly string[]) => ({
  fromCourseId,
  itemIds: [...itemIds],
  hasPolicy: false,
  hasDates: true,
  weekdays: [],
  again: itemIds.map((itemId) => ({ itemId, how: 'add' as const })),
});

/** What belongs to classes, parted by class: a course, or a section of it. */
export function partByClass<T>(
  all: readonly T[],
  courseOf: (one: T) => string,
  sectionOf: (one: T) => string | null,
): (readonly [T, ...T[]])[] {
  const parts = new Map<string, [T, ...T[]]>();
  for (const one of all) {
    const key = `${courseOf(one)} ${sectionOf(one) ?? ''}`;
    const part = parts.get(key);
    if (part === undefined) parts.set(key, [one]);
    else part.push(one);
  }
  return [...parts.values()];
}

export const listPlanItems = async (db: Db, courseId: string, now: number): Promise<ReadonlyMap<string, PlanItem>> =>
  new Map((await getPlan(db, courseId, now)).units.flatMap((u) => u.items).map((i) => [i.id, i]));

export const courseName = (course: Awaited<ReturnType<typeof getCourse>>): string =>
  `${course.code} ${course.run}, ${course.short_title === '' ? course.title : course.short_title}`;

/** Every course and section to which these items can be given, with the dates they would have there by teaching week. */
export async function listGivePlaces(
  db: Db,
  courseId: string,
  itemIds: readonly string[],
  memberships: readonly Membership[],
  now: number,
): Promise<GivePlace[]> {
  const items = await listPlanItems(db, courseId, now);
  if (itemIds.some((id) => !items.has(id))) throw notFound();
  const places: GivePlace[] = [];
  // As many courses as one person teaches: a handful.
  for (const id of taught(memberships, courseId)) {
    const course = await getCourse(db, id);
    const isHere = id === courseId;
    const dates = isHere ? null : (await readCarriage(db, id, carriage(courseId, itemIds), now)).dates;
    places.push({
      courseId: id,
      course: courseName(course),
      zone: course.time_zone,
      isHere,
      isOpen: course.is_open,
      sections: (await listSections(db, id)).map((s) => ({ id: s.id, title: s.title })),
      dates: itemIds.map((itemId) => {
        const item = items.get(itemId);
        if (dates === null) return { itemId, opensAt: item?.opensAt ?? null, dueAt: item?.dueAt ?? null, note: '' };
        const movedTo = (name: 'opensAt' | 'dueAt'): { at: string | null; note: string } => {
          const moved = dates.get(itemId)?.find((d) => d.name === name);
          const will = moved?.will ?? null;
          return { at: will === null ? null : new Date(will).toISOString(), note: moved?.note ?? '' };
        };
        const [opens, due] = [movedTo('opensAt'), movedTo('dueAt')];
        return { itemId, opensAt: opens.at, dueAt: due.at, note: due.note };
      }),
    });
  }
  return places;
}

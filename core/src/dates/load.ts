export interface LoadItem {
  readonly dueAt: number | null;
  readonly week: number | null;
  readonly studentMinutes: number;
  readonly markingMinutes: number;
  readonly students: number;
}

export interface WeekLoad {
  readonly week: number;
  readonly studentMinutes: number;
  readonly markingMinutes: number;
}

/**
 * Minutes asked of one student, and minutes of marking for the whole class, for each week of the term (1 to `weeks`).
 * An item's minutes fall in the week it is due (or is placed in); marking is its minutes times the students it is for.
 * Items with no week are in no sum. Worked example: one item, week 2, 180 min, 8 min to mark, 48 students: week 2 has 180 and 384.
 */
export function weekLoads(items: readonly LoadItem[], weeks: number): readonly WeekLoad[] {
  const loads = Array.from({ length: weeks }, (_, n) => ({ week: n + 1, studentMinutes: 0, markingMinutes: 0 }));
  for (const item of items) {
    const load = item.week === null ? undefined : loads[item.week - 1];
    if (load === undefined) continue;
    load.studentMinutes += item.studentMinutes;
    load.markingMinutes += item.markingMinutes * item.students;
  }
  return loads;
}

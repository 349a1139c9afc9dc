import type { CourseHead, LineItem, TermLineData } from '@rosemary/api';
import { type ItemKind, type Term, termWeeks, weekLoads, weekNumber, weekPosition, LOCALE } from '@rosemary/core';
import { DateTime } from 'luxon';
import type { CourseRow } from '../course/index.ts';
import { type Db, rows } from '../platform/database.ts';

interface LineRow {
  id: string;
  course_id: string;
  kind: ItemKind;
  title: string;
  due_at: Date | null;
  week: number | null;
  estimated_minutes: number;
  marking_minutes: number;
  category: number | null;
  possible: number;
}

const toDate = (at: number | null): Date | null => (at === null ? null : new Date(at));

/** The term line: a mark for each due item, and minutes asked and minutes of marking by week. A student's holds what they may know of, by their own dates. */
export async function makeTermLine(
  db: Db,
  courses: readonly { id: string; students: number }[],
  term: Term,
  zone: string,
  now: number,
  own: ReadonlyMap<string, number | null> | null = null,
): Promise<TermLineData> {
  const all = await rows<LineRow>(
    db,
    `
    select i.id, i.course_id, i.kind, i.title, i.due_at, i.week, i.estimated_minutes, i.marking_minutes, (i.possible * 1000)::int as possible,
           (select count(*)::int from category c2 where c2.course_id = i.course_id and c2.position < c.position) as category
    from graded_item i join item o on o.id = i.id left join category c on c.id = i.category_id
    where i.course_id = any($1) and i.removed_at is null and ($2::uuid[] is null or i.id = any($2)) and o.off_was_draft is null and not o.is_staff_only and exists (select 1 from unit_item ui join unit u on u.id = ui.unit_id and u.removed_at is null and not u.is_staff_only where ui.item_id = i.id)`,
    [courses.map((c) => c.id), own === null ? null : [...own.keys()]],
  );
  const found = own === null ? all : all.map((row): LineRow => ({ ...row, due_at: toDate(own.get(row.id) ?? null) }));
  const weeks = termWeeks(term);
  const students = new Map(courses.map((c) => [c.id, c.students]));
  const loads = weekLoads(
    found.map((row) => ({
      dueAt: row.due_at?.getTime() ?? null,
      week: row.due_at === null ? row.week : weekNumber(term, row.due_at.getTime(), zone),
      studentMinutes: row.estimated_minutes,
      markingMinutes: own === null ? row.marking_minutes : 0,
      students: students.get(row.course_id) ?? 0,
    })),
    weeks.length,
  );
  const items = found.flatMap((row): LineItem[] =>
    row.due_at === null
      ? []
      : [
          {
            id: row.id,
            courseId: row.course_id,
            kind: row.kind,
            title: row.title,
            dueAt: row.due_at.toISOString(),
            position: weekPosition(term, row.due_at.getTime(), zone),
            category: row.category ?? -1,
            points: row.possible,
          },
        ],
  );
  const today = DateTime.fromMillis(now, { zone }).setLocale(LOCALE);
  return {
    weeks,
    loads,
    items: items.sort((a, b) => a.position - b.position),
    today: weekPosition(term, now, zone),
    todayText: today.toFormat('ccc d LLL'),
    week: weekNumber(term, now, zone),
  };
}

export function aboutCourse(course: Pick<CourseRow, 'code' | 'term_title'>, line: TermLineData): Pick<CourseHead, 'about'> {
  const at = line.week < 1 ? 'not begun' : line.week > line.weeks.length ? 'finished' : `week ${line.week} of ${line.weeks.length}`;
  return { about: `${course.code} · ${course.term_title} · ${at}` };
}

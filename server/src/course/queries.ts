import { termWeeks, weekLoads, weekNumber, weekPosition, type ItemKind, type Term } from '@rosemary/core';
import type { CourseHead, LineItem, OwnCourse, SectionName, TermChoice, TermLineData } from '@rosemary/api';
import { DateTime } from 'luxon';
import { maybe, rows, type Db } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

export interface CourseRow {
  id: string;
  code: string;
  run: string;
  title: string;
  short_title: string;
  time_zone: string;
  language: string;
  pacing: 'term' | 'self';
  progress_by: 'items' | 'minutes';
  is_open: boolean;
  version: number;
  term_title: string;
}

export async function getCourse(db: Db, courseId: string): Promise<CourseRow> {
  const row = await maybe<CourseRow>(
    db,
    `
    select c.id, c.code, c.run, c.title, c.short_title, c.time_zone, c.language, c.pacing, c.progress_by, c.is_open, c.version, t.title as term_title from course c join term t on t.id = c.term_id where c.id = $1`,
    [courseId],
  );
  if (row === null) throw notFound();
  return row;
}

/** The terms of the school, the latest first. */
export async function listTerms(db: Db): Promise<TermChoice[]> {
  const found = await rows<{
    id: string;
    title: string;
    starts_on: string;
    ends_on: string;
    meeting_days: number[];
    holidays: Term['holidays'];
  }>(
    db,
    `
    select t.id, t.title, t.starts_on, t.ends_on, t.meeting_days, coalesce(json_agg(json_build_object('title', h.title, 'startsOn', h.starts_on, 'endsOn', h.ends_on) order by h.starts_on) filter (where h.id is not null), '[]') as holidays
    from term t left join term_holiday h on h.term_id = t.id group by t.id order by t.starts_on desc`,
  );
  return found.map((t) => ({
    id: t.id,
    title: t.title,
    startsOn: t.starts_on,
    endsOn: t.ends_on,
    meetingDays: t.meeting_days,
    holidays: t.holidays,
  }));
}

export async function listOwnCourses(db: Db, personId: string): Promise<OwnCourse[]> {
  const found = await rows<{
    id: string;
    code: string;
    run: string;
    title: string;
    short_title: string;
    role: OwnCourse['role'];
    is_open: boolean;
  }>(
    db,
    `
    select c.id, c.code, c.run, c.title, c.short_title, e.role, c.is_open from enrolment e join course c on c.id = e.course_id join term t on t.id = c.term_id
    where e.person_id = $1 and e.withdrawn_at is null and (e.role <> 'student' or c.is_open) order by t.ends_on desc, c.code`,
    [personId],
  );
  return found.map((row) => ({
    id: row.id,
    code: row.code,
    run: row.run,
    title: row.title,
    shortTitle: row.short_title === '' ? row.title : row.short_title,
    role: row.role,
    isOpen: row.is_open,
  }));
}

export async function listSections(db: Db, courseId: string): Promise<SectionName[]> {
  return rows<SectionName>(
    db,
    `
    select s.id, s.title, count(e.id)::int as students from section s left join enrolment e on e.section_id = s.id and e.role = 'student' and e.withdrawn_at is null and not e.is_sample
    where s.course_id = $1 and s.removed_at is null group by s.id order by s.position, s.title`,
    [courseId],
  );
}

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
    from item i left join category c on c.id = i.category_id
    where i.course_id = any($1) and i.removed_at is null and ($2::uuid[] is null or i.id = any($2)) and exists (select 1 from unit_item ui join unit u on u.id = ui.unit_id and u.removed_at is null where ui.item_id = i.id)`,
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
  const today = DateTime.fromMillis(now, { zone }).setLocale('en-GB');
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

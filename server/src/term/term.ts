import type { TermChoice } from '@rosemary/api';
import type { Term } from '@rosemary/core';
import { type Db, often, rows } from '../platform/database.ts';
import { notFound } from '../platform/errors.ts';

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

interface CourseRow {
  time_zone: string;
  is_self_paced: boolean;
  title: string;
  starts_on: string;
  ends_on: string;
  meeting_days: number[];
  holidays: { title: string; startsOn: string; endsOn: string }[];
}

/** The term of a course with its holidays. */
export async function getTerm(db: Db, courseId: string): Promise<{ zone: string; term: Term; isSelfPaced: boolean }> {
  const [row] = await often<CourseRow>(
    db,
    `
    select c.time_zone, c.pacing = 'self' as is_self_paced, t.title, t.starts_on, t.ends_on, t.meeting_days,
           coalesce((select json_agg(json_build_object('title', h.title, 'startsOn', h.starts_on, 'endsOn', h.ends_on) order by h.starts_on)
                     from term_holiday h where h.term_id = t.id), '[]') as holidays
    from course c join term t on t.id = c.term_id where c.id = $1`,
    [courseId],
  );
  if (row === undefined) throw notFound();
  return {
    zone: row.time_zone,
    isSelfPaced: row.is_self_paced,
    term: { title: row.title, startsOn: row.starts_on, endsOn: row.ends_on, meetingDays: row.meeting_days, holidays: row.holidays },
  };
}

import type { OwnCourse, SectionName } from '@rosemary/api';
import { type Db, maybe, rows } from '../platform/database.ts';
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
  is_archived: boolean;
  version: number;
  term_title: string;
}

export async function getCourse(db: Db, courseId: string): Promise<CourseRow> {
  const row = await maybe<CourseRow>(
    db,
    `
    select c.id, c.code, c.run, c.title, c.short_title, c.time_zone, c.language, c.pacing, c.progress_by, c.is_open, c.archived_at is not null as is_archived, c.version, t.title as term_title from course c join term t on t.id = c.term_id where c.id = $1`,
    [courseId],
  );
  if (row === null) throw notFound();
  return row;
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
    is_archived: boolean;
  }>(
    db,
    `
    select c.id, c.code, c.run, c.title, c.short_title, e.role, c.is_open, c.archived_at is not null as is_archived from enrolment e join course c on c.id = e.course_id join term t on t.id = c.term_id
    where e.person_id = $1 and e.withdrawn_at is null and c.removed_at is null and (e.role <> 'student' or c.is_open) order by t.ends_on desc, c.code`,
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
    isArchived: row.is_archived,
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

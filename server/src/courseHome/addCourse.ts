import type { NewCourse } from '@rosemary/api';
import { IANAZone } from 'luxon';
import { type Db, maybe, rows, run } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';
import { addSampleStudent } from '../roster/index.ts';

const STARTING_CATEGORIES = [
  ['Assignments', 60],
  ['Class work', 40],
] as const;

const STARTING_LETTERS = [
  ['A', 87],
  ['B', 73],
  ['C', 61],
  ['D', 50],
  ['F', 0],
] as const;

/** A course with its sections, a sample student in each, its instructor, and a policy to start from. */
export async function addCourse(db: Db, course: NewCourse, isOpen = false): Promise<string> {
  if (!IANAZone.isValidZone(course.timeZone))
    throw invalid('timeZone', `“${course.timeZone}” is not a time zone. It is written like Europe/Lisbon.`);
  if ((await maybe(db, 'select 1 as one from term where id = $1', [course.termId])) === null)
    throw invalid('termId', 'This term is no longer here. Choose another.');
  if ((await maybe(db, 'select 1 as one from person where id = $1', [course.instructorId])) === null)
    throw invalid('instructorId', 'This person is no longer here. Choose another.');
  const row = await maybe<{ id: string }>(
    db,
    'insert into course (code, run, title, term_id, time_zone, is_open) values ($1, $2, $3, $4, $5, $6) on conflict (code, run) do nothing returning id',
    [course.code, course.run, course.title, course.termId, course.timeZone, isOpen],
  );
  if (row === null) throw invalid('run', `${course.code} has a run ${course.run} already. Choose another run.`);
  await run(db, "insert into enrolment (course_id, person_id, role, is_of_record) values ($1, $2, 'instructor', true)", [
    row.id,
    course.instructorId,
  ]);
  for (const [position, title] of course.sections.entries()) {
    const section = await rows<{ id: string }>(db, 'insert into section (course_id, title, position) values ($1, $2, $3) returning id', [
      row.id,
      title,
      position,
    ]);
    await addSampleStudent(db, row.id, section[0]?.id ?? '', title);
  }
  const scheme = await rows<{ id: string }>(db, "insert into scheme (course_id, title) values ($1, 'letters') returning id", [row.id]);
  for (const [position, [label, cut]] of STARTING_LETTERS.entries())
    await run(db, 'insert into scheme_level (scheme_id, position, label, cut_point) values ($1, $2, $3, $4)', [
      scheme[0]?.id,
      position,
      label,
      cut,
    ]);
  await run(db, 'insert into grading_policy (course_id, scheme_id) values ($1, $2)', [row.id, scheme[0]?.id]);
  for (const [position, [title, weight]] of STARTING_CATEGORIES.entries())
    await run(db, 'insert into category (course_id, title, position, weight_percent) values ($1, $2, $3, $4)', [
      row.id,
      title,
      position,
      weight,
    ]);
  return row.id;
}

import type { NewCourse, NewPerson, NewTerm, TermChange } from '@rosemary/api';
import { termWeeks } from '@rosemary/core';
import { IANAZone } from 'luxon';
import { maybe, rows, run, type Db } from '../platform/database.ts';
import { conflict, invalid, notFound } from '../platform/errors.ts';
import { hashPassword } from '../people/passwords.ts';

export async function addPerson(db: Db, person: NewPerson, isAdministrator = false, passwordHash?: string): Promise<string> {
  const row = await maybe<{ id: string }>(
    db,
    'insert into person (email, given_name, family_name, password_hash, is_administrator) values ($1, $2, $3, $4, $5) on conflict (email) do nothing returning id',
    [person.email, person.givenName, person.familyName, passwordHash ?? (await hashPassword(person.password)), isAdministrator],
  );
  if (row === null) throw invalid('email', `Someone with the address ${person.email} is here already.`);
  return row.id;
}

function requireTerm(term: NewTerm): void {
  if (term.endsOn <= term.startsOn) throw invalid('endsOn', `The last day, ${term.endsOn}, is not after the first, ${term.startsOn}.`);
  if (termWeeks(term).length > 60) throw invalid('endsOn', 'A term has at most 60 weeks. Set an earlier last day.');
  const wrong = term.holidays.find((h) => h.endsOn < h.startsOn);
  if (wrong !== undefined) throw invalid('holidays', `The holiday “${wrong.title}” ends before it begins.`);
}

async function putHolidays(db: Db, termId: string, holidays: NewTerm['holidays']): Promise<void> {
  for (const h of holidays)
    await run(db, 'insert into term_holiday (term_id, title, starts_on, ends_on) values ($1, $2, $3, $4)', [
      termId,
      h.title,
      h.startsOn,
      h.endsOn,
    ]);
}

export async function addTerm(db: Db, term: NewTerm): Promise<string> {
  requireTerm(term);
  const row = await rows<{ id: string }>(
    db,
    'insert into term (title, starts_on, ends_on, meeting_days) values ($1, $2, $3, $4) returning id',
    [term.title, term.startsOn, term.endsOn, term.meetingDays],
  );
  const id = row[0]?.id ?? '';
  await putHolidays(db, id, term.holidays);
  return id;
}

/** Changes a term for every course in it. Dates of items stay where they are; what then lies outside is found by each course's check. */
export async function changeTerm(db: Db, id: string, { version, ...term }: TermChange): Promise<void> {
  requireTerm(term);
  const changed = await run(
    db,
    'update term set title = $2, starts_on = $3, ends_on = $4, meeting_days = $5, version = version + 1 where id = $1 and version = $6',
    [id, term.title, term.startsOn, term.endsOn, term.meetingDays, version],
  );
  if (changed === 0) {
    const current = await maybe(db, 'select title, starts_on, ends_on, version from term where id = $1', [id]);
    throw current === null ? notFound() : conflict(current);
  }
  await run(db, 'delete from term_holiday where term_id = $1', [id]);
  await putHolidays(db, id, term.holidays);
}

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

export async function addSampleStudent(db: Db, courseId: string, sectionId: string, title: string): Promise<void> {
  const person = await rows<{ id: string }>(
    db,
    "insert into person (email, given_name, family_name) values ('sample-' || $1 || '@rosemary.invalid', 'Sample student', $2) returning id",
    [sectionId, title],
  );
  await run(db, "insert into enrolment (course_id, person_id, role, section_id, is_sample) values ($1, $2, 'student', $3, true)", [
    courseId,
    person[0]?.id,
    sectionId,
  ]);
}

import { DateTime } from 'luxon';
import {
  checkRows,
  courseFault,
  NO_LISTS,
  personFault,
  rowsOf,
  type ListedCourse,
  type ListedEnrolment,
  type ListedPerson,
  type ListedRole,
  type ListedSection,
  type ListedTerm,
  type Records,
  type Row,
  type RowFault,
  type SchoolLists,
} from './lists.ts';

/** The tables of OneRoster 1.2 CSV (1EdTech) that say something to a school of courses; others are left alone. */
const TABLES = {
  academicSessions: ['sourcedId', 'title', 'type', 'startDate', 'endDate'],
  courses: ['sourcedId', 'title'],
  classes: ['sourcedId', 'title', 'courseSourcedId', 'termSourcedIds'],
  users: ['sourcedId', 'givenName', 'familyName'],
  enrollments: ['sourcedId', 'classSourcedId', 'userSourcedId', 'role'],
} as const;
type Table = keyof typeof TABLES;
export const ONE_ROSTER_FILES = Object.keys(TABLES) as readonly Table[];

const ROLES: Readonly<Record<string, ListedRole>> = { student: 'student', teacher: 'instructor', aide: 'assistant', proctor: 'assistant' };
const DAY = /^\d{4}-\d{2}-\d{2}$/;

/** A code or run of letters that an address takes. Example: `Fall Term 2026` is `Fall-Term-2026`. */
const slug = (text: string, most = 20): string =>
  text
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9.-]+/g, '-')
    .replace(/^[-.]+/, '')
    .slice(0, most)
    .replace(/[-.]+$/, '');

const at = (row: Row): { file: string; line: number } => ({ file: row.file, line: row.line });
const isGone = (row: Row): boolean => row.get('status').toLowerCase() === 'tobedeleted';

function readTerms(rows: readonly Row[]): { rows: ListedTerm[]; faults: RowFault[] } {
  const used = rows.filter((row) => ['term', 'semester'].includes(row.get('type').toLowerCase()) && !isGone(row));
  return checkRows(
    used.map((row): ListedTerm => ({
      ...at(row),
      key: row.get('sourcedId'),
      title: row.get('title').slice(0, 80),
      startsOn: row.get('startDate'),
      endsOn: row.get('endDate'),
    })),
    (term) => {
      if (term.key === '') return 'has no sourcedId.';
      if (term.title === '') return `has no title (${term.key}).`;
      const wrong = [term.startsOn, term.endsOn].find((day) => !DAY.test(day) || !DateTime.fromISO(day).isValid);
      if (wrong !== undefined) return `has the date “${wrong}”; a day is written 2026-09-21.`;
      return term.endsOn > term.startsOn ? null : `ends on ${term.endsOn}, which is not after ${term.startsOn}.`;
    },
  );
}

function readUsers(rows: readonly Row[]): { rows: ListedPerson[]; faults: RowFault[] } {
  const faults = rows.filter(isGone).map((row) => ({
    ...at(row),
    text: `marks ${row.get('email') || row.get('sourcedId')} to be deleted. People are not deleted here: their work and marks stay. Withdraw them from their courses.`,
  }));
  const checked = checkRows(
    rows
      .filter((row) => !isGone(row))
      .map((row): ListedPerson => {
        const email = row.get('email') || (row.get('username').includes('@') ? row.get('username') : '');
        const givenName = row.get('preferredGivenName') || row.get('givenName');
        return {
          ...at(row),
          key: row.get('sourcedId'),
          email,
          givenName,
          familyName: row.get('preferredFamilyName') || row.get('familyName'),
        };
      }),
    (person) => (person.key === '' ? 'has no sourcedId.' : personFault(person)),
  );
  return { rows: checked.rows, faults: [...faults, ...checked.faults] };
}

interface Classes {
  readonly courses: readonly ListedCourse[];
  readonly sections: readonly ListedSection[];
  readonly faults: readonly RowFault[];
}

/** A class is a section; the classes of one course in one term are one course of ours. */
function readClasses(rows: readonly Row[], courseRows: readonly Row[], terms: readonly ListedTerm[]): Classes {
  const courseBy = new Map(courseRows.filter((row) => !isGone(row)).map((row) => [row.get('sourcedId'), row]));
  const termBy = new Map(terms.map((term) => [term.key, term]));
  const courses = new Map<string, ListedCourse>();
  const sections: ListedSection[] = [];
  const faults: RowFault[] = [];
  const titles = new Set<string>();
  for (const row of rows) {
    if (isGone(row)) continue;
    const say = (text: string): void => void faults.push({ ...at(row), text });
    const parent = courseBy.get(row.get('courseSourcedId'));
    const termKey = row
      .get('termSourcedIds')
      .split(',')
      .map((id) => id.trim())
      .find((id) => termBy.has(id));
    const term = termBy.get(termKey ?? '');
    const title = (row.get('title') || row.get('classCode')).slice(0, 80);
    const code = row.get('classCode');
    if (row.get('sourcedId') === '') say('has no sourcedId.');
    else if (parent === undefined) say(`belongs to the course “${row.get('courseSourcedId')}”, which is not in courses.csv.`);
    else if (term === undefined) say(`is held in “${row.get('termSourcedIds')}”, which is no term of academicSessions.csv.`);
    else if (title === '') say(`has neither a title nor a class code (${row.get('sourcedId')}).`);
    else {
      const key = `${parent.get('sourcedId')}@${term.key}`;
      const course: ListedCourse = {
        ...at(parent),
        key,
        code: slug(parent.get('courseCode') || parent.get('title')),
        run: slug(term.title).replaceAll('.', '-'),
        title: parent.get('title').slice(0, 160),
        term: term.key,
      };
      const fault = courseFault(course);
      // Two classes with one title are told apart by their codes.
      const free = [title, `${title} ${code}`.trim().slice(0, 80), `${title} ${row.get('sourcedId')}`.slice(0, 80)].find(
        (t) => !titles.has(`${key}/${t.toLowerCase()}`),
      );
      if (fault !== null) say(`belongs to a course that ${fault}`);
      else if (free === undefined) say(`has the title “${title}”, as another class of this course has.`);
      else {
        titles.add(`${key}/${free.toLowerCase()}`);
        courses.set(key, course);
        sections.push({ ...at(row), key: row.get('sourcedId'), title: free, courseKey: key });
      }
    }
  }
  return { courses: [...courses.values()], sections, faults };
}

function readEnrollments(
  rows: readonly Row[],
  sections: readonly ListedSection[],
  people: ReadonlySet<string>,
): { enrolments: ListedEnrolment[]; faults: RowFault[] } {
  const sectionBy = new Map(sections.map((section) => [section.key, section]));
  const faults: RowFault[] = [];
  const taken = new Set<string>();
  const enrolments = rows.flatMap((row): ListedEnrolment[] => {
    const role = ROLES[row.get('role').toLowerCase()];
    const section = sectionBy.get(row.get('classSourcedId'));
    const personKey = row.get('userSourcedId');
    const refuse = (text: string): [] => {
      faults.push({ ...at(row), text });
      return [];
    };
    if (role === undefined) return refuse(`has the role “${row.get('role')}”, which has no place in a course here.`);
    if (section === undefined) return refuse(`names the class “${row.get('classSourcedId')}”, which is not taken.`);
    if (!people.has(personKey)) return refuse(`names the person “${personKey}”, who is not in users.csv or not taken.`);
    // One who teaches two classes of a course is one instructor of it.
    const once = `${section.courseKey}/${personKey}/${role}`;
    if (role !== 'student' && taken.has(once)) return [];
    if (role === 'student' && taken.has(once) && !isGone(row))
      return refuse(`puts “${personKey}” into a second class of one course. A student belongs to one section.`);
    if (!isGone(row)) taken.add(once);
    return [
      {
        ...at(row),
        personKey,
        courseKey: section.courseKey,
        sectionKey: role === 'student' ? section.key : null,
        role,
        isWithdrawn: isGone(row),
      },
    ];
  });
  return { enrolments, faults };
}

/**
 * A school’s lists from the files of OneRoster 1.2 CSV, by their names without `.csv`. A class becomes a section; classes of
 * one course in one term are one course. Rows that lead to a row that is not taken are not taken either, and each says why.
 * Source: 1EdTech OneRoster 1.2 CSV binding. Worked example: one term, one course, one class, one teacher and one student give a
 * course with one section, an instructor and a student.
 */
export function readOneRoster(tables: ReadonlyMap<string, Records>): SchoolLists {
  const faults: RowFault[] = [];
  const rows = (name: Table): readonly Row[] => {
    const records = tables.get(name);
    if (records === undefined) return [];
    const head = new Set((records[0] ?? []).map((cell) => cell.trim().toLowerCase()));
    const missing = TABLES[name].filter((column) => !head.has(column.toLowerCase()));
    if (missing.length === 0) return rowsOf(`${name}.csv`, records);
    faults.push({
      file: `${name}.csv`,
      line: 1,
      text: `names no column ${missing.map((m) => `“${m}”`).join(' and ')}; the file is left out.`,
    });
    return [];
  };
  const terms = readTerms(rows('academicSessions'));
  const users = readUsers(rows('users'));
  const classes = readClasses(rows('classes'), rows('courses'), terms.rows);
  const enrollments = readEnrollments(rows('enrollments'), classes.sections, new Set(users.rows.map((person) => person.key)));
  return {
    ...NO_LISTS,
    terms: terms.rows,
    people: users.rows,
    courses: classes.courses,
    sections: classes.sections,
    enrolments: enrollments.enrolments,
    faults: [...faults, ...terms.faults, ...users.faults, ...classes.faults, ...enrollments.faults],
  };
}

import { COURSE_CODE } from './courseCode.ts';
/** Where something stands in the file it was read from, for messages. */
export interface Place {
  readonly file: string;
  /** Counted from 1, the row of names included. */
  readonly line: number;
}
export interface ListedTerm extends Place {
  readonly key: string;
  readonly title: string;
  readonly startsOn: string;
  readonly endsOn: string;
}
export interface ListedPerson extends Place {
  /** The school’s own identifier, or the address where it gives none. */
  readonly key: string;
  readonly email: string;
  readonly givenName: string;
  readonly familyName: string;
}
export interface ListedSection extends Place {
  readonly key: string;
  readonly title: string;
  readonly courseKey: string;
}
export interface ListedCourse extends Place {
  readonly key: string;
  readonly code: string;
  readonly run: string;
  readonly title: string;
  /** Key of a listed term, or the title of one that is here. */
  readonly term: string;
}
export const LISTED_ROLES = ['student', 'assistant', 'instructor'] as const;
export type ListedRole = (typeof LISTED_ROLES)[number];
export interface ListedEnrolment extends Place {
  readonly personKey: string;
  readonly courseKey: string;
  readonly sectionKey: string | null;
  readonly role: ListedRole;
  readonly isWithdrawn: boolean;
}
export interface RowFault extends Place {
  readonly text: string;
}
/** What a school’s lists say, row by row, and what in them cannot be read. */
export interface SchoolLists {
  readonly terms: readonly ListedTerm[];
  readonly people: readonly ListedPerson[];
  readonly courses: readonly ListedCourse[];
  readonly sections: readonly ListedSection[];
  readonly enrolments: readonly ListedEnrolment[];
  readonly faults: readonly RowFault[];
}
export const NO_LISTS: SchoolLists = { terms: [], people: [], courses: [], sections: [], enrolments: [], faults: [] };

/** A table as it was read: its first record names the columns. */
export type Records = readonly (readonly string[])[];
export interface Row extends Place {
  readonly get: (column: string) => string;
}

const plain = (name: string): string =>
  name
    .trim()
    .toLowerCase()
    .replace(/[^a-z0-9]/g, '');

/** The rows of a table by the names of its columns, letters of either size and without spaces. Empty rows fall away. */
export function rowsOf(file: string, records: Records): readonly Row[] {
  const head = (records[0] ?? []).map(plain);
  return records.slice(1).flatMap((record, n): Row[] => {
    if (record.every((cell) => cell.trim() === '')) return [];
    const get = (column: string): string => (record[head.indexOf(plain(column))] ?? '').trim();
    return [{ file, line: n + 2, get }];
  });
}

const EMAIL = /^[^\s@]+@[^\s@]+\.[^\s@]+$/;

/** What is wrong with a person’s row, or null. */
export function personFault(person: ListedPerson): string | null {
  if (person.email === '') return 'has no email. People sign in with it.';
  if (!EMAIL.test(person.email) || person.email.length > 200) return `has the email “${person.email}”, which is none.`;
  if (person.givenName === '' || person.familyName === '')
    return `names no ${person.givenName === '' ? 'given' : 'family'} name for ${person.email}.`;
  return person.givenName.length > 80 || person.familyName.length > 80 ? `has a name of more than 80 characters (${person.email}).` : null;
}

/** What is wrong with a course’s row, or null. */
export function courseFault(course: ListedCourse): string | null {
  if (!COURSE_CODE.test(course.code))
    return `has the code “${course.code}”. It takes up to 20 letters, digits, spaces, points and hyphens.`;
  if (!COURSE_CODE.test(course.run)) return `has the run “${course.run}”. It takes up to 20 letters, digits, spaces, points and hyphens.`;
  if (course.title === '' || course.title.length > 160)
    return `has ${course.title === '' ? 'no title' : 'a title of more than 160 characters'} (${course.code}).`;
  return course.term === '' ? `names no term (${course.code}).` : null;
}

export const courseKey = (code: string, run: string): string => `${code.toLowerCase()}/${run.toLowerCase()}`;

/** Rows that are whole, each key once; what is left out is said. */
export function checkRows<T extends Place & { readonly key: string }>(
  all: readonly T[],
  faultOf: (row: T) => string | null,
): { rows: T[]; faults: RowFault[] } {
  const seen = new Map<string, T>();
  const faults: RowFault[] = [];
  for (const row of all) {
    const first = seen.get(row.key.toLowerCase());
    const fault = faultOf(row) ?? (first === undefined ? null : `says “${row.key}” a second time; row ${first.line} is taken.`);
    if (fault === null) seen.set(row.key.toLowerCase(), row);
    else faults.push({ file: row.file, line: row.line, text: fault });
  }
  return { rows: [...seen.values()], faults };
}

const KINDS = {
  people: ['email', 'given name', 'family name'],
  enrolments: ['email', 'code', 'run', 'role'],
  courses: ['code', 'run', 'title', 'term', 'section', 'instructor'],
} as const;
export type ListKind = keyof typeof KINDS;
/** The columns of each list of ours; people may carry an `id` as well, enrolments a `section`. */
export const LIST_COLUMNS: { readonly [kind in ListKind]: readonly string[] } = KINDS;

/** Columns that a list may carry as well. */
export const MORE_COLUMNS: { readonly [kind in ListKind]: readonly string[] } = { people: ['id'], enrolments: ['section'], courses: [] };
/** A few made-up rows of each list, as a beginning for a school’s own. */
export const SAMPLE_LISTS: { readonly [kind in ListKind]: string } = {
  people: 'Email,Given name,Family name,ID\nada.lund@school.example,Ada,Lund,S1\nbela.odor@school.example,Béla,Ódor,S2\n',
  enrolments:
    'Email,Code,Run,Section,Role\nada.lund@school.example,HOR 110,autumn,,instructor\nbela.odor@school.example,HOR 110,autumn,Morning,student\n',
  courses:
    'Code,Run,Title,Term,Section,Instructor\nHOR 110,autumn,Foundations,Autumn,Morning,ada.lund@school.example\nHOR 110,autumn,Foundations,Autumn,Evening,ada.lund@school.example\n',
};

/** Which list a table is, by the names of its columns; null where it is none of them. */
export function listKind(records: Records): ListKind | null {
  const head = new Set((records[0] ?? []).map(plain));
  const kinds = Object.keys(KINDS) as ListKind[];
  return kinds.find((kind) => KINDS[kind].every((column) => head.has(plain(column)))) ?? null;
}

function readPeople(rows: readonly Row[]): SchoolLists {
  const people = rows.map((row): ListedPerson => {
    const email = row.get('email');
    return {
      file: row.file,
      line: row.line,
      key: row.get('id') || email,
      email,
      givenName: row.get('given name'),
      familyName: row.get('family name'),
    };
  });
  const checked = checkRows(people, personFault);
  return { ...NO_LISTS, people: checked.rows, faults: checked.faults };
}

/** One row a section; rows of one code and run are one course, which its first row describes. */
function readCourses(rows: readonly Row[]): SchoolLists {
  const faults: RowFault[] = [];
  const courses = new Map<string, ListedCourse>();
  const sections: ListedSection[] = [];
  const enrolments: ListedEnrolment[] = [];
  for (const row of rows) {
    const { file, line } = row;
    const [code, run] = [row.get('code'), row.get('run')];
    const key = courseKey(code, run);
    const course: ListedCourse = { file, line, key, code, run, title: row.get('title'), term: row.get('term') };
    const fault = courses.has(key) ? null : courseFault(course);
    const title = row.get('section');
    if (fault !== null) faults.push({ file, line, text: fault });
    else if (title === '' || title.length > 80)
      faults.push({ file, line, text: `names ${title === '' ? 'no section' : 'a section of more than 80 characters'} (${code}).` });
    else if (sections.some((s) => s.courseKey === key && s.title.toLowerCase() === title.toLowerCase()))
      faults.push({ file, line, text: `says the section “${title}” of ${code} a second time.` });
    else {
      if (!courses.has(key)) courses.set(key, course);
      sections.push({ file, line, key: `${key}/${title.toLowerCase()}`, title, courseKey: key });
      const instructor = row.get('instructor');
      if (instructor !== '' && !enrolments.some((e) => e.courseKey === key && e.personKey === instructor))
        enrolments.push({ file, line, personKey: instructor, courseKey: key, sectionKey: null, role: 'instructor', isWithdrawn: false });
    }
  }
  return { ...NO_LISTS, courses: [...courses.values()], sections, enrolments, faults };
}

function readEnrolments(rows: readonly Row[]): SchoolLists {
  const faults: RowFault[] = [];
  const enrolments = rows.flatMap((row): ListedEnrolment[] => {
    const { file, line } = row;
    const role = LISTED_ROLES.find((r) => r === row.get('role').toLowerCase());
    const key = courseKey(row.get('code'), row.get('run'));
    const section = row.get('section');
    if (role === undefined)
      faults.push({ file, line, text: `has the role “${row.get('role')}”. The roles are ${LISTED_ROLES.join(', ')}.` });
    else if (row.get('email') === '') faults.push({ file, line, text: 'names nobody: its address is empty.' });
    else if (role === 'student' && section === '')
      faults.push({ file, line, text: `names no section for ${row.get('email')}. A student belongs to one.` });
    else
      return [
        {
          file,
          line,
          personKey: row.get('email'),
          courseKey: key,
          sectionKey: section === '' ? null : `${key}/${section.toLowerCase()}`,
          role,
          isWithdrawn: false,
        },
      ];
    return [];
  });
  return { ...NO_LISTS, enrolments, faults };
}

/**
 * A list of people, of courses with their sections, or of enrolments, told apart by its columns; null where it is none.
 * Worked example: [['Email','Given name','Family name'], ['a@b.example','Ada','Lund']] gives one person.
 */
export function readSchoolTable(file: string, records: Records): SchoolLists | null {
  const kind = listKind(records);
  if (kind === null) return null;
  const rows = rowsOf(file, records);
  return kind === 'people' ? readPeople(rows) : kind === 'courses' ? readCourses(rows) : readEnrolments(rows);
}

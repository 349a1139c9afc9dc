import { readFileSync } from 'node:fs';
import { listKind, readSchoolTable, type Records, type SchoolLists } from './lists.ts';
import { meetLists, type KnownSchool } from './meetLists.ts';
import { readOneRoster } from './oneRoster.ts';

const FILES = new URL('../../../server/test/files/lists/', import.meta.url);
/** The test files hold no quotation marks but around a comma, so a small reading does. */
const table = (name: string, sign = ','): Records =>
  readFileSync(new URL(name, FILES), 'utf8')
    .trim()
    .split('\n')
    .map((line) =>
      (line.match(new RegExp(`("[^"]*"|[^${sign}]*)(${sign}|$)`, 'g')) ?? [])
        .slice(0, -1)
        .map((cell) => cell.replace(new RegExp(`${sign}$`), '').replaceAll('"', '')),
    );
const said = (lists: SchoolLists | null): string[] => (lists?.faults ?? []).map((f) => `${f.line}: ${f.text}`);
const NOTHING: KnownSchool = { terms: [], people: [], courses: [], sections: [], enrolments: [] };
const roster = (): SchoolLists =>
  readOneRoster(
    new Map(['academicSessions', 'courses', 'classes', 'users', 'enrollments'].map((name) => [name, table(`roster/${name}.csv`)])),
  );

describe('a school’s list as a table', () => {
  it('is told by its columns, in any order and dress', () => {
    expect([[['EMAIL', 'given_name', 'Family Name']], [['Email', 'Code', 'Run', 'Role']], [['a']], []].map(listKind)).toEqual([
      'people',
      'enrolments',
      null,
      null,
    ]);
    expect(readSchoolTable('x.csv', [['a', 'b']])).toBeNull();
  });
  it('of people takes whole rows, each person once, and says of every other why not', () => {
    const lists = readSchoolTable('people.csv', table('people.csv'));
    expect(lists?.people.map((p) => [p.key, p.email])).toEqual([
      ['S1', 'ada@tower.example'],
      ['S2', 'bela@tower.example'],
      ['S5', 'ADA@tower.example'],
    ]);
    expect(said(lists)).toEqual([
      '4: names no given name for none@tower.example.',
      '5: has the email “not an address”, which is none.',
      '7: says “S1” a second time; row 2 is taken.',
    ]);
  });
  it('of courses makes one course of the rows of one code and run', () => {
    const lists = readSchoolTable('courses.csv', table('courses.csv', ';'));
    expect(lists?.courses.map((c) => c.code)).toEqual(['TOW-2', 'TOW-3', 'TOW-4']);
    expect(lists?.sections.map((s) => s.title)).toEqual(['Morning', 'Evening', 'One', 'One']);
    expect(lists?.enrolments).toHaveLength(3);
    expect(said(lists).join()).toMatch(/4: says the section “Evening” of TOW-2 a second time.*5: has the code “T#W”/);
  });
  it('of enrolments knows the roles, and that a student belongs to a section', () => {
    const lists = readSchoolTable('enrolments.csv', table('enrolments.csv'));
    expect(lists?.enrolments).toHaveLength(4);
    expect(said(lists)).toEqual([
      '5: names no section for emil@tower.example. A student belongs to one.',
      '6: has the role “king”. The roles are student, assistant, instructor.',
    ]);
  });
});

describe('the files of OneRoster', () => {
  it('make a course of the classes of one course in one term, and sections told apart where they share a title', () => {
    const lists = roster();
    expect(lists.terms.map((t) => t.title)).toEqual(['Winter 2027']);
    expect(lists.courses.map((c) => [c.code, c.run, c.title])).toEqual([
      ['DIA-100', 'Winter-2027', 'Dials, painted and printed'],
      ['DIA-200', 'Winter-2027', 'Nobody teaches this'],
    ]);
    expect(lists.sections.map((s) => s.title)).toEqual(['Dials', 'Dials B', 'Alone']);
    expect(lists.people.map((p) => `${p.givenName} ${p.email}`)).toEqual([
      'Gita gita@dials.example',
      'Hannes hans@dials.example',
      'Lea lea@dials.example',
    ]);
    expect(lists.enrolments.map((e) => [e.personKey, e.sectionKey, e.role])).toEqual([
      ['u1', null, 'instructor'],
      ['u2', 'k1', 'student'],
      ['u5', 'k2', 'student'],
    ]);
  });
  it('say of each row that is not taken where it stands and why', () => {
    const text = roster()
      .faults.map((f) => `${f.file} ${f.line} ${f.text}`)
      .join('\n');
    for (const words of [
      'academicSessions.csv 4 has the date “2027-13-40”',
      'users.csv 4 has no email',
      'users.csv 5 marks kai@dials.example to be deleted',
      'classes.csv 5 belongs to the course “c9”',
      'classes.csv 6 is held in “t2”',
      'enrollments.csv 6 puts “u5” into a second class',
      'enrollments.csv 7 names the class “k9”',
      'enrollments.csv 8 names the person “u9”',
      'enrollments.csv 9 has the role “administrator”',
    ])
      expect(text).toContain(words);
  });
  it('with a column missing leave that file out, and say which', () => {
    const lists = readOneRoster(new Map([['users', [['sourcedId', 'email']]]]));
    expect(lists.faults).toEqual([
      { file: 'users.csv', line: 1, text: 'names no column “givenName” and “familyName”; the file is left out.' },
    ]);
  });
});

describe('what becomes of each row', () => {
  const of = (known: KnownSchool, lists = roster()) =>
    meetLists(lists, known).map((m) => `${m.of} ${m.name}: ${m.what}${m.text === '' ? '' : ` (${m.text})`}`);
  it('in an empty school: everything is added, but a course that nobody teaches, whose sections have none', () => {
    const all = of(NOTHING);
    expect(all.filter((line) => line.includes('refuse'))).toEqual([
      'course DIA-200 Winter-2027: refuse (Nobody who is here or in the lists teaches it. Name an instructor; its sections have no course until then.)',
      'section Alone: refuse (Its course is not taken, so this section has none.)',
    ]);
    expect(all.filter((line) => line.includes(': add'))).toHaveLength(1 + 3 + 1 + 2 + 3);
  });
  const known: KnownSchool = {
    terms: [{ id: 'T', source: null, title: 'winter 2027', startsOn: '2027-01-11', endsOn: '2027-04-18' }],
    people: [
      { id: 'P1', source: 'u1', email: 'old@dials.example', givenName: 'Gita', familyName: 'Holm' },
      { id: 'P2', source: null, email: 'HANS@dials.example', givenName: 'Hannes', familyName: 'Ivers' },
      { id: 'P5', source: 'u5', email: 'lea@dials.example', givenName: 'Lea', familyName: 'Moor' },
    ],
    courses: [{ id: 'C', source: 'c1@t1', code: 'DIA-100', run: 'Winter-2027', title: 'Dials' }],
    sections: [
      { id: 'S1', source: 'k1', courseId: 'C', title: 'Old title' },
      { id: 'S2', source: null, courseId: 'C', title: 'Dials B' },
    ],
    enrolments: [
      { id: 'E1', personId: 'P1', courseId: 'C', sectionId: null, role: 'assistant', isWithdrawn: false },
      { id: 'E2', personId: 'P2', courseId: 'C', sectionId: 'S2', role: 'student', isWithdrawn: false },
      { id: 'E5', personId: 'P5', courseId: 'C', sectionId: 'S2', role: 'student', isWithdrawn: true },
    ],
  };
  it('where they are here already: what differs is changed or said, and nothing is doubled', () => {
    const all = of(known);
    for (const line of [
      'term Winter 2027: same (differs (ends 2027-04-18 → 2027-04-25). Change the term above: every course in it is touched.)',
      'person Gita Holm: change (address old@dials.example → gita@dials.example)',
      'person Hannes Ivers: same',
      'course DIA-100 Winter-2027: same (is called “Dials” here, as its teacher has it; that stays.)',
      'section Dials: change (title Old title → Dials)',
      'section Dials B: same',
      'enrolment u1, instructor: refuse (is assistant of this course already. Change that in its Roster.)',
      'enrolment u2, student: change (moves to another section)',
      'enrolment u5, student: change (is in the course again)',
    ])
      expect(all).toContain(line);
  });
  it('a section keeps its title where another one, not of the lists, has the new one', () => {
    const own = { id: 'S9', source: null, courseId: 'C', title: 'Dials' };
    expect(of({ ...known, sections: [...known.sections, own] })).toContain(
      'section Dials: same (keeps the title “Old title”: another section here has the title “Dials”.)',
    );
  });
  it('a person whose address is another’s is refused, and so is one address in two rows', () => {
    const lists = {
      ...roster(),
      people: [...roster().people, { key: 'u7', email: 'gita@dials.example', givenName: 'G', familyName: 'H', file: 'users.csv', line: 9 }],
    };
    const taken: KnownSchool = {
      ...NOTHING,
      people: [
        ...known.people.slice(2),
        { id: 'X', source: 'x', email: 'other@dials.example', givenName: 'Other', familyName: 'One' },
        { id: 'Y', source: 'u2', email: 'y@dials.example', givenName: 'Y', familyName: 'Z' },
        { id: 'Z', source: 'z', email: 'hans@dials.example', givenName: 'Real', familyName: 'Hans' },
      ],
    };
    const all = of(taken, lists).join('\n');
    expect(all).toContain('person Hannes Ivers: refuse (The address hans@dials.example belongs to Real Hans already.)');
    expect(all).toContain('person G H: refuse (The address gita@dials.example stands in another row as well.)');
  });
  it('an enrolment marked to be deleted withdraws, and one that was never here is nothing', () => {
    const [first] = roster().enrolments;
    const gone = roster().enrolments.map((e) => ({ ...e, isWithdrawn: true }));
    expect(first).toBeDefined();
    const all = of(known, { ...roster(), enrolments: gone });
    expect(all).toContain('enrolment u2, student: change (is withdrawn; work and marks stay)');
    expect(of({ ...known, enrolments: [] }, { ...roster(), enrolments: gone })).toContain(
      'enrolment u2, student: same (is not in the course)',
    );
  });
});

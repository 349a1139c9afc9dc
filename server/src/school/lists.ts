import { randomUUID } from 'node:crypto';
import type { ListsPreview } from '@rosemary/api';
import {
  type KnownSchool,
  LIST_COLUMNS,
  type ListedWhat,
  type Meeting,
  meetLists,
  ONE_ROSTER_FILES,
  readOneRoster,
  readSchoolTable,
  type Records,
  type SchoolLists,
} from '@rosemary/core';
import { open } from 'node:fs/promises';
import { moveStudents } from '../sections/index.ts';
import { addCourse } from '../courseHome/index.ts';
import { decodeUtf8, parseTable, readTextFile, readZip } from '../files/index.ts';
import { invite } from '../people/index.ts';
import { type Db, rows, run } from '../platform/database.ts';
import { invalid } from '../platform/errors.ts';
import { addMember, addSampleStudent } from '../roster/index.ts';

const MOST_ROWS = 50_000;

const MOST_SHOWN = 2000;

const MOST_CSV = 52_428_800;

async function isZip(path: string): Promise<boolean> {
  const handle = await open(path);
  try {
    const { buffer } = await handle.read(Buffer.alloc(2), 0, 2, 0);
    return buffer.toString('latin1') === 'PK';
  } finally {
    await handle.close();
  }
}

async function readRosterZip(path: string): Promise<SchoolLists> {
  const zip = await readZip(path);
  try {
    const tables = new Map<string, Records>();
    for (const name of zip.sizes.keys()) {
      const table = ONE_ROSTER_FILES.find((t) => name.toLowerCase() === `${t.toLowerCase()}.csv`);
      if (table !== undefined) tables.set(table, parseTable(decodeUtf8(await zip.readBytes(name, MOST_CSV), name), name));
    }
    if (tables.size > 0) return readOneRoster(tables);
    const found = [...zip.sizes.keys()].slice(0, 4).join(', ') || 'nothing';
    throw invalid('file', `This zip holds none of ${ONE_ROSTER_FILES.map((t) => `${t}.csv`).join(', ')} at its root. It holds: ${found}.`);
  } finally {
    zip.close();
  }
}

async function readLists(path: string, name: string): Promise<{ kind: string; lists: SchoolLists }> {
  if (await isZip(path)) return { kind: 'OneRoster 1.2', lists: await readRosterZip(path) };
  const records = parseTable(await readTextFile(path, 'A list'));
  const lists = readSchoolTable(name, records);
  if (lists !== null) return { kind: 'list', lists };
  const head = (records[0] ?? []).join(', ').slice(0, 120) || 'nothing';
  const wanted = Object.entries(LIST_COLUMNS).map(([kind, columns]) => `${kind}: ${columns.join(', ')}`);
  throw invalid('file', `The first row names the columns ${head}, which make no list. The lists are ${wanted.join('; ')}.`);
}

async function readKnown(db: Db, lists: SchoolLists): Promise<KnownSchool> {
  const keys = lists.people.map((p) => p.key);
  const emails = [...lists.people.map((p) => p.email), ...lists.enrolments.map((e) => e.personKey)];
  const people = await rows<KnownSchool['people'][number]>(
    db,
    'select id, source, email::text, given_name as "givenName", family_name as "familyName" from person where source = any($1) or email = any($2::citext[])',
    [keys, emails],
  );
  const courses = await rows<KnownSchool['courses'][number]>(db, 'select id, source, code, run, title from course');
  return {
    terms: await rows(db, 'select id, source, title, starts_on::text as "startsOn", ends_on::text as "endsOn" from term'),
    people,
    courses,
    sections: await rows(db, 'select id, source, course_id as "courseId", title from section where removed_at is null'),
    enrolments: await rows(
      db,
      'select id, person_id as "personId", course_id as "courseId", section_id as "sectionId", role, withdrawn_at is not null as "isWithdrawn" from enrolment where person_id = any($1)',
      [people.map((p) => p.id)],
    ),
  };
}

interface Coming {
  readonly kind: string;
  readonly lists: SchoolLists;
  readonly met: readonly Meeting[];
  readonly preview: ListsPreview;
}

async function readComing(db: Db, path: string, name: string): Promise<Coming> {
  const { kind, lists } = await readLists(path, name);
  const many =
    lists.terms.length + lists.people.length + lists.courses.length + lists.sections.length + lists.enrolments.length + lists.faults.length;
  if (many > MOST_ROWS) throw invalid('file', `The lists have ${many} rows; ${MOST_ROWS} are taken at once. Split them.`);
  if (many === 0) throw invalid('file', 'The lists have no row below the names of their columns.');
  const met = meetLists(lists, await readKnown(db, lists));
  const faults = lists.faults.map((fault) => ({ of: 'file' as const, ...fault, what: 'refuse' as const, name: '' }));
  const all = [...faults, ...met];
  const count = (what: ListedWhat): number => all.filter((row) => row.what === what).length;
  const order: readonly ListedWhat[] = ['refuse', 'change', 'add', 'same'];
  const shown = order.flatMap((what) => all.filter((row) => row.what === what && (what !== 'same' || row.text !== '')));
  return {
    kind,
    lists,
    met,
    preview: {
      kind,
      counts: { add: count('add'), change: count('change'), same: count('same'), refuse: count('refuse') },
      rows: shown
        .slice(0, MOST_SHOWN)
        .map((row) => ({ of: row.of, file: row.file, line: row.line, what: row.what, name: row.name, text: row.text })),
    },
  };
}

export const previewLists = async (db: Db, path: string, name: string): Promise<ListsPreview> => (await readComing(db, path, name)).preview;

/** Writes what was met, in the order in which it rests on each other; identifiers by key are kept on the way. */
class ListWriter {
  readonly #db: Db;
  readonly #lists: SchoolLists;
  readonly #met: readonly Meeting[];
  readonly #zone: string;
  readonly #now: number;
  readonly #ids = {
    term: new Map<string, string>(),
    person: new Map<string, string>(),
    course: new Map<string, string>(),
    section: new Map<string, string>(),
  };
  readonly added: string[] = [];

  constructor(db: Db, { lists, met }: Coming, zone: string, now: number) {
    this.#db = db;
    this.#lists = lists;
    this.#met = met;
    this.#zone = zone;
    this.#now = now;
  }

  #of<T extends { readonly key: string }>(
    of: 'term' | 'person' | 'course' | 'section',
    list: readonly T[],
    what: ListedWhat,
  ): { row: T; id: string | null }[] {
    const byKey = new Map(this.#met.filter((m) => m.of === of && m.what === what).map((m) => [m.key, m]));
    return list.flatMap((row) => {
      const meeting = byKey.get(row.key);
      return meeting === undefined ? [] : [{ row, id: meeting.id }];
    });
  }

  /** What is here already is found by its key from now on, and carries the school’s identifier. */
  async #know(of: 'term' | 'person' | 'course' | 'section', isSource: boolean): Promise<void> {
    const here = this.#met.filter((m) => m.of === of && m.id !== null && m.what !== 'refuse');
    for (const m of here) this.#ids[of].set(m.key.toLowerCase(), m.id ?? '');
    // Only OneRoster has identifiers of its own; an address or a code is none.
    if (isSource && here.length > 0)
      await run(
        this.#db,
        `update ${of} x set source = t.source from unnest($1::uuid[], $2::text[]) as t(id, source) where x.id = t.id and x.source is distinct from t.source`,
        [here.map((m) => m.id), here.map((m) => m.key)],
      );
  }

  async terms(isSource: boolean): Promise<void> {
    for (const here of await rows<{ id: string; title: string }>(this.#db, 'select id, title from term'))
      this.#ids.term.set(here.title.toLowerCase(), here.id);
    await this.#know('term', isSource);
    const add = this.#of('term', this.#lists.terms, 'add').map(({ row }) => ({ ...row, id: randomUUID() }));
    await run(
      this.#db,
      'insert into term (id, title, starts_on, ends_on, source) select * from unnest($1::uuid[], $2::text[], $3::date[], $4::date[], $5::text[])',
      [
        add.map((t) => t.id),
        add.map((t) => t.title),
        add.map((t) => t.startsOn),
        add.map((t) => t.endsOn),
        add.map((t) => (isSource ? t.key : null)),
      ],
    );
    for (const term of add) this.#ids.term.set(term.key.toLowerCase(), term.id);
  }

  async people(isSource: boolean): Promise<void> {
    const emails = this.#lists.enrolments.map((e) => e.personKey);
    for (const here of await rows<{ id: string; email: string }>(
      this.#db,
      'select id, email::text from person where email = any($1::citext[])',
      [emails],
    ))
      this.#ids.person.set(here.email.toLowerCase(), here.id);
    await this.#know('person', isSource);
    const hasId = (p: { key: string; email: string }): boolean => p.key !== p.email;
    const change = this.#of('person', this.#lists.people, 'change');
    await run(
      this.#db,
      'update person p set email = t.email, given_name = t.given, family_name = t.family, version = version + 1 from unnest($1::uuid[], $2::text[], $3::text[], $4::text[]) as t(id, email, given, family) where p.id = t.id',
      [change.map((c) => c.id), change.map((c) => c.row.email), change.map((c) => c.row.givenName), change.map((c) => c.row.familyName)],
    );
    const add = this.#of('person', this.#lists.people, 'add').map((a) => a.row);
    const made = await rows<{ id: string; email: string }>(
      this.#db,
      'insert into person (email, given_name, family_name, source) select * from unnest($1::citext[], $2::text[], $3::text[], $4::text[]) returning id, email::text',
      [add.map((p) => p.email), add.map((p) => p.givenName), add.map((p) => p.familyName), add.map((p) => (hasId(p) ? p.key : null))],
    );
    const byEmail = new Map(made.map((m) => [m.email.toLowerCase(), m.id]));
    for (const person of add) {
      const id = byEmail.get(person.email.toLowerCase()) ?? '';
      this.added.push(id);
      for (const key of [person.key, person.email]) this.#ids.person.set(key.toLowerCase(), id);
    }
  }

  async courses(isSource: boolean): Promise<void> {
    for (const here of await rows<{ id: string; code: string; run: string }>(this.#db, 'select id, code, run from course'))
      this.#ids.course.set(`${here.code}/${here.run}`.toLowerCase(), here.id);
    await this.#know('course', isSource);
    const sources: { id: string; key: string }[] = [];
    for (const { row } of this.#of('course', this.#lists.courses, 'add')) {
      const instructor = this.#lists.enrolments.find(
        (e) => e.courseKey === row.key && e.role === 'instructor' && this.#ids.person.has(e.personKey.toLowerCase()),
      );
      const id = await addCourse(this.#db, {
        ...{ code: row.code, run: row.run, title: row.title, timeZone: this.#zone, sections: [] },
        termId: this.#ids.term.get(row.term.toLowerCase()) ?? '',
        instructorId: this.#ids.person.get(instructor?.personKey.toLowerCase() ?? '') ?? '',
      });
      if (isSource) sources.push({ id, key: row.key });
      this.#ids.course.set(row.key.toLowerCase(), id);
    }
    await run(this.#db, 'update course c set source = t.key from unnest($1::uuid[], $2::text[]) as t(id, key) where c.id = t.id', [
      sources.map((s) => s.id),
      sources.map((s) => s.key),
    ]);
  }

  async sections(isSource: boolean): Promise<void> {
    for (const here of await rows<{ id: string; key: string }>(
      this.#db,
      "select s.id, lower(c.code || '/' || c.run || '/' || s.title) as key from section s join course c on c.id = s.course_id where s.removed_at is null",
    ))
      this.#ids.section.set(here.key, here.id);
    await this.#know('section', isSource);
    const change = this.#of('section', this.#lists.sections, 'change');
    // Two sections may change titles with each other: each gives its own up first.
    await run(this.#db, 'update section set title = id::text where id = any($1)', [change.map((c) => c.id)]);
    await run(this.#db, 'update section s set title = t.title from unnest($1::uuid[], $2::text[]) as t(id, title) where s.id = t.id', [
      change.map((c) => c.id),
      change.map((c) => c.row.title),
    ]);
    const add = this.#of('section', this.#lists.sections, 'add').map(({ row }) => ({
      ...row,
      id: randomUUID(),
      courseId: this.#ids.course.get(row.courseKey.toLowerCase()) ?? '',
    }));
    // In the order of the list, after those that a course has.
    await run(
      this.#db,
      `insert into section (id, course_id, title, position, source)
       select t.id, t.course, t.title, coalesce((select max(s.position) from section s where s.course_id = t.course), -1) + row_number() over (partition by t.course order by t.n), t.source
       from unnest($1::uuid[], $2::uuid[], $3::text[], $4::text[]) with ordinality as t(id, course, title, source, n)`,
      [add.map((s) => s.id), add.map((s) => s.courseId), add.map((s) => s.title), add.map((s) => (isSource ? s.key : null))],
    );
    for (const section of add) {
      this.#ids.section.set(section.key.toLowerCase(), section.id);
      await addSampleStudent(this.#db, section.courseId, section.id, section.title);
    }
  }

  async enrolments(): Promise<void> {
    const byPlace = new Map(this.#met.filter((m) => m.of === 'enrolment').map((m) => [`${m.file}:${m.line}:${m.key}`, m]));
    const changed: { id: string; isWithdrawn: boolean }[] = [];
    const moved: { id: string; courseId: string; sectionId: string }[] = [];
    for (const one of this.#lists.enrolments) {
      const meeting = byPlace.get(`${one.file}:${one.line}:${one.personKey}/${one.courseKey}`);
      const sectionId = one.sectionKey === null ? null : (this.#ids.section.get(one.sectionKey.toLowerCase()) ?? null);
      if (meeting?.what === 'add') {
        const [courseId, personId] = [this.#ids.course.get(one.courseKey.toLowerCase()), this.#ids.person.get(one.personKey.toLowerCase())];
        if (courseId !== undefined && personId !== undefined) await addMember(this.#db, courseId, personId, one.role, sectionId);
      } else if (meeting?.what === 'change') {
        const id = meeting.id ?? '';
        changed.push({ id, isWithdrawn: one.isWithdrawn });
        const courseId = this.#ids.course.get(one.courseKey.toLowerCase());
        if (sectionId !== null && courseId !== undefined) moved.push({ id, courseId, sectionId });
      }
    }
    await run(
      this.#db,
      'update enrolment e set withdrawn_at = case when t.gone then coalesce(e.withdrawn_at, to_timestamp($3 / 1000.0)) end, version = e.version + 1 from unnest($1::uuid[], $2::boolean[]) as t(id, gone) where e.id = t.id',
      [changed.map((c) => c.id), changed.map((c) => c.isWithdrawn), this.#now],
    );
    for (const { id, courseId, sectionId } of moved) await moveStudents(this.#db, courseId, [id], sectionId, this.#now);
  }
}

/** Takes in what is not refused, all of it or nothing; who is new is mailed a way to set a password. */
export async function bringLists(
  db: Db,
  path: string,
  name: string,
  zone: string,
  now: number,
): Promise<{ counts: ListsPreview['counts']; invited: number }> {
  const coming = await readComing(db, path, name);
  const isSource = coming.kind !== 'list';
  const writer = new ListWriter(db, coming, zone, now);
  await writer.terms(isSource);
  await writer.people(isSource);
  await writer.courses(isSource);
  await writer.sections(isSource);
  await writer.enrolments();
  return { counts: coming.preview.counts, invited: await invite(db, writer.added, now) };
}

import type { ListsDone, ListsPreview, OutboxMail, School } from '@rosemary/api';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import supertest from 'supertest';
import { ZipFile } from 'yazl';
import { rows, withDb } from '../src/index.ts';
import { makeSchool, type TestSchool } from './school.ts';

const FILES = join(import.meta.dirname, 'files/lists');
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('lists');
}, 60_000);
afterAll(() => school.close());
const admin = () => school.agents.administrator;
const file = (name: string): Buffer => readFileSync(join(FILES, name));
const look = (bytes: Buffer, name = 'list.csv') => admin().post('/api/school/lists/preview').attach('file', bytes, name);
const bring = (bytes: Buffer, name = 'list.csv') => admin().post('/api/school/lists?zone=Europe/Lisbon').attach('file', bytes, name);
async function roster(change: Readonly<Record<string, (text: string) => string>> = {}): Promise<Buffer> {
  const zip = new ZipFile();
  for (const name of readdirSync(join(FILES, 'roster'))) {
    const text = change[name]?.(file(`roster/${name}`).toString()) ?? file(`roster/${name}`).toString();
    zip.addBuffer(Buffer.from(text), name);
  }
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}
const query = <T extends object>(sql: string, values: unknown[] = []): Promise<T[]> =>
  withDb(school.pool, false, (db) => rows<T>(db, sql, values));
const here = async (): Promise<School> => (await admin().get('/api/school').expect(200)).body as School;
const members = (code: string) =>
  query<{ email: string; role: string; section: string | null; gone: boolean }>(
    'select p.email::text, e.role, s.title as section, e.withdrawn_at is not null as gone from enrolment e join person p on p.id = e.person_id join course c on c.id = e.course_id left join section s on s.id = e.section_id where c.code = $1 and not e.is_sample order by p.email',
    [code],
  );
const mails = async (): Promise<OutboxMail[]> => ((await admin().get('/api/outbox').expect(200)).body as { mails: OutboxMail[] }).mails;

describe('a school’s lists', () => {
  it('are looked at first, row by row, and nothing happens', async () => {
    const before = await here();
    const preview = (await look(file('people.csv'), 'people.csv').expect(200)).body as ListsPreview;
    expect(preview.counts).toEqual({ add: 2, change: 0, same: 0, refuse: 4 });
    expect(preview.rows[0]).toEqual({
      of: 'file',
      file: 'people.csv',
      line: 4,
      what: 'refuse',
      name: '',
      text: 'names no given name for none@tower.example.',
    });
    expect(preview.rows.filter((r) => r.what === 'add').map((r) => r.name)).toEqual(['Ada Lund', 'Béla Ódor']);
    expect(await here()).toEqual(before);
  });

  it('are the administrator’s alone', async () => {
    for (const who of ['instructor', 'assistant', 'student'] as const)
      for (const end of ['', '/preview'])
        await school.agents[who].post(`/api/school/lists${end}`).attach('file', file('people.csv'), 'p.csv').expect(403);
    await supertest(school.app).post('/api/school/lists').expect(401);
  });

  it('of people, courses and enrolments make courses with sections, instructor and students; each rests on the one before', async () => {
    const people = (await bring(file('people.csv')).expect(200)).body as ListsDone;
    expect([people.counts.add, people.invited]).toEqual([2, 2]);
    const courses = (await bring(file('courses.csv')).expect(200)).body as ListsDone;
    expect(courses.counts).toMatchObject({ add: 1 + 2 + 1 });
    expect(courses.school.courses.find((c) => c.code === 'TOW-2')).toMatchObject({
      title: 'Bells and hours',
      staff: 'Ada Lund',
      students: 0,
      isOpen: false,
    });
    const done = (await bring(file('enrolments.csv')).expect(200)).body as ListsDone;
    expect(done.counts).toEqual({ add: 1, change: 0, same: 0, refuse: 5 });
    expect(await members('TOW-2')).toEqual([
      { email: 'ada@tower.example', role: 'instructor', section: null, gone: false },
      { email: 'bela@tower.example', role: 'student', section: 'Evening', gone: false },
    ]);
    const zone = await query<{ time_zone: string }>("select time_zone from course where code = 'TOW-2'");
    expect(zone).toEqual([{ time_zone: 'Europe/Lisbon' }]);
  });

  it('brought in a second time add nothing', async () => {
    for (const name of ['people.csv', 'courses.csv', 'enrolments.csv']) {
      const { counts, invited } = (await bring(file(name)).expect(200)).body as ListsDone;
      expect([name, counts.add, counts.change, invited]).toEqual([name, 0, 0, 0]);
    }
  });

  it('a changed name and address are met by the school’s identifier', async () => {
    const text = 'Email,Given name,Family name,ID\nada.lund@tower.example,Ada,Lund-Berg,S1\n';
    const preview = (await look(Buffer.from(text)).expect(200)).body as ListsPreview;
    expect(preview.rows[0]?.text).toBe('name Ada Lund → Ada Lund-Berg, address ada@tower.example → ada.lund@tower.example');
    await bring(Buffer.from(text)).expect(200);
    expect((await here()).people.filter((p) => p.familyName.startsWith('Lund')).map((p) => p.email)).toEqual(['ada.lund@tower.example']);
  });

  it.each([
    ['latin1.csv', 'not written in UTF-8'],
    ['quote.csv', 'a quotation mark in line 2 is opened and not closed'],
    ['columns.csv', 'The first row names the columns Mail, Name, which make no list'],
    ['empty.csv', 'The file is empty'],
    ['head.csv', 'no row below the names'],
  ])('%s is refused in words', async (name, words) => {
    for (const send of [look, bring]) expect((await send(file(name)).expect(422)).body.detail).toContain(words);
  });
});

describe('the files of OneRoster', () => {
  it('bring in a term, people, a course of two classes and its students, and say what is not taken', async () => {
    const preview = (await look(await roster(), 'roster.zip').expect(200)).body as ListsPreview;
    expect([preview.kind, preview.counts.add]).toEqual(['OneRoster 1.2', 10]);
    expect(preview.rows.filter((r) => r.of === 'section' && r.what === 'refuse').map((r) => r.text)).toEqual([
      'Its course is not taken, so this section has none.',
    ]);
    const done = (await bring(await roster(), 'roster.zip').expect(200)).body as ListsDone;
    expect(done.invited).toBe(3);
    expect(done.school.terms.find((t) => t.title === 'Winter 2027')).toMatchObject({ startsOn: '2027-01-11', endsOn: '2027-04-25' });
    expect((await members('DIA-100')).map((m) => [m.email, m.role, m.section])).toEqual([
      ['gita@dials.example', 'instructor', null],
      ['hans@dials.example', 'student', 'Dials'],
      ['lea@dials.example', 'student', 'Dials B'],
    ]);
  });

  it('brought in again change what changed there, withdraw whom they mark, and double nobody', async () => {
    const bytes = await roster({
      'enrollments.csv': (text) =>
        text
          .replace('e3,,,k1', 'e3,,,k2')
          .replace('e4,,,k2', 'e4,tobedeleted,,k2')
          .replace(/e5.*\n/, ''),
      'classes.csv': (text) => text.replace('k1,,,Dials', 'k1,,,Enamel'),
      'users.csv': (text) => text.replace('Holm', 'Holm-Ek'),
    });
    const done = (await bring(bytes, 'roster.zip').expect(200)).body as ListsDone;
    expect([done.counts.add, done.counts.change, done.invited]).toEqual([0, 5, 0]);
    expect((await members('DIA-100')).map((m) => [m.email, m.section, m.gone])).toEqual([
      ['gita@dials.example', null, false],
      ['hans@dials.example', 'Dials', false],
      ['lea@dials.example', 'Dials', true],
    ]);
  });

  it('without one of its files at the root, or broken off, are refused in words', async () => {
    const zip = new ZipFile();
    zip.addBuffer(Buffer.from('x'), 'inside/users.csv');
    zip.end();
    const parts: Buffer[] = [];
    for await (const part of zip.outputStream) parts.push(part as Buffer);
    expect((await look(Buffer.concat(parts), 'r.zip').expect(422)).body.detail).toContain('It holds: inside/users.csv');
    expect((await look((await roster()).subarray(0, 200), 'r.zip').expect(422)).body.detail).toContain('breaks off');
  });
});

describe('an invitation', () => {
  const wayOf = async (email: string): Promise<string> =>
    /\/welcome\/(\S+)/.exec((await mails()).find((m) => m.to === email)?.body ?? '')?.[1] ?? '';
  const nobody = () => supertest.agent(school.app);

  it('sets the first password once, and signs in', async () => {
    const token = await wayOf('bela@tower.example');
    const agent = nobody();
    expect((await agent.get(`/api/welcome/${token}`).expect(200)).body).toEqual({ givenName: 'Béla', email: 'bela@tower.example' });
    const short = await agent.post(`/api/welcome/${token}`).send({ password: 'short' }).expect(422);
    expect(short.body.detail).toContain('Password');
    const me = (await agent.post(`/api/welcome/${token}`).send({ password: 'a long enough one' }).expect(200)).body;
    expect(me.person.email).toBe('bela@tower.example');
    await nobody().get(`/api/welcome/${token}`).expect(404);
    await nobody().post('/api/sign-in').send({ email: 'bela@tower.example', password: 'a long enough one' }).expect(200);
  });

  it('is closed after two weeks, and one that was made up opens nothing', async () => {
    const token = await wayOf('gita@dials.example');
    const before = school.clock.at;
    school.clock.at = before + 15 * 86_400_000;
    expect((await nobody().get(`/api/welcome/${token}`).expect(404)).body.detail).toContain('no longer open');
    school.clock.at = before;
    await nobody().get(`/api/welcome/${token}`).expect(200);
    await nobody().get('/api/welcome/00000000-0000-4000-8000-000000000000').expect(404);
  });

  it('is kept as its hash alone', async () => {
    const token = await wayOf('gita@dials.example');
    const kept = await query<{ is: boolean }>("select encode(token_hash, 'escape') like '%' || $1 || '%' as is from invitation", [token]);
    expect(kept.every((k) => !k.is)).toBe(true);
  });
});

import type { Express } from 'express';
import { randomUUID } from 'node:crypto';
import { paragraphs } from '@rosemary/api';
import supertest from 'supertest';
import { makePool, type Pool } from '../src/index.ts';
import { addCourse } from '../src/courseHome/addCourse.ts';
import { addMember } from '../src/roster/index.ts';
import { addPerson, hashPassword } from '../src/people/index.ts';
import { routes } from '../src/routes.ts';
import { rows, withDb } from '../src/platform/database.ts';
import { makeBody } from './bodies.ts';
import { makeDatabase, makeTestApp, PASSWORD } from './school.ts';
// @ts-expect-error the start scripts are plain modules
import { DEMO_CLOCK, layOutTemplate } from '../../scripts/demoTemplate.mjs';

/** Whoever teaches or learns in one course reaches nothing of another, by any address and any body: a whole school is beside theirs. */
let database: Awaited<ReturnType<typeof makeDatabase>>;
let pool: Pool;
let app: Express;
let courseId = '';
/** What the course apart has itself: in half of the tries only the last name of an address is another course's. */
let own: Readonly<Record<string, string>> = {};
let ids: ReadonlyMap<string, readonly string[]> = new Map();
const ask = <T extends object>(sql: string, values: unknown[] = []): Promise<T[]> =>
  withDb(pool, false, (db) => rows<T & Record<string, unknown>>(db, sql, values));

beforeAll(async () => {
  database = await makeDatabase('foreign', (await layOutTemplate(process.env)) as string);
  pool = makePool(database.appUrl, 6);
  app = makeTestApp(pool, { at: Date.parse(DEMO_CLOCK as string) });
  const tables = await ask<{ name: string }>(
    `select table_name as name from information_schema.columns where table_schema = 'public' and column_name = 'id' and data_type = 'uuid' order by 1`,
  );
  const found = new Map<string, readonly string[]>();
  for (const { name } of tables)
    found.set(
      name,
      (await ask<{ id: string }>(`select id from ${name} ${name === 'file' ? SHOWN : ''} order by md5(id::text) limit 40`)).map(
        (row) => row.id,
      ),
    );
  ids = found;
  const hash = await hashPassword(PASSWORD);
  courseId = await withDb(pool, true, async (db) => {
    const person = (email: string): Promise<string> =>
      addPerson(db, { email, givenName: 'Ysolde', familyName: 'Quarrington', password: PASSWORD }, false, hash);
    const [teacher, student] = [await person('teacher@apart.example'), await person('student@apart.example')];
    const [term] = await rows<{ id: string }>(db, 'select id from term order by starts_on desc limit 1');
    const made = await addCourse(
      db,
      {
        code: 'ZZZ-900',
        run: 'one',
        title: 'Apart',
        termId: term?.id ?? '',
        timeZone: 'Europe/Lisbon',
        instructorId: teacher,
        sections: ['Only'],
      },
      true,
    );
    const [section] = await rows<{ id: string }>(db, 'select id from section where course_id = $1', [made]);
    const enrolmentId = (await addMember(db, made, student, 'student', section?.id ?? null)) ?? '';
    own = { enrolmentId, personId: student, sectionId: section?.id ?? '' };
    return made;
  });
  const [teacher, student] = [await signIn('teacher'), await signIn('student')];
  const at = `/api/courses/${courseId}`;
  const unitId = (await teacher.post(`${at}/units`).send({ title: 'Apart' }).expect(200)).body.id as string;
  const add = async (kind: string): Promise<string> =>
    (await teacher.post(`${at}/items`).send({ unitId, kind, title: 'Apart', position: 0 }).expect(200)).body.id as string;
  const [itemId, quizId, talkId] = [await add('assignment'), await add('quiz'), await add('discussion')];
  for (const id of [itemId, talkId]) await teacher.patch(`${at}/items/${id}`).send({ version: 1, isDraft: false }).expect(200);
  const { body: item } = await student.get(`${at}/own/items/${itemId}`).expect(200);
  const { body: saved } = await student
    .put(`${at}/own/items/${itemId}/draft`)
    .send({ document: paragraphs('Apart'), version: item.draft.version })
    .expect(200);
  await student.post(`${at}/own/items/${itemId}/hand-in`).send({ note: '', key: 'a key of this', version: saved.version }).expect(200);
  own = { ...own, unitId, itemId, quizId, talkId };
}, 240_000);
afterAll(async () => {
  await pool.end();
  await database.drop();
});

async function signIn(who: string): Promise<ReturnType<typeof supertest.agent>> {
  const agent = supertest.agent(app);
  await agent
    .post('/api/sign-in')
    .send({ email: `${who}@apart.example`, password: PASSWORD })
    .expect(200);
  return agent;
}

/** An address with the names of another course in it, or, where `isOwn`, with those of this one up to the last. */
function addressOf(path: string, isOwn: boolean): string {
  const names = [...path.matchAll(/:(\w+)/g)].map((found) => found[1] ?? '');
  const itemOf = path.includes('/quizzes/') ? 'quizId' : path.includes('/discussions/') ? 'talkId' : 'itemId';
  const ownOf = (name: string): string | undefined => own[name === 'itemId' ? itemOf : name];
  return `/api${path.replace(/:(\w+)/g, (_, name: string) => {
    if (name === 'courseId') return courseId;
    return (isOwn && name !== names.at(-1) ? ownOf(name) : undefined) ?? foreignId(name);
  })}`;
}

/** An identifier of another course that fits the name, another one each time. */
let turn = 0;
function foreignId(name: string): string {
  turn += 1;
  const word = name.replace(/Ids?$/, '').replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
  const full = [...ids].filter(([, some]) => some.length > 0);
  const named = full.filter(([table]) => table === word);
  const fitting = named.length > 0 ? named : full.filter(([table]) => word.length > 2 && table.includes(word));
  const pools = (fitting.length > 0 ? fitting : full).map(([, some]) => some);
  const some = pools[turn % pools.length] ?? [];
  return some[(turn * 7) % some.length] ?? randomUUID();
}

/** What can only come from another course: titles, names of files, words of questions, notes and posts. */
const listWords = (): Promise<{ word: string }[]> =>
  ask(`select distinct word from (
         select title as word from item union all select title from unit union all select name from file union all select title from bank_folder where subject is not null
         union all select left(plain, 60) from question_version union all select left(body, 60) from margin_note union all select title from group_set) w where length(word) > 9`);

/** Of files, those that an item shows: its title is told where one cannot be deleted. */
const SHOWN = 'where id in (select u.file_id from item_file u join item i on i.id = u.item_id and i.removed_at is null)';

/** Every row there was, as one sum a table: what is another's is not written either. */
async function sumUp(): Promise<Record<string, string>> {
  const sums: Record<string, string> = {};
  for (const [table, some] of ids)
    if (some.length > 0)
      sums[table] =
        (
          await ask<{ sum: string }>(`select md5(string_agg(t::text, '|' order by t.id)) as sum from ${table} t where id = any($1)`, [some])
        )[0]?.sum ?? '';
  return sums;
}

const endpoints = routes.filter(({ endpoint }) => endpoint.path.startsWith('/courses/:courseId/') && !endpoint.path.includes('/events'));
const TRIES = 4;

describe.each(['teacher', 'student'])('the %s of a course apart', (who) => {
  it('reads and changes nothing of another, whatever is named in the address and the body', async () => {
    const agent = await signIn(who);
    const words = (await listWords()).map((row) => row.word);
    const before = await sumUp();
    const told: string[] = [];
    let taken = 0;
    for (const { endpoint, schema } of endpoints)
      for (let n = 0; n < TRIES; n += 1) {
        const path = addressOf(endpoint.path, n % 2 === 1);
        const body = schema === null ? {} : makeBody(schema, foreignId, n < 2);
        const answer = await agent[endpoint.method as 'get'](path).send(endpoint.method === 'get' ? undefined : body);
        if (answer.status < 400) taken += 1;
        const text = `${answer.text ?? ''}`;
        const found = words.filter((word) => text.includes(JSON.stringify(word).slice(1, -1)));
        const sent = JSON.stringify(body);
        if (found.some((word) => !sent.includes(word)))
          told.push(`${endpoint.method} ${endpoint.path} ${answer.status}: “${found[0]}” ${sent.slice(0, 120)} → ${text.slice(0, 200)}`);
      }
    expect(told).toEqual([]);
    expect(await sumUp()).toEqual(before);
    expect(taken).toBeGreaterThan(who === 'teacher' ? 100 : 20);
  }, 240_000);
});

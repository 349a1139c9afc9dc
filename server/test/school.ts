import { FILE_TYPES, paragraphs } from '@rosemary/api';
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Express } from 'express';
import pg from 'pg';
import { pino } from 'pino';
import supertest from 'supertest';
import { namesRows, workId } from '../src/anonymity/anonymity.ts';
import { rehearse } from '../src/gradebook/rehearse.ts';
import { mindRunning } from '../src/quizTaking/index.ts';
import {
  addCourse,
  addItem,
  addMember,
  addPerson,
  addTerm,
  addUnit,
  calculate,
  changeItem,
  type Db,
  getPlanItem,
  getWorkColumn,
  giveSections,
  hashPassword,
  makePool,
  migrate,
  type Pool,
  readFacts,
  rows,
  run,
  saveAssignment,
  withDb,
} from '../src/index.ts';
import { findSignedIn, findStudentMembership } from '../src/people/actor.ts';
import { listEmbedHosts } from '../src/people/embedHosts.ts';
import { makeApp } from '../src/platform/app.ts';
import { EventHub } from '../src/platform/events.ts';
import type { Job } from '../src/platform/jobs.ts';
import { routes } from '../src/routes.ts';
import { requireAnswer } from './answers.ts';

export const PASSWORD = 'a long enough password';

export const START = Date.parse('2026-10-05T09:00:00Z');

const DAY = 86_400_000;

type Agent = ReturnType<typeof supertest.agent>;

export interface TestSchool {
  readonly app: Express;
  readonly pool: Pool;
  readonly url: string;
  readonly clock: { at: number };
  readonly courseId: string;
  readonly otherCourseId: string;
  readonly itemId: string;
  /** The column of its work. */
  readonly columnId: string;
  readonly draftId: string;
  readonly sections: readonly [string, string];
  readonly unitId: string;
  readonly students: readonly [string, string];
  readonly agents: Readonly<Record<'nobody' | 'instructor' | 'assistant' | 'student' | 'second' | 'outsider' | 'administrator', Agent>>;
  readonly close: () => Promise<void>;
}

const named = (url: string, database: string): string => url.replace(/\/rosemary$/, `/${database}`);

/** An empty school with every migration in it, made once for all tests: each takes a copy. Of two who ask at once, one makes it. */
async function migratedTemplate(root: pg.Client, owner: string, folder: string): Promise<string> {
  const files = readdirSync(folder).sort();
  const hash = createHash('sha256');
  for (const file of files) hash.update(readFileSync(join(folder, file)));
  const template = `migrated_${hash.digest('hex').slice(0, 12)}`;
  await root.query('select pg_advisory_lock(hashtext($1))', [template]);
  const { rowCount } = await root.query(
    "select 1 from pg_database where datname = $1 and shobj_description(oid, 'pg_database') = 'whole'",
    [template],
  );
  if (rowCount === 0) {
    await root.query(`drop database if exists ${template} with (force)`);
    await root.query(`create database ${template} owner rosemary_owner`);
    await root.query(`grant create on database ${template} to rosemary_app`);
    await migrate(named(owner, template), folder);
    // One whose making was broken off is not taken for whole.
    await root.query(`comment on database ${template} is 'whole'`);
  }
  await root.query('select pg_advisory_unlock(hashtext($1))', [template]);
  return template;
}

/** A database of its own, made by the owner and reached by the application's own role. */
export async function makeDatabase(
  name: string,
  template?: string,
): Promise<{ ownerUrl: string; appUrl: string; drop: () => Promise<void> }> {
  const {
    ROSEMARY_SUPER_URL: superUrl = '',
    ROSEMARY_OWNER_URL: owner = '',
    ROSEMARY_DATABASE_URL: appUrl = '',
    ROSEMARY_MIGRATIONS: folder = '',
  } = process.env;
  const database = `test_${name}_${process.pid}`;
  const root = new pg.Client({ connectionString: superUrl });
  await root.connect();
  await root.query(`drop database if exists ${database} with (force)`);
  await root.query(
    `create database ${database} owner rosemary_owner template ${template ?? (await migratedTemplate(root, owner, folder))}`,
  );
  await root.query(`grant create on database ${database} to rosemary_app`);
  await migrate(named(owner, database), folder);
  return {
    ownerUrl: named(owner, database),
    appUrl: named(appUrl, database),
    drop: async () => {
      // PostgreSQL waits some seconds for connections that are just ending. Cut off by force, they would tell their client of an error when
      // nobody listens to it any more.
      await root.query(`drop database if exists ${database}`).catch(() => root.query(`drop database if exists ${database} with (force)`));
      await root.end();
    },
  };
}

/** The three totals of everybody in a course, exactly, as texts that can be held against others. */
async function readTotalTexts(db: Db, courseId: string, now: number): Promise<ReadonlyMap<string, string>> {
  const facts = await readFacts(db, courseId);
  const calculation = calculate(facts, now, false);
  return new Map(
    facts.people.map((person) => {
      const { soFar, floor, reach } = calculation.totalsOf(calculation.cellsOf(person));
      return [person.enrolmentId, [soFar, floor, reach].map((t) => t.ratio?.toFraction() ?? '–').join(' ')];
    }),
  );
}

/** Does what is due of a job, as the minute does. Gives how many pieces were done. */
export async function doJob(school: Pick<TestSchool, 'pool' | 'clock'>, job: Job, at = school.clock.at): Promise<number> {
  const { done, failed } = await job.run(school.pool, pino({ level: process.env.ROSEMARY_TEST_LOG ?? 'silent' }), at);
  if (failed > 0) throw new Error(`${failed} pieces of ${job.name} failed.`);
  return done;
}

export function makeTestApp(pool: Pool, clock: { at: number }, signInsPerMinute = 1000, events?: EventHub): Express {
  return makeApp({
    config: { port: 0, databaseUrl: '', sessionSecret: 'test', clock: null, idleMinutes: 30, signInsPerMinute, webFolder: null },
    pool,
    clock: { now: () => clock.at },
    events: events ?? new EventHub('', pino({ level: 'silent' })),
    log: pino({ level: process.env.ROSEMARY_TEST_LOG ?? 'silent' }),
    routes,
    rehearse,
    mindRunning,
    totalsOf: readTotalTexts,
    requireAnswer,
    lookup: { findSignedIn, findStudentMembership, listEmbedHosts, namesRows, workId },
  });
}

export async function signIn(app: Express, email: string): Promise<Agent> {
  const agent = supertest.agent(app);
  await agent.post('/api/sign-in').send({ email, password: PASSWORD }).expect(200);
  return agent;
}

/** A small school: one course with two sections, one student in each, an assistant for the first; a second course beside it. */
/** The assignment most tests are about: 60 points, text or one PDF, due in two days, closed in five. */
async function addReport(db: Db, courseId: string, unitId: string, category: string | null): Promise<string> {
  const itemId = await addItem(db, courseId, { unitId, kind: 'assignment', title: 'Report', position: 0 });
  const [teacher] = await rows<{ person_id: string }>(db, "select person_id from enrolment where course_id = $1 and role = 'instructor'", [
    courseId,
  ]);
  await saveAssignment(
    db,
    courseId,
    itemId,
    {
      version: 1,
      instructions: paragraphs('Write.'),
      acceptsText: true,
      acceptsFiles: true,
      fileTypes: Object.keys(FILE_TYPES).slice(0, 1),
      mostBytes: 4096,
    },
    teacher?.person_id ?? '',
    START,
  );
  const { version } = await getPlanItem(db, courseId, itemId, START);
  await changeItem(
    db,
    courseId,
    itemId,
    {
      version,
      isDraft: false,
      categoryId: category,
      possible: 60_000,
      releaseMode: 'hand',
      dueAt: new Date(START + 2 * DAY).toISOString(),
      closesAt: new Date(START + 5 * DAY).toISOString(),
    },
    START,
  );
  return itemId;
}

export async function makeSchool(name: string): Promise<TestSchool> {
  const database = await makeDatabase(name);
  const pool = makePool(database.appUrl, 8);
  const clock = { at: START };
  const hash = await hashPassword(PASSWORD);
  const made = await withDb(pool, true, async (db) => {
    await run(db, "insert into school (title, is_demo) values ('Test school', false)");
    const person = (given: string, isAdministrator = false): Promise<string> =>
      addPerson(
        db,
        { email: `${given.toLowerCase()}@example.org`, givenName: given, familyName: 'Tester', password: PASSWORD },
        isAdministrator,
        hash,
      );
    const [instructor, assistant, first, second, outsider] = [
      await person('Instructor'),
      await person('Assistant'),
      await person('First'),
      await person('Second'),
      await person('Outsider'),
    ];
    await person('Administrator', true);
    const termId = await addTerm(db, { title: 'Autumn', startsOn: '2026-09-21', endsOn: '2027-01-01', meetingDays: [2, 4], holidays: [] });
    const courseId = await addCourse(
      db,
      {
        code: 'HOR-1',
        run: 'a',
        title: 'Watches',
        termId,
        timeZone: 'Europe/Lisbon',
        instructorId: instructor,
        sections: ['Morning', 'Evening'],
      },
      true,
    );
    const otherCourseId = await addCourse(
      db,
      { code: 'HOR-2', run: 'a', title: 'Clocks', termId, timeZone: 'Europe/Lisbon', instructorId: outsider, sections: ['Only'] },
      true,
    );
    const sections = (await rows<{ id: string }>(db, 'select id from section where course_id = $1 order by position', [courseId])).map(
      (s) => s.id,
    ) as [string, string];
    const given = await addMember(db, courseId, assistant, 'assistant', null);
    await giveSections(db, given ?? '', [sections[0]]);
    const students = [
      await addMember(db, courseId, first, 'student', sections[0]),
      await addMember(db, courseId, second, 'student', sections[1]),
    ] as [string, string];
    const unitId = await addUnit(db, courseId, 'Bench');
    const category =
      (await rows<{ id: string }>(db, "select id from category where course_id = $1 and title = 'Assignments'", [courseId]))[0]?.id ?? null;
    const itemId = await addReport(db, courseId, unitId, category);
    const draftId = await addItem(db, courseId, { unitId, kind: 'page', title: 'Secret page', position: 1 });
    return { courseId, otherCourseId, itemId, columnId: await getWorkColumn(db, itemId), draftId, sections, students, unitId };
  });
  const app = makeTestApp(pool, clock);
  const agents = {
    nobody: supertest.agent(app),
    instructor: await signIn(app, 'instructor@example.org'),
    assistant: await signIn(app, 'assistant@example.org'),
    student: await signIn(app, 'first@example.org'),
    second: await signIn(app, 'second@example.org'),
    outsider: await signIn(app, 'outsider@example.org'),
    administrator: await signIn(app, 'administrator@example.org'),
  };
  return {
    ...made,
    app,
    pool,
    clock,
    agents,
    url: database.appUrl,
    close: async () => {
      await pool.end();
      await database.drop();
    },
  };
}

/** The gradebook's column of an item's work. */
export async function columnOf(pool: Pool, itemId: string): Promise<string> {
  return withDb(pool, false, (db) => getWorkColumn(db, itemId));
}

/** The same school on its first day with an assignment nobody has touched, in place of the one before: cheaper than a new school. */
export async function renewItem(school: TestSchool): Promise<TestSchool> {
  school.clock.at = START;
  const itemId = await withDb(school.pool, true, async (db) => {
    const category = await rows<{ category_id: string | null }>(db, 'select category_id from graded_item where id = $1', [school.itemId]);
    await run(db, 'update item set removed_at = to_timestamp($2 / 1000.0) where id = $1', [school.itemId, START]);
    return addReport(db, school.courseId, school.unitId, category[0]?.category_id ?? null);
  });
  return { ...school, itemId, columnId: await columnOf(school.pool, itemId) };
}

/** Writes and hands in as a student; gives the receipt's response. */
export async function handInText(
  school: TestSchool,
  who: 'student' | 'second',
  text: string,
  itemId = school.itemId,
): Promise<supertest.Response> {
  const base = `/api/courses/${school.courseId}/own/items/${itemId}`;
  const item = await school.agents[who].get(base).expect(200);
  const saved = await school.agents[who]
    .put(`${base}/draft`)
    .send({ document: paragraphs(text), version: item.body.draft.version })
    .expect(200);
  return school.agents[who].post(`${base}/hand-in`).send({ note: '', key: `key-${text}`.slice(0, 60), version: saved.body.version });
}

/** Marks a work with a plain score and finishes it. */
export async function finishScore(school: TestSchool, enrolmentId: string, score: number): Promise<supertest.Response> {
  const base = `/api/courses/${school.courseId}/marking/${school.itemId}/${enrolmentId}`;
  const work = await school.agents.instructor.get(base).expect(200);
  const saved = await school.agents.instructor
    .put(`${base}/mark`)
    .send({ version: work.body.mark.version, choices: {}, score, scoreReason: '', feedback: paragraphs('Feedback words') })
    .expect(200);
  return school.agents.instructor.post(`${base}/finish`).send({ version: saved.body.version, isAboveConfirmed: false });
}

import { type CourseEvent, paragraphs } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { heardBy } from '../src/course/events.ts';
import { EventHub } from '../src/platform/events.ts';
import { finishScore, handInText, makeSchool, makeTestApp, PASSWORD, type TestSchool } from './school.ts';

interface Heard {
  readonly list: CourseEvent[];
  readonly until: (isIt: (event: CourseEvent) => boolean) => Promise<CourseEvent>;
  readonly leave: () => void;
}
interface Station {
  readonly hub: EventHub;
  readonly server: Server;
  readonly url: string;
}

let school: TestSchool;
let stations: Station[];
const silent = pino({ level: 'silent' });

/** A server process of its own, as far as events go: own listening connection, same database. */
async function openStation(): Promise<Station> {
  const hub = new EventHub(school.url, silent);
  await hub.start();
  const server = createServer(makeTestApp(school.pool, school.clock, 1000, hub));
  await new Promise<void>((done) => {
    server.listen(0, '127.0.0.1', done);
  });
  return { hub, server, url: `http://127.0.0.1:${(server.address() as AddressInfo).port}` };
}

async function cookieOf(station: Station, email: string): Promise<string> {
  const answer = await fetch(`${station.url}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email, password: PASSWORD }),
  });
  return (answer.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
}

/** Listens to a course as one person does, and can wait for an event without a clock. */
async function listen(station: Station, email: string): Promise<Heard> {
  const leaving = new AbortController();
  const answer = await fetch(`${station.url}/api/courses/${school.courseId}/events`, {
    headers: { cookie: await cookieOf(station, email), accept: 'text/event-stream' },
    signal: leaving.signal,
  });
  expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'text/event-stream; charset=utf-8']);
  const list: CourseEvent[] = [];
  const waiting: { isIt: (event: CourseEvent) => boolean; done: (event: CourseEvent) => void }[] = [];
  const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
  const read = async (): Promise<void> => {
    let text = '';
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      text += value;
      const parts = text.split('\n\n');
      text = parts.pop() ?? '';
      for (const part of parts.filter((p) => p.startsWith('data: '))) {
        const event = JSON.parse(part.slice(6)) as CourseEvent;
        list.push(event);
        for (const w of waiting) if (w.isIt(event)) w.done(event);
      }
    }
  };
  read().catch(() => undefined);
  return {
    list,
    until: (isIt) =>
      new Promise((done) => {
        const known = list.find(isIt);
        if (known !== undefined) done(known);
        else waiting.push({ isIt, done });
      }),
    leave: () => {
      leaving.abort();
    },
  };
}

beforeAll(async () => {
  school = await makeSchool('events');
  stations = [await openStation(), await openStation()];
}, 60_000);
afterAll(async () => {
  for (const { hub, server } of stations) {
    await hub.stop();
    server.closeAllConnections();
    await new Promise((done) => {
      server.close(done);
    });
  }
  await school.close();
});
const here = (): Station => stations[0]!;
const there = (): Station => stations[1]!;
const marking = (): string => `/api/courses/${school.courseId}/marking/${school.itemId}`;
const rename = (title: string): Promise<unknown> =>
  school.pool
    .query<{ version: number }>('select version from unit where id = $1', [school.unitId])
    .then(({ rows: [unit] }) =>
      school.agents.instructor
        .patch(`/api/courses/${school.courseId}/units/${school.unitId}`)
        .set('x-tab', 'tab-1')
        .send({ title, version: unit!.version })
        .expect(200),
    );

describe('who hears what', () => {
  const event = {
    topic: 'marks',
    courseId: 'c',
    itemId: 'i',
    enrolmentId: 'e',
    rows: ['e'],
    tab: 't',
    by: 'Ines',
    hearers: 'staff',
  } as const;
  const member = { courseId: 'c', enrolmentId: 'own', isActive: true } as const;

  it('tells an instructor everything, and an assistant of some sections not about whom', () => {
    expect(heardBy({ ...member, role: 'instructor', sectionIds: null }, event)?.enrolmentId).toBe('e');
    expect(heardBy({ ...member, role: 'assistant', sectionIds: ['s'] }, event)).toEqual({
      topic: 'marks',
      itemId: 'i',
      enrolmentId: null,
      rows: null,
      tab: 't',
      by: 'Ines',
    });
  });

  it('tells a student nothing of others, nor that somebody marks', () => {
    const student = { ...member, role: 'student', sectionIds: ['s'] } as const;
    for (const topic of ['plan', 'marks', 'grades', 'work', 'people'] as const) expect(heardBy(student, { ...event, topic })).toBeNull();
    expect(heardBy(student, { ...event, topic: 'returned', hearers: ['another'] })).toBeNull();
    expect(heardBy(student, { ...event, topic: 'returned', hearers: ['another', 'own'] })).toEqual({
      topic: 'returned',
      itemId: 'i',
      enrolmentId: null,
      rows: null,
      tab: 't',
      by: '',
    });
  });

  it('does not tell staff twice what students are told', () => {
    expect(heardBy({ ...member, role: 'instructor', sectionIds: null }, { ...event, topic: 'returned', hearers: ['another'] })).toBeNull();
  });
});

describe('a crowd that listens', () => {
  it('is told one after another, a class at once, and whoever left not at all', async () => {
    const hub = here().hub;
    const heard: number[] = [];
    let whenAll = (): void => undefined;
    const all = new Promise<void>((done) => {
      whenAll = done;
    });
    const leaves = Array.from({ length: 100 }, (_, n) =>
      hub.subscribe(
        school.courseId,
        () => {
          heard.push(n);
          // The first of those who wait goes, and takes the next along.
          if (heard.length === 61) leaves[61]?.();
          if (heard.length === 99) whenAll();
        },
        () => undefined,
      ),
    );
    await rename('Bench for a crowd');
    await all;
    expect(heard.slice(0, 60)).toEqual(Array.from({ length: 60 }, (_, n) => n));
    expect(heard).not.toContain(61);
    for (const leave of leaves) leave();
  });
});

describe('changes told as they happen', () => {
  it('reach those who look at the course through another server process, with who did it and in which tab', async () => {
    const [near, far] = [await listen(here(), 'instructor@example.org'), await listen(there(), 'assistant@example.org')];
    await rename('Bench and tools');
    const isPlan = (e: CourseEvent): boolean => e.topic === 'plan';
    expect(await near.until(isPlan)).toEqual({
      topic: 'plan',
      itemId: null,
      enrolmentId: null,
      rows: null,
      tab: 'tab-1',
      by: 'Instructor Tester',
    });
    expect((await far.until(isPlan)).by).toBe('Instructor Tester');
    near.leave();
    far.leave();
  });

  it('are told only when the change was kept', async () => {
    const near = await listen(here(), 'instructor@example.org');
    await school.agents.instructor
      .patch(`/api/courses/${school.courseId}/units/${school.unitId}`)
      .send({ title: 'From an old page', version: 1 })
      .expect(409);
    await rename('Bench');
    await near.until((e) => e.topic === 'plan');
    expect(near.list.filter((e) => e.topic === 'plan')).toHaveLength(1);
    near.leave();
  });

  it('say to a student nothing of a discussion that is hidden from them, nor of letters between others', async () => {
    const { instructor } = school.agents;
    const course = `/api/courses/${school.courseId}`;
    const { body: made } = await instructor
      .post(`${course}/items`)
      .send({ unitId: school.unitId, kind: 'discussion', title: 'Evening only', position: 0 })
      .expect(200);
    const audience = [{ sectionId: school.sections[1], enrolmentId: null }];
    await instructor.patch(`${course}/items/${made.id}`).send({ version: 1, isDraft: false, audience }).expect(200);
    const [morning, evening, staff] = [
      await listen(here(), 'first@example.org'),
      await listen(there(), 'second@example.org'),
      await listen(here(), 'assistant@example.org'),
    ];
    const post = { id: randomUUID(), threadId: null, title: 'Hello', document: paragraphs('Hello') };
    await instructor.post(`${course}/discussions/${made.id}/posts`).send(post).expect(200);
    const { rows: people } = await school.pool.query('select person_id from enrolment where id = $1', [school.students[1]]);
    const letter = { key: randomUUID(), title: 'Your drawing', body: 'Come by.', personIds: [people[0].person_id] };
    await instructor.post(`${course}/messages`).send(letter).expect(200);
    const news = { version: 0, document: paragraphs('News'), publishAt: new Date(school.clock.at).toISOString(), tells: false };
    await instructor
      .post(`${course}/announcements`)
      .send({ ...news, title: 'For one section', sectionIds: [school.sections[1]] })
      .expect(200);
    await instructor
      .post(`${course}/announcements`)
      .send({ ...news, title: 'Later', publishAt: new Date(school.clock.at + 3_600_000).toISOString(), sectionIds: [] })
      .expect(200);
    await instructor
      .post(`${course}/announcements`)
      .send({ ...news, title: 'For all', sectionIds: [] })
      .set('x-tab', 'last')
      .expect(200);
    for (const heard of [morning, evening, staff]) await heard.until((e) => e.tab === 'last');
    expect(morning.list.map((e) => [e.topic, e.tab])).toEqual([['talk', 'last']]);
    // The post, the letter, and what is for their section.
    expect(evening.list.map((e) => e.itemId)).toEqual([made.id, null, null, null]);
    // The post and the three announcements; the letter is not theirs.
    expect(staff.list.filter((e) => e.topic === 'talk').map((e) => e.itemId)).toEqual([made.id, null, null, null]);
    for (const heard of [morning, evening, staff]) heard.leave();
  });

  it('say to a student that a mark came back, and nothing before', async () => {
    await handInText(school, 'student', 'Worn jewels');
    await handInText(school, 'second', 'Clean');
    const [own, other, staff] = [
      await listen(there(), 'first@example.org'),
      await listen(there(), 'second@example.org'),
      await listen(here(), 'instructor@example.org'),
    ];
    await school.pool.query("update item set release_mode = 'hand' where id = $1", [school.itemId]);
    await finishScore(school, school.students[0], 45_000);
    await finishScore(school, school.students[1], 30_000);
    await staff.until((e) => e.topic === 'marks' && e.enrolmentId === school.students[1]);
    expect([own.list, other.list]).toEqual([[], []]);
    await school.agents.instructor
      .post(`${marking()}/release`)
      .send({ enrolmentIds: [school.students[0]] })
      .expect(200);
    expect((await own.until((e) => e.topic === 'returned')).itemId).toBe(school.itemId);
    // The second student is told of the next thing of their own; had the first one's release reached them, it would stand before it.
    await school.agents.instructor
      .post(`${marking()}/release`)
      .send({ enrolmentIds: [school.students[1]] })
      .expect(200);
    await other.until((e) => e.topic === 'returned');
    expect(other.list).toHaveLength(1);
    for (const heard of [own, other, staff]) heard.leave();
  });

  it('name the rows of the gradebook that a mark has changed, and no more', async () => {
    const staff = await listen(there(), 'instructor@example.org');
    const [, second] = school.students;
    const write = (raw: number, seenEventId: string | null) =>
      school.agents.instructor
        .put(`/api/courses/${school.courseId}/gradebook/cells`)
        .send({ columnId: school.columnId, enrolmentId: second, state: 'scored', raw, seenEventId, isAboveConfirmed: false, reason: '' });
    const seen = (await write(31_000, null)).body.current.eventId as string;
    const { row } = (await write(31_000, seen).expect(200)).body;
    expect((await staff.until((e) => e.topic === 'grades')).rows).toEqual([second]);
    const read = await school.agents.instructor.get(`/api/courses/${school.courseId}/gradebook/rows/${second}`).expect(200);
    expect(read.body).toEqual(row);
    await school.agents.outsider.get(`/api/courses/${school.courseId}/gradebook/rows/${second}`).expect(404);
    staff.leave();
  });

  it('name none while names are hidden, and none where any may have moved', async () => {
    const staff = await listen(there(), 'instructor@example.org');
    await school.pool.query("update assignment set anonymous = 'release' where item_id = $1", [school.itemId]);
    await handInText(school, 'second', 'Another try').catch(() => undefined);
    await school.agents.instructor.post(`${marking()}/withhold`).send({ enrolmentIds: null }).expect(200);
    expect((await staff.until((e) => e.topic === 'marks')).rows).toBeNull();
    await school.pool.query("update assignment set anonymous = 'none' where item_id = $1", [school.itemId]);
    await rename('Bench once more');
    expect((await staff.until((e) => e.topic === 'plan')).rows).toBeNull();
    staff.leave();
  });

  it('come again after the database was away, and say that something may have been missed', async () => {
    const near = await listen(here(), 'instructor@example.org');
    await school.pool.query(
      "select pg_terminate_backend(pid) from pg_stat_activity where application_name = 'rosemary-events' and datname = current_database()",
    );
    await near.until((e) => e.topic === 'again');
    await rename('Bench, again');
    expect((await near.until((e) => e.topic === 'plan')).topic).toBe('plan');
    near.leave();
  });

  it('do not keep a session from ending by themselves', async () => {
    const expiry = async (): Promise<string> =>
      (await school.pool.query<{ at: string }>('select max(expire)::text as at from session')).rows[0]!.at;
    const cookie = await cookieOf(here(), 'instructor@example.org');
    const before = await expiry();
    const leaving = new AbortController();
    const answer = await fetch(`${here().url}/api/courses/${school.courseId}/events`, {
      headers: { cookie, accept: 'text/event-stream' },
      signal: leaving.signal,
    });
    expect(answer.headers.get('set-cookie')).toBeNull();
    leaving.abort();
    expect(await expiry()).toBe(before);
  });

  it('are refused to strangers and to whoever asks for something else than a stream', async () => {
    const path = `/api/courses/${school.courseId}/events`;
    await school.agents.outsider.get(path).set('accept', 'text/event-stream').expect(404);
    await school.agents.nobody.get(path).set('accept', 'text/event-stream').expect(401);
    expect((await school.agents.instructor.get(path).expect(422)).body.detail).toContain('text/event-stream');
  });
});

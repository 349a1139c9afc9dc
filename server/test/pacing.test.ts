import {
  paragraphs,
  type Archive,
  type CourseSettings,
  type Plan,
  type PublicCourse,
  type Roster,
  type StudentCourse,
} from '@rosemary/api';
import { deflateSync } from 'node:zlib';
import supertest from 'supertest';
import { makeSchool, START, type TestSchool } from './school.ts';

const DAY = 86_400_000;
let school: TestSchool;
let base = '';
beforeAll(async () => {
  school = await makeSchool('pacing');
  base = `/api/courses/${school.courseId}`;
}, 60_000);
afterAll(() => school.close());
const teacher = () => school.agents.instructor;
const iso = (at: number): string => new Date(at).toISOString();
const settings = async (): Promise<CourseSettings> => (await teacher().get(`${base}/settings`).expect(200)).body as CourseSettings;
const set = async (change: object) =>
  teacher()
    .patch(`${base}/settings`)
    .send({ version: (await settings()).version, ...change });
const outline = async (who: 'student' | 'second'): Promise<StudentCourse> =>
  (await school.agents[who].get(`${base}/own/outline`).expect(200)).body as StudentCourse;
const report = async (who: 'student' | 'second') => (await outline(who)).units.flatMap((u) => u.entries).find((e) => e.title === 'Report');
const plan = async (): Promise<Plan> => (await teacher().get(`${base}/plan`).expect(200)).body as Plan;

/** A picture of one dot, written out. */
function dot(): Buffer {
  const part = (name: string, body: Buffer): Buffer => {
    const out = Buffer.alloc(12 + body.length);
    out.writeUInt32BE(body.length, 0);
    out.write(name, 4, 'latin1');
    body.copy(out, 8);
    let crc = 0xffffffff;
    for (const byte of out.subarray(4, 8 + body.length)) {
      crc ^= byte;
      for (let n = 0; n < 8; n += 1) crc = crc & 1 ? (crc >>> 1) ^ 0xedb88320 : crc >>> 1;
    }
    out.writeUInt32BE((crc ^ 0xffffffff) >>> 0, 8 + body.length);
    return out;
  };
  const head = Buffer.from([0, 0, 0, 1, 0, 0, 0, 1, 8, 2, 0, 0, 0]);
  return Buffer.concat([
    Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'),
    part('IHDR', head),
    part('IDAT', deflateSync(Buffer.from([0, 1, 2, 3]))),
    part('IEND', Buffer.alloc(0)),
  ]);
}

describe('a course counted from each student’s start', () => {
  const members = async () => ((await teacher().get(`${base}/roster`).expect(200)).body as Roster).members;
  it('gives each their own dates, by wall clock, and says why', async () => {
    const before = (await report('student'))?.dueAt;
    expect(before).toBe(iso(START + 2 * DAY));
    await (
      await set({ pacing: 'self' })
    ).body;
    const [first, second] = await Promise.all(['First', 'Second'].map(async (name) => (await members()).find((m) => m.givenName === name)));
    // The term begins on 21 September; one starts on its first day, the other five weeks later, after the clocks change.
    for (const [member, startedAt] of [
      [first, '2026-09-21T08:00:00Z'],
      [second, '2026-10-26T22:00:00Z'],
    ] as const)
      await teacher().patch(`${base}/roster/${member?.enrolmentId}`).send({ version: member?.version, startedAt }).expect(200);
    expect((await report('student'))?.dueAt).toBe(before);
    const later = await report('second');
    // 7 October 10:00 in Lisbon (UTC+1) and 35 days: 11 November 10:00 there, which is UTC.
    expect([later?.dueAt, later?.dueReason]).toEqual(['2026-11-11T10:00:00.000Z', 'as for everyone, counted from this student’s start']);
  });

  it('takes work by each one’s dates: closed for one, open for the other', async () => {
    school.clock.at = START + 20 * DAY;
    expect([(await report('student'))?.visibility, (await report('student'))?.isMissing]).toEqual(['closed', true]);
    school.clock.at = Date.parse('2026-11-10T09:00:00Z');
    expect([(await report('second'))?.visibility, (await report('second'))?.isMissing]).toEqual(['open', false]);
    school.clock.at = START;
  });

  it('a date set for one student alone is theirs as it stands', async () => {
    const dueAt = '2026-12-01T12:00:00.000Z';
    const second = (await members()).find((m) => m.givenName === 'Second');
    const variants = [{ sectionId: null, enrolmentId: second?.enrolmentId, opensAt: null, dueAt, closesAt: null }];
    await teacher().put(`${base}/items/${school.itemId}/variants`).send({ variants }).expect(200);
    expect((await report('second'))?.dueAt).toBe(dueAt);
    await teacher().put(`${base}/items/${school.itemId}/variants`).send({ variants: [] }).expect(200);
  });

  it('an item is open to its teacher whatever the day, and the check says nothing of days outside the term', async () => {
    const item = (await plan()).units.flatMap((u) => u.items).find((i) => i.title === 'Report');
    await teacher()
      .patch(`${base}/items/${school.itemId}`)
      .send({ version: item?.version, dueAt: '2027-03-01T10:00:00Z', closesAt: null, whom: 'everyone' })
      .expect(200);
    school.clock.at = Date.parse('2027-04-01T10:00:00Z');
    const later = (await plan()).units.flatMap((u) => u.items).find((i) => i.title === 'Report');
    expect([later?.state, later?.warnings]).toEqual(['open', []]);
    const { findings } = (await teacher().get(`${base}/check`).expect(200)).body as { findings: { text: string }[] };
    expect(findings.filter((f) => f.text.includes('term'))).toEqual([]);
    school.clock.at = START;
  });

  it('a change of how dates are counted is rehearsed first, and a student may set neither', async () => {
    const body = { version: (await settings()).version, pacing: 'term' };
    const ripple = (await teacher().patch(`${base}/settings`).set('x-ripple', 'show').send(body).expect(200)).body;
    expect(ripple).toHaveProperty('rows');
    expect((await settings()).pacing).toBe('self');
    await school.agents.student.patch(`${base}/settings`).send(body).expect(403);
    expect((await set({ pacing: 'moon' })).status).toBe(422);
    expect((await set({ pacing: 'term' })).status).toBe(200);
  });
});

describe('pages that stand outside the units', () => {
  const add = (unitId: string, kind: string, title: string) =>
    teacher()
      .post(`${base}/items`)
      .send({ unitId, kind, title, position: title === 'House rules' ? 1 : 0 });
  const open = async (title: string): Promise<string> => {
    const item = (await plan()).units.flatMap((u) => u.items).find((i) => i.title === title);
    await teacher().patch(`${base}/items/${item?.id}`).send({ version: item?.version, isDraft: false }).expect(200);
    return item?.id ?? '';
  };
  let standing = '';

  it('come before all units; the first opens the course, the others are listed, and none of them counts', async () => {
    const progress = (await outline('student')).progress;
    standing = (await teacher().post(`${base}/units`).send({ title: 'Standing pages', isStanding: true }).expect(200)).body.id as string;
    const made = await add(standing, 'page', 'Welcome to the bench').expect(200);
    await add(standing, 'page', 'House rules').expect(200);
    await teacher()
      .put(`${base}/items/${made.body.id}/page`)
      .send({ version: 1, document: paragraphs('Come in') })
      .expect(200);
    const first = await open('Welcome to the bench');
    expect((await outline('student')).standing).toEqual([]);
    await open('House rules');
    expect((await plan()).units[0]).toMatchObject({ id: standing, isStanding: true });
    const seen = await outline('student');
    expect(seen.first).toEqual({ id: first, title: 'Welcome to the bench', document: paragraphs('Come in') });
    expect(seen.standing.map((e) => e.title)).toEqual(['House rules']);
    expect(seen.units.map((u) => u.title)).toEqual(['Bench']);
    expect(seen.progress).toBe(progress);
    const { units } = (await teacher().get(`${base}/programme`).expect(200)).body as { units: { title: string }[] };
    expect(units.map((u) => u.title)).not.toContain('Standing pages');
  });

  it('are one unit at most, of things to read', async () => {
    expect((await teacher().post(`${base}/units`).send({ title: 'More', isStanding: true }).expect(409)).body.detail).toContain('already');
    expect((await add(standing, 'assignment', 'Work').expect(422)).body.detail).toContain('pages, files and links');
    const { units } = await plan();
    const order = units.map((u) => ({ id: u.id, itemIds: u.items.map((i) => i.id) }));
    const moved = order.map((u) => ({
      ...u,
      itemIds: u.id === standing ? [...u.itemIds, school.itemId] : u.itemIds.filter((id) => id !== school.itemId),
    }));
    await teacher().put(`${base}/order`).send({ units: moved }).expect(422);
  });

  it('go out with an archive and come in as standing pages again, joining those that are there', async () => {
    const archiveOf = async (id: string): Promise<Buffer> =>
      (
        await teacher()
          .get(`/api/courses/${id}/archive`)
          .buffer(true)
          .parse((response, done) => {
            const parts: Buffer[] = [];
            response.on('data', (p: Buffer) => parts.push(p));
            response.on('end', () => {
              done(null, Buffer.concat(parts));
            });
          })
          .expect(200)
      ).body as Buffer;
    const { terms } = (await teacher().get('/api/course-start').expect(200)).body;
    const body = {
      code: 'HOR-1',
      run: 'z',
      title: 'Z',
      termId: terms[0].id,
      timeZone: 'Europe/Lisbon',
      sections: ['Morning', 'Evening'],
      outline: 'empty',
    };
    const { id } = (await teacher().post('/api/courses').send(body).expect(200)).body as { id: string };
    const bytes = await archiveOf(school.courseId);
    for (let n = 0; n < 2; n += 1) await teacher().post(`/api/courses/${id}/archive`).attach('file', bytes, 'a.zip').expect(200);
    const { units } = (await teacher().get(`/api/courses/${id}/plan`).expect(200)).body as Plan;
    expect(units.filter((u) => u.isStanding).map((u) => u.items.length)).toEqual([4]);
    expect((JSON.parse(JSON.stringify(units)) as Archive['units']).length).toBe(3);
  });

  it('one item in two units can be moved about in either', async () => {
    await teacher().post(`${base}/units`).send({ title: 'Second unit' }).expect(200);
    const { units } = await plan();
    const order = units.map((u) => ({ id: u.id, itemIds: u.items.map((i) => i.id) }));
    const both = order.map((u) => (u.itemIds.length === 0 ? { ...u, itemIds: [school.itemId] } : u));
    const after = (await teacher().put(`${base}/order`).send({ units: both }).expect(200)).body as Plan;
    expect(after.units.filter((u) => u.items.some((i) => i.id === school.itemId))).toHaveLength(2);
    await teacher().put(`${base}/order`).send({ units: order }).expect(200);
    const twice = order.map((u) => ({ ...u, itemIds: [...u.itemIds, ...u.itemIds] }));
    await teacher().put(`${base}/order`).send({ units: twice }).expect(409);
  });
});

describe('the picture of a course, and its language', () => {
  it('is a picture of the course’s store, seen by everyone in it, and by anyone where the course shows itself', async () => {
    const file = (await teacher().post(`${base}/files`).attach('file', dot(), 'bench.png').expect(200)).body as { id: string };
    const text = (await teacher().post(`${base}/files`).attach('file', Buffer.from('words'), 'words.txt').expect(200)).body as {
      id: string;
    };
    await school.agents.student.get(`${base}/files/${file.id}`).expect(404);
    expect((await set({ pictureFileId: text.id })).body.detail).toContain('PNG, JPEG or WebP');
    expect((await set({ pictureFileId: '00000000-0000-4000-8000-000000000000' })).status).toBe(422);
    const answer = await set({ pictureFileId: file.id, pictureAlt: 'A bench' });
    expect((answer.body as CourseSettings).picture).toEqual({ fileId: file.id, src: `${base}/files/${file.id}`, alt: 'A bench' });
    expect((await school.agents.student.get(`${base}/files/${file.id}`).expect(200)).headers['content-type']).toBe('image/png');
    expect((await outline('student')).picture?.alt).toBe('A bench');
    const store = (await teacher().get(`${base}/file-store`).expect(200)).body as { files: { id: string; isPicture: boolean }[] };
    expect(store.files.map((f) => f.isPicture)).toEqual([true, false]);

    const anyone = () => supertest(school.app);
    await anyone().get(`/api/public-courses/${school.courseId}/picture`).expect(404);
    await set({ isPublic: true });
    expect(((await anyone().get(`/api/public-courses/${school.courseId}`).expect(200)).body as PublicCourse).picture?.alt).toBe('A bench');
    expect((await anyone().get(`/api/public-courses/${school.courseId}/picture`).expect(200)).headers['content-type']).toBe('image/png');
    await set({ pictureFileId: null });
    await anyone().get(`/api/public-courses/${school.courseId}/picture`).expect(404);
  });

  it('a language is one that there is, written as the standard has it', async () => {
    expect(((await set({ language: 'pt-pt' })).body as CourseSettings).language).toBe('pt-PT');
    for (const wrong of ['watchmaking', 'zz', 'x'] as const)
      expect((await set({ language: wrong })).body.detail).toContain(`“${wrong}” is no language`);
    expect((await school.agents.student.get(base).expect(200)).body.language).toBe('pt-PT');
  });
});

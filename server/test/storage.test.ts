import { paragraphs, type Storage } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { tidyFiles } from '../src/files/index.ts';
import { clearFolders, makeFolder } from '../src/platform/folder.ts';
import { openQuiz } from './quizHelp.ts';
import { doJob, makeSchool, START, type TestSchool } from './school.ts';

/** What is kept in files is bounded, and what nobody uses is cleared away. */
const DAY = 86_400_000;
const MB = 1_048_576;
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('storage');
  await school.pool.query('update assignment set most_bytes = 20000000, most_files = 5 where item_id = $1', [school.itemId]);
}, 60_000);
beforeEach(async () => {
  school.clock.at = START;
  await school.pool.query('update school set most_course_mb = 20480, most_person_mb = 2048');
});
afterAll(() => school.close());

const course = (): string => `/api/courses/${school.courseId}`;
const own = (): string => `${course()}/own/items/${school.itemId}`;
const pdf = (size: number, words: string): Buffer => Buffer.concat([Buffer.from(`%PDF-1.4\n${words}`), Buffer.alloc(size, 'x')]);
const send = (size: number, words: string, who: 'student' | 'second' = 'student') =>
  school.agents[who].post(`${own()}/files`).attach('file', pdf(size, words), `${words}.pdf`);
const count = async (table: string): Promise<number> =>
  Number((await school.pool.query<{ many: string }>(`select count(*) as many from ${table}`)).rows[0]?.many);
const storage = async (): Promise<Storage> => (await school.agents.administrator.get('/api/school/storage').expect(200)).body as Storage;

describe('what nobody uses', () => {
  it('is cleared away after a day: files removed again with their bytes, and uploads that never came whole', async () => {
    const before = [await count('file'), await count('file_blob')];
    for (const words of ['one', 'two', 'three']) {
      const { body } = await send(300_000, words).expect(200);
      await school.agents.student.delete(`${own()}/files/${body.id}`).expect(200);
    }
    const upload = randomUUID();
    await school.agents.student.post(`${own()}/uploads`).send({ id: upload, name: 'half.pdf', size: 9000 }).expect(200);
    await school.agents.student
      .put(`${own()}/uploads/${upload}/part?from=0`)
      .set('content-type', 'application/octet-stream')
      .send(pdf(100, 'half'))
      .expect(200);
    expect([await count('file'), await count('file_blob'), await count('upload')]).toEqual([before[0]! + 3, before[1]! + 3, 1]);
    expect(await doJob(school, tidyFiles, START)).toBe(4);
    expect([await count('file'), await count('upload')]).toEqual([before[0]! + 3, 1]);
    // Once a day, and not each minute.
    expect(await doJob(school, tidyFiles, START + 60_000)).toBe(0);
    expect(await doJob(school, tidyFiles, START + DAY + 60_000)).toBe(4);
    expect([await count('file'), await count('file_blob'), await count('upload'), await count('upload_part')]).toEqual([...before, 0, 0]);
    expect(await count('file_chunk')).toBe(0);
    expect((await storage()).cleared.map((c) => [c.id, c.many])).toEqual([
      ['uploads', 1],
      ['answers', expect.any(Number)],
      ['files', 3],
      ['bytes', 3],
    ]);
  });

  it('is nothing that stands somewhere: in a draft, an answer, a text, a store, or with the same bytes elsewhere', async () => {
    const { id: draft, url } = (await send(1000, 'in a draft').expect(200)).body as { id: string; url: string };
    const quiz = await openQuiz(school, [{ words: paragraphs('Draw it.'), key: { kind: 'file' } }]);
    const attemptId = await quiz.begin('student');
    const questionId = (await quiz.taking('student', attemptId)).sections[0]?.questions[0]?.id;
    const given = await school.agents.student
      .post(`${quiz.own}/attempts/${attemptId}/files`)
      .attach('file', pdf(1000, 'an answer'), 'answer.pdf')
      .expect(200);
    const answer = { kind: 'work', document: null, fileId: given.body.id as string };
    const saved = await school.agents.student
      .put(`${quiz.own}/attempts/${attemptId}/answers/${questionId}`)
      .send({ answer, isFlagged: false, device: 'one window', turn: 1, seen: 0, seconds: 1 });
    expect([saved.status, saved.body.detail]).toEqual([200, undefined]);
    const kept = (await school.agents.instructor.post(`${course()}/files`).attach('file', pdf(1000, 'store'), 'store.pdf').expect(200)).body
      .id as string;
    const named = (await send(1000, 'named in a text', 'second').expect(200)).body.id as string;
    await school.pool.query('delete from submission_draft_file where file_id = $1', [named]);
    await school.pool.query(
      "update assignment set instructions = jsonb_build_object('type', 'doc', 'src', '/files/' || $2::text) where item_id = $1",
      [school.itemId, named],
    );
    const same = (await send(1000, 'in a draft', 'second').expect(200)).body.id as string;
    await school.agents.second.delete(`${own()}/files/${same}`).expect(200);
    await doJob(school, tidyFiles, START + 4 * DAY);
    const { rows } = await school.pool.query<{ id: string }>('select id from file where id = any($1)', [
      [draft, answer.fileId, kept, named, same],
    ]);
    expect(rows.map((row) => row.id).sort()).toEqual([draft, answer.fileId, kept, named].sort());
    await school.agents.student.get(url).expect(200);
  });

  it('is a temporary folder of a server that runs no more', async () => {
    const left = join(tmpdir(), 'rosemary-in-4194304-abcdef');
    await mkdir(left, { recursive: true });
    const mine = await makeFolder();
    expect(await clearFolders()).toBeGreaterThan(0);
    expect([existsSync(left), existsSync(mine)]).toEqual([false, true]);
    await rm(mine, { recursive: true });
  });
});

describe('room', () => {
  it('is bounded for each person in a course, and for the course', async () => {
    await school.pool.query('update school set most_person_mb = 10');
    await send(6 * MB, 'large').expect(200);
    const refused = await send(5 * MB, 'too large').expect(413);
    expect(refused.body.detail).toMatch(
      /^There is no room for “too large.pdf” \(5 MB\)\. You have 6 MB of the 10 MB there may be\. Delete files/,
    );
    await school.agents.student
      .post(`${own()}/uploads`)
      .send({ id: randomUUID(), name: 'x.pdf', size: 5 * MB })
      .expect(413);
    // Another has room of their own, and what stands in the store of a course is nobody's in particular.
    await send(6 * MB, 'theirs', 'second').expect(200);
    await school.agents.instructor
      .post(`${course()}/files`)
      .attach('file', pdf(12 * MB, 'store'), 'film.pdf')
      .expect(200);
    await school.pool.query('update school set most_course_mb = 100');
    await school.pool.query('update file_blob set size = 99 * 1048576 where sha256 = (select sha256 from file where name = $1)', [
      'film.pdf',
    ]);
    const full = await school.agents.instructor
      .post(`${course()}/files`)
      .attach('file', pdf(2 * MB, 'more'), 'more.pdf')
      .expect(413);
    expect(full.body.detail).toContain('This course holds');
  });

  it('is set by the administrator, who sees what is kept, by course and by person', async () => {
    await school.agents.instructor.get('/api/school/storage').expect(403);
    await school.agents.instructor.put('/api/school/storage').send({ courseMegabytes: 100, personMegabytes: 10 }).expect(403);
    const seen = await storage();
    expect(seen.courses[0]).toMatchObject({ title: 'HOR-1 a Watches' });
    expect(seen.people.map((p) => p.name)).toEqual(expect.arrayContaining(['First Tester', 'Second Tester']));
    expect(seen.bytes).toBeGreaterThan(MB);
    const changed = await school.agents.administrator
      .put('/api/school/storage')
      .send({ courseMegabytes: 500, personMegabytes: 50 })
      .expect(200);
    expect(changed.body.limits).toEqual({ courseMegabytes: 500, personMegabytes: 50 });
    const low = await school.agents.administrator.put('/api/school/storage').send({ courseMegabytes: 5, personMegabytes: 50 }).expect(422);
    expect(low.body.pointers[0].field).toBe('courseMegabytes');
  });
});

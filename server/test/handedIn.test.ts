import { type BankView, checkDocument, checkWork, paragraphs } from '@rosemary/api';
import { routes } from '../src/routes.ts';
import { lever, openQuiz, type TestQuiz } from './quizHelp.ts';
import { handInText, makeSchool, type TestSchool } from './school.ts';

/** What students hand in is opened by those who mark it: nothing in it may stop them, and nothing may tell them a name that is hidden. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('handed_in');
}, 60_000);
afterAll(() => school.close());

const NOWHERE = '00000000-0000-4000-8000-000000000000';
const documentOf = (...content: unknown[]): unknown => ({ type: 'doc', content });
const cell = (attrs: object): unknown =>
  documentOf({ type: 'table', content: [{ type: 'tableRow', content: [{ type: 'tableCell', attrs, content: [{ type: 'paragraph' }] }] }] });
const nested = (depth: number): unknown => {
  let inner: unknown = { type: 'paragraph', content: [{ type: 'text', text: 'x' }] };
  for (let n = 0; n < depth; n += 1) inner = { type: 'blockquote', content: [inner] };
  return documentOf(inner);
};
const media = (src: string) =>
  documentOf({ type: 'media', attrs: { src, fileId: null, captionsId: null, captionsSrc: null, title: 'A clip' } });

describe('a text', () => {
  it.each([
    ['is nested 1,500 deep', nested(1500), 'nested more than 40 deep'],
    ['has a cell over a thousand million others', cell({ colspan: 1e9, rowspan: 1 }), 'A cell of a table goes over more than 60 others'],
    ['has a cell over minus one row', cell({ colspan: 1, rowspan: -1 }), 'A cell of a table'],
    [
      'has thirty thousand parts',
      documentOf(...Array.from({ length: 30_000 }, () => ({ type: 'paragraph' }))),
      'has more than 20,000 parts',
    ],
  ])('that %s is refused in words, by whomever it is written', (_, document, words) => {
    const check = checkDocument(document);
    expect(check.ok ? 'taken' : check.reason).toContain(words);
  });

  it('of usual nesting is taken', () => {
    expect([checkDocument(nested(12)).ok, checkDocument(cell({ colspan: 4, rowspan: 2 })).ok]).toEqual([true, true]);
  });

  it('of a student shows nothing of another site to those who mark it', async () => {
    const clip = media('https://elsewhere.example/clip.mp4');
    expect(checkDocument(clip).ok).toBe(true);
    const check = checkWork(clip);
    expect(check.ok ? 'taken' : check.reason).toContain('A video or sound of another site cannot stand in what you hand in.');
    const attrs = { href: `/courses/${school.courseId}/items/${school.itemId}`, title: 'Report' };
    const nested = checkWork({ type: 'doc', content: [{ type: 'response', attrs }] });
    expect(nested.ok ? 'taken' : nested.reason).toContain('A place to hand in stands in pages of a course alone.');
    const own = `/api/courses/${school.courseId}/own/items/${school.itemId}`;
    const item = await school.agents.student.get(own).expect(200);
    const answer = await school.agents.student.put(`${own}/draft`).send({ document: clip, version: item.body.draft.version });
    expect([answer.status, answer.body.pointers[0].field]).toEqual([422, 'document']);
  });
});

describe('an answer', () => {
  let quiz: TestQuiz;
  let save: (n: number, answer: unknown) => Promise<number>;
  beforeAll(async () => {
    quiz = await openQuiz(school, [lever(), { ...lever('Describe the barrel.'), key: { kind: 'essay' } }]);
    const attemptId = await quiz.begin('student');
    const ids = (await quiz.taking('student', attemptId)).sections.flatMap((s) => s.questions).map((q) => q.id);
    let turn = 0;
    save = async (n, answer) => {
      turn += 1;
      const body = { answer, isFlagged: false, device: 'one window', turn, seen: 0, seconds: 1 };
      return (await school.agents.student.put(`${quiz.own}/attempts/${attemptId}/answers/${ids[n]}`).send(body)).status;
    };
  });

  it('is of the kind its question takes, or none', async () => {
    expect(await save(0, { kind: 'work', document: paragraphs('An essay where a choice belongs.') })).toBe(422);
    expect(await save(0, { kind: 'text', text: 'lever' })).toBe(422);
    expect(await save(0, { kind: 'dontKnow' })).toBe(200);
    expect(await save(0, { kind: 'choice', id: 'a' })).toBe(200);
    expect(await save(1, { kind: 'choice', id: 'a' })).toBe(422);
    expect(await save(1, { kind: 'work', document: paragraphs('It turns.') })).toBe(200);
  });

  it('names a file by its plain identifier, and only one that its student sent', async () => {
    for (const fileId of [`[${NOWHERE}]`, `{${NOWHERE}}`, NOWHERE.replaceAll('-', ''), NOWHERE])
      expect(await save(1, { kind: 'work', document: null, fileId })).toBe(422);
    const other = await school.agents.second
      .post(`/api/courses/${school.courseId}/own/items/${school.itemId}/files`)
      .attach('file', Buffer.from('%PDF-1.4 of another student'), 'other.pdf')
      .expect(200);
    expect(await save(1, { kind: 'work', document: null, fileId: other.body.id })).toBe(422);
  });

  it('is held against what may be handed in', async () => {
    expect(await save(1, { kind: 'work', document: media('https://elsewhere.example/clip.mp4') })).toBe(422);
    expect(await save(1, { kind: 'work', document: nested(400) })).toBe(422);
  });
});

describe('looking as a student', () => {
  it('opens nothing of an item whose names are hidden, through any address', async () => {
    await handInText(school, 'student', 'Words that are marked without a name.');
    const [enrolmentId] = school.students;
    const looks = routes
      .map((route) => route.endpoint)
      .filter((at) => at.method === 'get' && at.needs === 'work.own' && at.path.includes(':itemId'))
      .map((at) => `/api${at.path}`.replace(':courseId', school.courseId).replace(':itemId', school.itemId).replace(/:\w+/g, NOWHERE));
    expect(looks.length).toBeGreaterThan(5);
    const seen = (path: string) => school.agents.instructor.get(path).set('x-see-as', enrolmentId);
    const own = `/api/courses/${school.courseId}/own/items/${school.itemId}`;
    await seen(own).expect(200);
    await school.pool.query("update assignment set anonymous = 'release' where item_id = $1", [school.itemId]);
    for (const path of looks) {
      const answer = await seen(path);
      expect([path, answer.status]).toEqual([path, 404]);
      expect(JSON.stringify(answer.body)).not.toContain('Words that are marked');
    }
    await school.agents.student.get(own).expect(200);
    await school.pool.query("update assignment set anonymous = 'none' where item_id = $1", [school.itemId]);
    await seen(own).expect(200);
  });
});

describe('the bank of a subject', () => {
  it('is not opened by making a course of its code', async () => {
    const start = (await school.agents.instructor.get('/api/course-start').expect(200)).body;
    expect(start.taken.map((t: { code: string }) => t.code)).toEqual(['HOR-1']);
    const course = {
      run: 'x9',
      title: 'A way in',
      termId: start.terms[0].id,
      timeZone: 'Europe/Lisbon',
      sections: ['One'],
      outline: 'empty',
    };
    const begin = (who: 'instructor' | 'outsider' | 'administrator', code: string, run = 'x9') =>
      school.agents[who].post('/api/courses').send({ ...course, code, run });
    const refused = await begin('instructor', 'HOR-2').expect(422);
    expect(refused.body.pointers).toEqual([
      {
        field: 'code',
        text: 'HOR-2 is the code of a subject that others teach. Ask Outsider Tester, who teaches it, or an administrator of the school, to add your course, or choose another code.',
      },
    ]);
    await begin('outsider', 'HOR-2').expect(200);
    await begin('administrator', 'HOR-2', 'x10').expect(200);
    await begin('instructor', 'NEW-7').expect(200);
  });
  it('is of the courses it was given, is listed, and is taken back: the code alone gives nothing', async () => {
    const outsiders = (await school.agents.outsider.get('/api/course-start').expect(200)).body.taken as { code: string; run: string }[];
    expect(outsiders.map((t) => t.code)).toContain('HOR-2');
    const { rows: courses } = await school.pool.query("select id, run from course where code = 'HOR-2' order by created_at");
    const [first, second] = courses as { id: string; run: string }[];
    const bankOf = async (who: 'outsider' | 'administrator' | 'assistant', courseId: string) =>
      (await school.agents[who].get(`/api/courses/${courseId}/bank`).expect(200)).body as BankView & { home: string };
    const bank = await bankOf('outsider', first?.id ?? '');
    const root = bank.folders.find((f) => f.id === bank.home);
    expect(root?.courses.map((c) => [c.title.split(' ').slice(0, 2).join(' '), c.teachers])).toContainEqual([
      'HOR-2 x9',
      ['Outsider Tester'],
    ]);
    // A course that only came to have the code reaches nothing.
    await school.pool.query("update course set code = 'HOR-2', run = 'y1' where code = 'NEW-7'");
    const { rows: renamed } = await school.pool.query("select id from course where run = 'y1'");
    const own = (await school.agents.instructor.get(`/api/courses/${renamed[0].id}/bank`).expect(200)).body as BankView & { home: string };
    expect(own.folders.map((f) => f.id)).not.toContain(bank.home);
    const folder = `/api/courses/${first?.id}/bank/folders/${bank.home}`;
    await school.agents.outsider.patch(folder).send({ courseOut: renamed[0].id }).expect(404);
    // Taken back: the teachers of that course reach the bank no more, its new questions go elsewhere; and given again.
    await school.agents.outsider.patch(folder).send({ courseOut: second?.id }).expect(200);
    const { rows: used } = await school.pool.query('select 1 from bank_course where course_id = $1 and removed_at is null', [second?.id]);
    expect(used).toEqual([]);
    const apart = await bankOf('outsider', second?.id ?? '');
    expect(apart.home).not.toBe(bank.home);
    await school.agents.outsider.patch(folder).send({ courseAgain: second?.id }).expect(200);
    expect((await bankOf('outsider', second?.id ?? '')).home).toBe(bank.home);
    for (const { courseId } of root?.courses ?? [])
      if (courseId !== first?.id) await school.agents.outsider.patch(folder).send({ courseOut: courseId }).expect(200);
    const last = await school.agents.outsider.patch(folder).send({ courseOut: first?.id }).expect(409);
    expect(last.body.detail).toContain('the only course that uses the bank');
  });
});

describe('the instructor of record', () => {
  it('is withdrawn by an administrator alone', async () => {
    const roster = `/api/courses/${school.courseId}/roster`;
    const { rows } = await school.pool.query(
      "update enrolment set role = 'instructor' where course_id = $1 and role = 'assistant' returning id",
      [school.courseId],
    );
    expect(rows).toHaveLength(1);
    const { body } = await school.agents.assistant.get(roster).expect(200);
    const ofRecord = body.members.find((m: { email: string }) => m.email === 'instructor@example.org');
    const answer = await school.agents.assistant
      .patch(`${roster}/${ofRecord.enrolmentId}`)
      .send({ version: ofRecord.version, isWithdrawn: true });
    expect([answer.status, answer.body.detail]).toEqual([
      403,
      'This is the instructor of record, whom only an administrator of the school can withdraw.',
    ]);
    await school.agents.instructor.get(roster).expect(200);
  });
});

describe('the code of a quiz', () => {
  it('is not to be guessed: wrong ones make their student wait, and nobody else', async () => {
    const quiz = await openQuiz(school, [lever()], { accessCode: 'pine' });
    const begin = (who: 'student' | 'second', code: string) =>
      school.agents[who].post(`${quiz.own}/attempts`).send({ key: `a key for ${who}`, code });
    for (let n = 0; n < 4; n += 1) await begin('student', `guess ${n}`).expect(422);
    expect((await begin('student', 'guess 5').expect(422)).body.detail).toContain('Wait 5 seconds');
    await begin('student', 'pine').expect(429);
    await begin('second', 'pine').expect(200);
    const before = school.clock.at;
    school.clock.at += 5_001;
    await begin('student', 'pine').expect(200);
    school.clock.at = before;
  });
});

import {
  type Announcements,
  type AnnouncementView,
  type CalendarView,
  type DiscussionView,
  type NoticesView,
  type OutboxMail,
  paragraphs,
} from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { tellAnnouncements } from '../src/announcements/announcements.ts';
import { doJob, finishScore, handInText, makeSchool, START, type TestSchool } from './school.ts';

let school: TestSchool;

beforeAll(async () => {
  school = await makeSchool('talk');
}, 60_000);

afterAll(() => school.close());

beforeEach(() => {
  school.clock.at = START;
});

type Who = 'instructor' | 'assistant' | 'student' | 'second' | 'outsider';

const HOUR = 3_600_000;

const base = (): string => `/api/courses/${school.courseId}`;

const iso = (at: number): string => new Date(at).toISOString();

const notices = async (who: Who): Promise<NoticesView> => (await school.agents[who].get('/api/notices').expect(200)).body as NoticesView;

const outbox = async (): Promise<OutboxMail[]> =>
  (await school.agents.administrator.get('/api/outbox').expect(200)).body.mails as OutboxMail[];

describe('announcements', () => {
  const wish = (more: object = {}) => ({
    version: 0,
    title: 'Bench keys',
    document: paragraphs('The keys hang at the door.'),
    publishAt: null,
    sectionIds: [],
    tells: true,
    ...more,
  });
  const write = async (more: object = {}, status = 200) =>
    (await school.agents.instructor.post(`${base()}/announcements`).send(wish(more)).expect(status)).body;
  const list = async (who: Who): Promise<readonly AnnouncementView[]> =>
    ((await school.agents[who].get(`${base()}/announcements`).expect(200)).body as Announcements).announcements;

  it('reach everyone at once, in the application and by mail, but not their author', async () => {
    await write();
    expect((await list('student')).map((a) => [a.title, a.isRead, a.readers])).toEqual([['Bench keys', false, null]]);
    expect((await notices('student')).notices).toMatchObject([
      { kind: 'announcement', words: 'Bench keys', course: 'Watches', isSeen: false },
    ]);
    expect((await notices('instructor')).notices).toEqual([]);
    const mails = await outbox();
    expect(mails.map((m) => m.to).sort()).toEqual(['assistant@example.org', 'first@example.org', 'second@example.org']);
    expect(mails[0]).toMatchObject({ subject: 'Watches: Bench keys', body: 'The keys hang at the door.' });
  });

  it('are for a section alone, and say how many of it have read them', async () => {
    const { id } = await write({ title: 'Mornings only', sectionIds: [school.sections[0]], tells: false });
    expect((await list('student')).some((a) => a.id === id)).toBe(true);
    expect((await list('second')).some((a) => a.id === id)).toBe(false);
    await school.agents.second.post(`${base()}/announcements/${id}/read`).expect(404);
    await school.agents.student.post(`${base()}/announcements/${id}/read`).expect(200);
    await school.agents.student.post(`${base()}/announcements/${id}/read`).expect(200);
    expect((await list('instructor')).find((a) => a.id === id)?.readers).toEqual({ read: 1, of: 1 });
    expect((await list('student')).find((a) => a.id === id)?.isRead).toBe(true);
  });

  it('wait for their time: nothing of them goes out before, and they are told once', async () => {
    const before = (await notices('second')).notices.length;
    const { id } = await write({ title: 'Tomorrow', publishAt: iso(START + 24 * HOUR) });
    expect(JSON.stringify([await list('student'), await notices('student'), await outbox()])).not.toContain('Tomorrow');
    expect((await list('assistant')).find((a) => a.id === id)?.isScheduled).toBe(true);
    await school.agents.student.post(`${base()}/announcements/${id}/read`).expect(404);
    const tellAt = (at: number) => doJob(school, tellAnnouncements, at);
    expect([await tellAt(START + 23 * HOUR), await tellAt(START + 24 * HOUR), await tellAt(START + 25 * HOUR)]).toEqual([0, 1, 0]);
    school.clock.at = START + 24 * HOUR;
    expect((await list('student')).some((a) => a.id === id)).toBe(true);
    expect((await notices('second')).notices.length).toBe(before + 1);
  });

  it('are told once by two servers that ask at the same time', async () => {
    await write({ title: 'Twice asked', publishAt: iso(START + HOUR) });
    const many = await Promise.all([1, 2].map(() => doJob(school, tellAnnouncements, START + HOUR)));
    expect(many.reduce((a, b) => a + b)).toBe(1);
  });

  it('are changed with a conflict shown, removed and brought back; empty ones are refused', async () => {
    const { id } = await write({ title: 'Changed', tells: false });
    const change = (more: object) => school.agents.instructor.put(`${base()}/announcements/${id}`).send(wish(more));
    await change({ version: 1, title: 'Changed again', tells: false }).expect(200);
    expect((await change({ version: 1 }).expect(409)).body.current.title).toBe('Changed again');
    await school.agents.instructor.delete(`${base()}/announcements/${id}`).expect(200);
    expect((await list('student')).some((a) => a.id === id)).toBe(false);
    await school.agents.instructor.post(`${base()}/announcements/${id}/restore`).expect(200);
    expect((await list('student')).some((a) => a.id === id)).toBe(true);
    await write({ document: paragraphs(' ') }, 422);
    await write({ sectionIds: [randomUUID()] }, 422);
    await school.agents.assistant.post(`${base()}/announcements`).send(wish()).expect(403);
  });
});

describe('notices', () => {
  it('come as each person chose: here, by mail, or not', async () => {
    const choose = (kind: string, isShown: boolean, isMailed: boolean) =>
      school.agents.student.put('/api/notices/choices').send({ kind, isShown, isMailed }).expect(200);
    await choose('returned', false, true);
    await handInText(school, 'student', 'My report');
    await finishScore(school, school.students[0], 7000);
    const before = (await notices('student')).notices.length;
    await school.agents.instructor.post(`${base()}/marking/${school.itemId}/release`).send({ enrolmentIds: null }).expect(200);
    expect((await notices('student')).notices.length).toBe(before);
    expect((await outbox())[0]).toMatchObject({ to: 'first@example.org', subject: 'Watches: “Report” came back' });
    await choose('returned', true, false);
    expect((await notices('student')).choices).toContainEqual({ kind: 'returned', isShown: true, isMailed: false });
  });
  it('are seen once looked at', async () => {
    expect((await notices('student')).unseen).toBeGreaterThan(0);
    expect(((await school.agents.student.post('/api/notices/seen').expect(200)).body as NoticesView).unseen).toBe(0);
  });
  it('the outbox is for administrators, save in a demo', async () => {
    await school.agents.instructor.get('/api/outbox').expect(403);
    await school.pool.query('update school set is_demo = true');
    await school.agents.student.get('/api/outbox').expect(200);
    await school.pool.query('update school set is_demo = false');
  });
});

describe('a discussion', () => {
  let itemId: string;
  beforeAll(async () => {
    const made = (
      await school.agents.instructor
        .post(`${base()}/items`)
        .send({ unitId: school.unitId, kind: 'discussion', title: 'What went wrong', position: 0 })
        .expect(200)
    ).body;
    itemId = made.id;
    await set({ isDraft: false, possible: 10_000 });
  });
  const set = async (change: object) => {
    const { version } = (await school.agents.instructor.get(`${base()}/items/${itemId}`).expect(200)).body.item;
    await school.agents.instructor
      .patch(`${base()}/items/${itemId}`)
      .send({ ...change, version })
      .expect(200);
  };
  const path = (): string => `${base()}/discussions/${itemId}`;
  const see = async (who: Who): Promise<DiscussionView> => (await school.agents[who].get(path()).expect(200)).body as DiscussionView;
  const post = (who: Who, words: string, more: object = {}) =>
    school.agents[who]
      .post(`${path()}/posts`)
      .send({ id: randomUUID(), threadId: null, title: 'A thread', document: paragraphs(words), ...more });
  const change = (who: Who, id: string, body: object) => school.agents[who].patch(`${path()}/posts/${id}`).send(body);
  const setting = async (body: object) =>
    school.agents.instructor
      .put(path())
      .send({ version: (await see('instructor')).version, ...body })
      .expect(200);

  it('has threads and answers; the one answered is told; a post sent twice is there once', async () => {
    const id = randomUUID();
    for (let n = 0; n < 2; n += 1) await post('student', 'My mainspring slipped.', { id, title: 'Mainspring' }).expect(200);
    await post('second', 'So did mine.', { threadId: id, title: '' }).expect(200);
    const seen = await see('student');
    expect(seen.threads.map((t) => [t.title, t.author, t.isOwn, t.replies.map((r) => r.author), t.unread])).toEqual([
      ['Mainspring', 'First Tester', true, ['Second Tester'], 1],
    ]);
    expect((await notices('student')).notices[0]).toMatchObject({ kind: 'reply', words: 'an answer in “What went wrong”' });
    expect((await notices('second')).notices.some((n) => n.kind === 'reply')).toBe(false);
    await school.agents.student
      .post(`${path()}/read`)
      .send({ postIds: seen.threads[0]!.replies.map((r) => r.id) })
      .expect(200);
    expect((await see('student')).threads[0]?.unread).toBe(0);
    expect((await see('instructor')).people).toMatchObject([
      { name: 'First Tester', posts: 1, words: 3 },
      { name: 'Second Tester', posts: 1, words: 3 },
    ]);
    expect((await see('student')).people).toEqual([]);
  });

  it('a post counts as handing in', async () => {
    const own = (await school.agents.student.get(`${base()}/own/items/${itemId}`).expect(200)).body;
    expect([own.isDone, own.kind]).toEqual([true, 'discussion']);
  });

  it('stands in the gradebook once it counts or has points, and not while it is only talk', async () => {
    const inBook = async (): Promise<boolean> =>
      JSON.stringify((await school.agents.instructor.get(`${base()}/gradebook`).expect(200)).body).includes('What went wrong');
    expect(await inBook()).toBe(true);
    await set({ possible: 0 });
    expect(await inBook()).toBe(false);
    await set({ possible: 10_000 });
  });

  it('only authors change and take back; only staff pin, close and hide', async () => {
    const id = randomUUID();
    await post('student', 'First words', { id, title: 'Mine' }).expect(200);
    await change('second', id, { version: 1, document: paragraphs('Not mine') }).expect(403);
    await change('student', id, { version: 1, isPinned: true }).expect(403);
    await change('instructor', id, { version: 1, document: paragraphs('Of the teacher') }).expect(403);
    await change('student', id, { version: 1, document: paragraphs('Better words') }).expect(200);
    await change('student', id, { version: 1, isTakenBack: true }).expect(409);
    await change('instructor', id, { version: 2, isPinned: true, isClosed: true }).expect(200);
    expect((await see('second')).threads[0]).toMatchObject({ id, isPinned: true, isClosed: true, isEdited: true });
    expect((await post('second', 'Too late', { threadId: id, title: '' }).expect(409)).body.detail).toContain('closed');
    await change('assistant', id, { version: 3, isHidden: true }).expect(200);
    expect(JSON.stringify((await see('second')).threads)).not.toContain('Better words');
    expect((await see('student')).threads.find((t) => t.id === id)).toMatchObject({
      state: 'hidden',
      document: paragraphs('Better words'),
    });
    await change('student', id, { version: 4, isTakenBack: true }).expect(200);
    expect((await see('second')).threads.some((t) => t.id === id)).toBe(false);
  });

  it('“post before you see” keeps everything back until one has written, the number too', async () => {
    await setting({ isPostFirst: true });
    await school.pool.query('update post set removed_at = now() where item_id = $1 and enrolment_id = $2', [itemId, school.students[1]]);
    expect(await see('second')).toMatchObject({ mustPostFirst: true, threads: [] });
    const [thread] = (await see('student')).threads;
    expect((await post('second', 'An answer first', { threadId: thread?.id, title: '' }).expect(409)).body.detail).toContain(
      'Write a thread of your own',
    );
    await post('second', 'My own view').expect(200);
    expect((await see('second')).threads.length).toBeGreaterThan(1);
    await setting({ isPostFirst: false });
  });

  it('closed by hand or by its date it is read, not written', async () => {
    await setting({ isClosed: true });
    expect((await see('student')).whyNot).toContain('closed this discussion');
    await post('student', 'After the end').expect(409);
    await post('instructor', 'A last word').expect(200);
    await setting({ isClosed: false });
    await set({ closesAt: iso(START - HOUR) });
    expect((await post('student', 'After the date').expect(409)).body.detail).toContain('has closed');
    await set({ closesAt: null });
  });

  it('refuses empty posts, threads without a title, answers to answers; drafts are unknown to students', async () => {
    expect((await post('student', ' ').expect(422)).body.pointers[0].field).toBe('document');
    expect((await post('student', 'x', { title: '' }).expect(422)).body.pointers[0].field).toBe('title');
    const answer = (await see('instructor')).threads.flatMap((t) => t.replies)[0];
    await post('student', 'x', { threadId: answer?.id, title: '' }).expect(404);
    await set({ isDraft: true });
    await school.agents.student.get(path()).expect(404);
    await post('student', 'x').expect(404);
    await set({ isDraft: false });
  });
});

describe('a picture in what is discussed', () => {
  it('is reached by students through the discussion, and comes along when it is carried forward', async () => {
    const png = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64');
    const file = (await school.agents.instructor.post(`${base()}/files`).attach('file', png, 'wheel.png').expect(200)).body;
    const { id } = (
      await school.agents.instructor
        .post(`${base()}/items`)
        .send({ unitId: school.unitId, kind: 'discussion', title: 'Look', position: 0 })
        .expect(200)
    ).body;
    const picture = { type: 'picture', attrs: { fileId: file.id, src: file.url, alt: 'A wheel' } };
    await school.agents.instructor
      .put(`${base()}/discussions/${id}`)
      .send({ version: 1, document: { type: 'doc', content: [picture] } })
      .expect(200);
    await school.agents.student.get(file.url).expect(404);
    const { version } = (await school.agents.instructor.get(`${base()}/items/${id}`).expect(200)).body.item;
    await school.agents.instructor.patch(`${base()}/items/${id}`).send({ version, isDraft: false }).expect(200);
    await school.agents.student.get(file.url).expect(200);
    const { terms } = (await school.agents.instructor.get('/api/course-start').expect(200)).body;
    const body = {
      code: 'HOR-1',
      run: 'z',
      title: 'Again',
      termId: terms[0].id,
      timeZone: 'Europe/Lisbon',
      sections: ['Only'],
      outline: 'empty',
    };
    const target = (await school.agents.instructor.post('/api/courses').send(body).expect(200)).body.id as string;
    const wish = { fromCourseId: school.courseId, itemIds: [id], hasPolicy: false, hasDates: false, weekdays: [], again: [] };
    const done = (await school.agents.instructor.post(`/api/courses/${target}/carry`).send(wish).expect(200)).body;
    const carried = JSON.stringify(
      (await school.agents.instructor.get(`/api/courses/${target}/discussions/${done.itemIds[0]}`).expect(200)).body.document,
    );
    expect(carried).toContain(`/api/courses/${target}/files/`);
    expect(carried).not.toContain(school.courseId);
  });
});

describe('the calendar', () => {
  const calendar = async (who: Who): Promise<CalendarView> =>
    (await school.agents[who].get(`${base()}/calendar`).expect(200)).body as CalendarView;

  it('shows a student their own dates and nothing of drafts; staff see drafts as such', async () => {
    const { entries } = await calendar('student');
    expect(entries.find((e) => e.kind === 'due' && e.title === 'Report')?.path).toBe(`/courses/${school.courseId}/study/${school.itemId}`);
    expect(JSON.stringify(entries)).not.toContain('Secret');
    expect((await calendar('instructor')).entries.filter((e) => e.reason === 'draft').length).toBeGreaterThanOrEqual(0);
    expect(entries.map((e) => e.at)).toEqual(entries.map((e) => e.at).sort());
  });

  it('shows staff the dates of each section, and which are for whom', async () => {
    const [morning, evening] = school.sections;
    const variant = {
      sectionId: evening,
      enrolmentId: null,
      groupId: null,
      opensAt: null,
      dueAt: '2026-11-27T18:00:00.000Z',
      closesAt: null,
    };
    await school.agents.instructor
      .put(`${base()}/items/${school.itemId}/variants`)
      .send({ variants: [variant] })
      .expect(200);
    const due = async (who: Who) =>
      (await calendar(who)).entries
        .filter((e) => e.kind === 'due' && e.path.includes(school.itemId))
        .map((e) => [e.at === variant.dueAt, e.reason, e.sectionIds]);
    expect((await due('instructor')).sort()).toEqual([
      [false, '', [morning]],
      [true, 'for Evening', [evening]],
    ]);
    // An assistant is told of the sections that were given to them; a student of their own date alone.
    expect(await due('assistant')).toEqual([[false, '', null]]);
    expect(await due('student')).toEqual([[false, expect.any(String), null]]);
    const { entries } = await calendar('instructor');
    expect(new Set(entries.map((e) => e.id)).size).toBe(entries.length);
    await school.agents.instructor.put(`${base()}/items/${school.itemId}/variants`).send({ variants: [] }).expect(200);
    expect((await due('instructor')).map(([, , of]) => of)).toEqual([null]);
  });

  it('is read by a calendar program under a secret address, which can be renewed', async () => {
    const { secret } = (await school.agents.student.get('/api/calendar-feed').expect(200)).body;
    expect((await school.agents.student.get('/api/calendar-feed')).body.secret).toBe(secret);
    const feed = await school.agents.nobody.get(`/api/calendars/${secret}`).expect(200);
    expect(feed.headers['content-type']).toBe('text/calendar; charset=utf-8');
    expect(feed.text).toMatch(/^BEGIN:VCALENDAR\r\n/);
    expect(feed.text).toContain('SUMMARY:Report due (Watches)');
    expect(feed.text).not.toContain('Secret');
    const next = (await school.agents.student.post('/api/calendar-feed').expect(200)).body.secret;
    expect(next).not.toBe(secret);
    await school.agents.nobody.get(`/api/calendars/${secret}`).expect(404);
    await school.agents.nobody.get(`/api/calendars/${next}`).expect(200);
    await school.agents.nobody.get('/api/calendars/guess').expect(404);
  });
});

import type { Conversation, Messages, MessageSent, NoticesView, OutboxMail } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { makeSchool, type TestSchool } from './school.ts';

type Who = keyof TestSchool['agents'];
let school: TestSchool;
let base = '';
beforeAll(async () => {
  school = await makeSchool('messages');
  base = `/api/courses/${school.courseId}/messages`;
}, 60_000);
afterAll(() => school.close());
const as = (who: Who) => school.agents[who];
const list = async (who: Who): Promise<Messages> => (await as(who).get(base).expect(200)).body as Messages;
const idOf = async (who: Who, name: string): Promise<string> => (await list(who)).people.find((p) => p.name.includes(name))?.personId ?? '';
const write = (who: Who, personIds: string[], more: object = {}) =>
  as(who)
    .post(base)
    .send({ key: randomUUID(), title: 'The drawing', body: 'Show me the third wheel.', personIds, ...more });
const first = async (who: Who): Promise<string> => (await list(who)).conversations[0]?.id ?? '';
const mails = async (): Promise<OutboxMail[]> =>
  ((await as('administrator').get('/api/outbox').expect(200)).body as { mails: OutboxMail[] }).mails;

describe('whom one may write to', () => {
  it('staff write to staff and to the students they teach, students to staff', async () => {
    const names = async (who: Who) => (await list(who)).people.map((p) => p.name.split(', ')[1]);
    expect(await names('instructor')).toEqual(['Assistant', 'First', 'Second']);
    // The assistant teaches the first section alone.
    expect(await names('assistant')).toEqual(['First', 'Instructor']);
    expect(await names('student')).toEqual(['Assistant', 'Instructor']);
    await as('outsider').get(base).expect(404);
    await as('nobody').get(base).expect(401);
  });

  it('anybody else is refused, and then nobody is written to', async () => {
    const second = await idOf('instructor', 'Second');
    const teacher = await idOf('student', 'Instructor');
    for (const who of ['student', 'assistant'] as const) {
      const answer = await write(who, [second, teacher]).expect(422);
      expect(answer.body.detail).toBe('1 of the 2 chosen cannot be written to here. Choose again; nothing was sent.');
    }
    expect((await list('instructor')).conversations).toEqual([]);
  });

  it.each([
    [{ title: ' ' }, 'Subject'],
    [{ body: '' }, 'Message'],
    [{ personIds: [] }, 'nobody yet'],
    [{ body: 'x'.repeat(8001) }, '8000'],
  ])('%#: one that says too little or too much is refused in words', async (change, words) => {
    expect((await write('student', [await idOf('student', 'Instructor')], change).expect(422)).body.detail).toContain(words);
  });
});

describe('a message', () => {
  it('to many is with each of them alone, and the sending is reported name by name', async () => {
    const to = [await idOf('instructor', 'First'), await idOf('instructor', 'Second')];
    const sent = (await write('instructor', to).expect(200)).body as MessageSent;
    expect(sent.rows.map((r) => [r.name, r.isMailed])).toEqual([
      ['Tester, First', true],
      ['Tester, Second', true],
    ]);
    expect(sent.messages.conversations.map((c) => c.people)).toEqual([['First Tester'], ['Second Tester']]);
    const own = (await list('student')).conversations;
    expect(own).toMatchObject([
      { people: ['Instructor Tester'], title: 'The drawing', lastWords: 'Show me the third wheel.', isUnread: true },
    ]);
    const mail = (await mails()).find((m) => m.to === 'first@example.org');
    expect([mail?.subject, mail?.body]).toEqual(['Watches: The drawing', 'Show me the third wheel.']);
    const notices = (await as('student').get('/api/notices').expect(200)).body as NoticesView;
    expect(notices.notices[0]).toMatchObject({
      kind: 'message',
      words: 'The drawing',
      path: `/courses/${school.courseId}/messages?of=${own[0]?.id ?? ''}`,
    });
  });

  it('is read by opening it, answered, and new again for the other', async () => {
    const id = await first('student');
    await as('student').post(`${base}/${id}/read`).expect(200);
    expect((await list('student')).conversations[0]?.isUnread).toBe(false);
    school.clock.at += 60_000;
    const after = (await as('student').post(`${base}/${id}`).send({ key: randomUUID(), body: 'Here it is.' }).expect(200))
      .body as Conversation;
    expect(after.messages.map((m) => [m.author, m.isOwn, m.body])).toEqual([
      ['Instructor Tester', false, 'Show me the third wheel.'],
      ['First Tester', true, 'Here it is.'],
    ]);
    expect((await list('instructor')).conversations[0]).toMatchObject({
      people: ['First Tester'],
      isUnread: true,
      lastWords: 'Here it is.',
    });
  });

  it('is seen by those in it, and by nobody else of the course', async () => {
    const id = await first('student');
    for (const who of ['second', 'assistant'] as const) {
      await as(who).get(`${base}/${id}`).expect(404);
      await as(who).post(`${base}/${id}`).send({ key: randomUUID(), body: 'x' }).expect(404);
      await as(who).post(`${base}/${id}/read`).expect(404);
    }
    // Whoever looks at the course as that student does not read their letters.
    const seen = (await as('instructor').get(base).set('x-see-as', school.students[0]).expect(200)).body as Messages;
    expect(seen).toEqual({ conversations: [], people: [] });
  });

  it('sent twice with one key stands there once, as a message and as an answer', async () => {
    school.clock.at += 60_000;
    const [key, answerKey] = [randomUUID(), randomUUID()];
    const before = (await list('student')).conversations.length;
    const to = await idOf('student', 'Instructor');
    for (let n = 0; n < 2; n += 1) await write('student', [to], { key }).expect(200);
    expect((await list('student')).conversations).toHaveLength(before + 1);
    const id = await first('student');
    for (let n = 0; n < 2; n += 1) await as('student').post(`${base}/${id}`).send({ key: answerKey, body: 'And more.' }).expect(200);
    expect(((await as('student').get(`${base}/${id}`).expect(200)).body as Conversation).messages).toHaveLength(2);
  });

  it('of a student to several of the staff is one conversation with all of them', async () => {
    const people = (await list('student')).people.map((p) => p.personId);
    school.clock.at += 60_000;
    const sent = (await write('student', people, { title: 'To both' }).expect(200)).body as MessageSent;
    expect(sent.messages.conversations[0]).toMatchObject({ title: 'To both', people: ['Assistant Tester', 'Instructor Tester'] });
    expect((await list('assistant')).conversations.map((c) => c.title)).toEqual(['To both']);
  });

  it('is not mailed to whoever chose not to be, and says so', async () => {
    await as('second').put('/api/notices/choices').send({ kind: 'message', isShown: true, isMailed: false }).expect(200);
    const before = (await mails()).length;
    const sent = (await write('instructor', [await idOf('instructor', 'Second')]).expect(200)).body as MessageSent;
    expect([sent.rows[0]?.isMailed, (await mails()).length]).toEqual([false, before]);
  });

  it('of someone withdrawn is kept, and nobody writes to them any more', async () => {
    const roster = (await as('instructor').get(`/api/courses/${school.courseId}/roster`).expect(200)).body as {
      members: { enrolmentId: string; version: number; givenName: string }[];
    };
    const second = roster.members.find((m) => m.givenName === 'Second');
    await as('instructor')
      .patch(`/api/courses/${school.courseId}/roster/${second?.enrolmentId}`)
      .send({ version: second?.version, isWithdrawn: true })
      .expect(200);
    expect((await list('instructor')).people.map((p) => p.name)).not.toContain('Tester, Second');
    expect((await list('instructor')).conversations.flatMap((c) => c.people)).toContain('Second Tester');
  });
});

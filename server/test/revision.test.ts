import { paragraphs, type StudentItem, type Work } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { finishScore, handInText, makeSchool, renewItem, START, type TestSchool } from './school.ts';

/** Asked to do it again, talk about a work, and work that came by other means. */
const DAY = 86_400_000;
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('revision');
}, 60_000);
beforeEach(async () => {
  school = await renewItem(school);
});
afterAll(() => school.close());
const base = (): string => `/api/courses/${school.courseId}`;
const own = (): string => `${base()}/own/items/${school.itemId}`;
const workPath = (n = 0): string => `${base()}/marking/${school.itemId}/${school.students[n]}`;
const work = async (n = 0): Promise<Work> => (await school.agents.instructor.get(workPath(n)).expect(200)).body as Work;
const seen = async (): Promise<StudentItem> => (await school.agents.student.get(own()).expect(200)).body as StudentItem;
const iso = (days: number): string => new Date(START + days * DAY).toISOString();
const ask = (words: string, dueAt: string) => school.agents.instructor.post(`${workPath()}/revision`).send({ words, dueAt });
async function note(body: string): Promise<string> {
  const { attempts } = await work();
  const id = randomUUID();
  const anchor = { kind: 'text', from: 1, to: 4 };
  await school.agents.instructor
    .post(`${workPath()}/notes`)
    .send({ id, attemptId: attempts[0]!.id, fileId: null, anchor, quote: 'The', body })
    .expect(200);
  return id;
}

describe('a revision', () => {
  it('gives the student the words, the notes, a new date and one attempt more', async () => {
    await school.pool.query('update assignment set attempts_allowed = 1 where item_id = $1', [school.itemId]);
    await handInText(school, 'student', 'The first attempt');
    const noteId = await note('How do you know?');
    expect((await seen()).whyNot).toContain('all this takes');
    school.clock.at = START + 4 * DAY;
    const asked = (await ask('Measure it and say so.', iso(12)).expect(200)).body as Work;
    expect([asked.entry.state, asked.revision?.isAnswered]).toEqual(['revision asked', false]);
    const item = await seen();
    expect(item.revision).toMatchObject({ words: 'Measure it and say so.', askedBy: 'Instructor Tester', dueAt: iso(12) });
    expect(item.revision?.notes.map((n) => [n.id, n.body, n.isAnswered])).toEqual([[noteId, 'How do you know?', false]]);
    expect(item.dates.due).toEqual({ at: iso(12), reason: 'set for this student, to revise it' });
    expect([item.canHandIn, item.returned]).toEqual([true, null]);
    const { body } = await school.agents.student.get('/api/notices').expect(200);
    expect(JSON.stringify(body)).toContain('is to be revised by');
    // Nobody else’s date moved.
    expect((await school.agents.second.get(own()).expect(200)).body.dates.due.at).toBe(iso(2));
  });

  it('is answered by a new attempt, which waits, is not late, and shows which notes are answered', async () => {
    await handInText(school, 'student', 'The first attempt');
    const noteId = await note('How do you know?');
    await ask('Measure it.', iso(12)).expect(200);
    await school.agents.student.put(`${own()}/notes/${noteId}/answered`).send({ isAnswered: true }).expect(200);
    school.clock.at = START + 10 * DAY;
    await handInText(school, 'student', 'The second attempt, measured');
    const now = await work();
    expect([now.entry.state, now.entry.lateText, now.attempts.length, now.revision?.isAnswered]).toEqual(['waits', null, 2, true]);
    expect(now.notes[0]?.isAnswered).toBe(true);
  });

  it('is taken back and set again, and the date with it', async () => {
    await handInText(school, 'student', 'The first attempt');
    const asked = (await ask('Again.', iso(12)).expect(200)).body as Work;
    const path = `${workPath()}/revision/${asked.revision?.id}`;
    await school.agents.instructor.delete(path).expect(200);
    expect([(await seen()).revision, (await seen()).dates.due.at, (await work()).entry.state]).toEqual([null, iso(2), 'waits']);
    await school.agents.instructor.post(`${path}/restore`).expect(200);
    expect((await seen()).dates.due.at).toBe(iso(12));
  });

  it('asked again before it was answered, stands in place of the first', async () => {
    await handInText(school, 'student', 'The first attempt');
    await ask('First words.', iso(12)).expect(200);
    school.clock.at += 1000;
    await ask('Second words.', iso(14)).expect(200);
    expect((await seen()).revision).toMatchObject({ words: 'Second words.', dueAt: iso(14) });
    const { rows } = await school.pool.query(
      'select count(*)::int as many from revision r join submission s on s.id = r.submission_id where s.item_id = $1 and r.ended_at is null',
      [school.itemId],
    );
    expect(rows[0].many).toBe(1);
  });

  it.each([
    ['a date that is past', 'Again.', iso(-1), 'dueAt'],
    ['no words', '  ', iso(9), 'words'],
    ['no date', 'Again.', 'soon', 'dueAt'],
  ])('is refused with %s', async (_what, words, dueAt, field) => {
    await handInText(school, 'student', 'The first attempt');
    expect((await ask(words, dueAt).expect(422)).body.pointers[0].field).toBe(field);
  });

  it('is refused where nothing is handed in', async () => {
    expect((await ask('Again.', iso(9)).expect(422)).body.detail).toContain('Nothing is handed in yet');
  });

  it('outranks a released mark until the new attempt comes', async () => {
    await handInText(school, 'student', 'The first attempt');
    await finishScore(school, school.students[0], 30_000);
    await school.agents.instructor.post(`${base()}/marking/${school.itemId}/release`).send({ enrolmentIds: null }).expect(200);
    school.clock.at += 1000;
    await ask('Again.', iso(12)).expect(200);
    expect((await work()).entry.state).toBe('revision asked');
  });
});

describe('talk about a work', () => {
  const say = (who: 'instructor' | 'student', body: string, id = randomUUID()) =>
    school.agents[who].post(who === 'student' ? `${own()}/words` : `${workPath()}/words`).send({ id, body });
  it('goes between the student and those who mark, also on an unfinished draft, and is told', async () => {
    await school.agents.student
      .put(`${own()}/draft`)
      .send({ document: paragraphs('Only begun'), version: 0 })
      .expect(200);
    expect(JSON.stringify((await work()).draft?.document)).toContain('Only begun');
    await say('student', 'Is this the right watch?').expect(200);
    const before = (await work()).words;
    expect(before.map((w) => [w.author, w.isStaff, w.isNew])).toEqual([['First Tester', false, true]]);
    const stack = await school.agents.instructor.get(`${base()}/marking/${school.itemId}`).expect(200);
    expect(stack.body.entries.map((e: { hasNewWords: boolean }) => e.hasNewWords)).toContain(true);
    await school.agents.instructor.post(`${workPath()}/words/read`).expect(200);
    expect((await work()).words[0]?.isNew).toBe(false);
    school.clock.at += 1000;
    await say('instructor', 'Yes, it is.').expect(200);
    expect((await seen()).words.map((w) => [w.body, w.isOwn, w.isNew])).toEqual([
      ['Is this the right watch?', true, false],
      ['Yes, it is.', false, true],
    ]);
    expect(JSON.stringify((await school.agents.student.get('/api/notices').expect(200)).body)).toContain('Something was said about');
  });

  it('is said once however often it is sent', async () => {
    const id = randomUUID();
    await say('student', 'Hello', id).expect(200);
    expect((await say('student', 'Hello', id).expect(200)).body).toHaveLength(1);
  });

  it('is nobody else’s', async () => {
    await say('student', 'Between us').expect(200);
    expect(JSON.stringify((await school.agents.second.get(own()).expect(200)).body)).not.toContain('Between us');
    await school.agents.outsider.post(`${workPath()}/words`).send({ id: randomUUID(), body: 'x' }).expect(404);
    // An assistant reaches the students of the sections shared out to them.
    await school.agents.assistant
      .post(`${workPath(0)}/words`)
      .send({ id: randomUUID(), body: 'x' })
      .expect(200);
    await school.agents.assistant
      .post(`${workPath(1)}/words`)
      .send({ id: randomUUID(), body: 'x' })
      .expect(404);
    await school.agents.student.post(`${workPath()}/words`).send({ id: randomUUID(), body: 'x' }).expect(403);
  });
});

describe('work that came by other means', () => {
  const body = (more = {}) => ({ key: randomUUID(), note: 'By post, in an envelope', handedInAt: iso(0), takesDraft: false, ...more });
  const send = (more = {}, who: 'instructor' | 'student' | 'assistant' = 'instructor', n = 0) =>
    school.agents[who].post(`${workPath(n)}/hand-in`).send(body(more));
  it('is handed in for the student at the time it came, with what staff laid to it', async () => {
    await school.agents.instructor.post(`${workPath()}/files`).attach('file', Buffer.from('typed off the paper'), 'report.txt').expect(200);
    school.clock.at = START + 3 * DAY;
    const { attempts, entry } = (await send({ handedInAt: iso(1) }).expect(200)).body as Work;
    expect(attempts[0]).toMatchObject({ handedInAt: iso(1), note: 'By post, in an envelope', lateText: null });
    expect(attempts[0]?.files.map((f) => f.name)).toEqual(['report.txt']);
    expect(entry.state).toBe('waits');
    expect((await seen()).attempts).toHaveLength(1);
  });

  it('may be the draft as it stands, once the time is over', async () => {
    await school.agents.student
      .put(`${own()}/draft`)
      .send({ document: paragraphs('Half a report'), version: 0 })
      .expect(200);
    school.clock.at = START + 6 * DAY;
    const key = randomUUID();
    await send({ takesDraft: true, handedInAt: iso(5), key }).expect(200);
    const { attempts } = (await send({ takesDraft: true, handedInAt: iso(5), key }).expect(200)).body as Work;
    expect(attempts.map((a) => a.wordCount)).toEqual([3]);
  });

  it.each([
    ['in the future', { handedInAt: iso(9) }, 'handedInAt'],
    ['with no word of how', { note: '' }, 'note'],
  ])('is refused %s', async (_what, more, field) => {
    expect((await send(more).expect(422)).body.pointers[0].field).toBe(field);
  });

  it('is for those who mark, each for the students they reach', async () => {
    await send({}, 'student').expect(403);
    await send({}, 'assistant', 1).expect(404);
    await send({}, 'assistant', 0).expect(200);
  });
});

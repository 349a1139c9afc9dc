import { paragraphs, type FollowUps, type FollowWish } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { followResults } from '../src/followUp/follow.ts';
import { rows, withDb } from '../src/index.ts';
import { doJob, makeSchool, START, type TestSchool } from './school.ts';

/** What follows from a result: once for each student, listed, and taken back. */
let school: TestSchool;
let itemId: string;
let groups: { id: string; title: string }[];
beforeAll(async () => {
  school = await makeSchool('follow');
  await withDb(school.pool, true, async (db) => {
    const [set] = await rows<{ id: string }>(db, "insert into group_set (course_id, title, position) values ($1, 'Help', 0) returning id", [
      school.courseId,
    ]);
    groups = await rows(
      db,
      "insert into course_group (set_id, title, position) values ($1, 'Monday', 0), ($1, 'Friday', 1) returning id, title",
      [set?.id],
    );
  });
}, 60_000);
afterAll(() => school.close());

const base = (): string => `/api/courses/${school.courseId}/quizzes/${itemId}`;
const follow = (path = ''): string => `/api/courses/${school.courseId}/items/${itemId}/follow-ups${path}`;
const list = async (who: 'instructor' | 'assistant' = 'instructor'): Promise<FollowUps> =>
  (await school.agents[who].get(follow()).expect(200)).body as FollowUps;
const work = (): Promise<number> => doJob(school, followResults);
const query = (sql: string, values: unknown[] = []): Promise<Record<string, unknown>[]> =>
  withDb(school.pool, false, (db) => rows(db, sql, values));
const numeric = {
  words: paragraphs('How many beats?'),
  points: 10_000,
  key: {
    kind: 'numeric',
    rules: {
      accepted: [{ value: '28800', tolerance: { kind: 'absolute', amount: '0' }, share: 100_000 }],
      units: [],
      isUnitNeeded: false,
      decimals: null,
      isSignFree: false,
    },
  },
};
async function makeQuiz(): Promise<void> {
  school.clock.at = START;
  const { instructor } = school.agents;
  const items = `/api/courses/${school.courseId}/items`;
  const made = await instructor.post(items).send({ unitId: school.unitId, kind: 'quiz', title: 'Check', position: 0 }).expect(200);
  itemId = made.body.id as string;
  const { sections } = (await instructor.get(base()).expect(200)).body;
  await instructor
    .post(`${base()}/questions`)
    .send({ sectionId: sections[0].id, position: 0, questions: [numeric] })
    .expect(200);
  const plan = await instructor.get(`${items}/${itemId}`).expect(200);
  await instructor.patch(`${items}/${itemId}`).send({ version: plan.body.item.version, isDraft: false }).expect(200);
}
async function take(who: 'student' | 'second', text: string): Promise<void> {
  const own = `/api/courses/${school.courseId}/own/quizzes/${itemId}/attempts`;
  const agent = school.agents[who];
  const { attemptId } = (await agent.post(own).send({ key: randomUUID(), code: '' }).expect(200)).body;
  const { taking } = (await agent.get(`${own}/${attemptId}`).expect(200)).body;
  const [question] = taking.sections[0].questions;
  await agent
    .put(`${own}/${attemptId}/answers/${question.id}`)
    .send({ answer: { kind: 'text', text }, isFlagged: false, device: 'test', turn: 1, seen: 0, seconds: 1 })
    .expect(200);
  await agent.post(`${own}/${attemptId}/hand-in`).expect(200);
}
const wish = (more: Partial<FollowWish>): FollowWish => ({
  ...{ meets: 'misses', points: 5000, action: 'group', groupId: groups[0]?.id ?? '', itemId: null, title: '', body: '', isFromNow: false },
  ...more,
});
const add = (more: Partial<FollowWish>, who: 'instructor' | 'assistant' | 'student' = 'instructor') =>
  school.agents[who].post(follow()).send(wish(more));
const memberOf = async (enrolmentId: string): Promise<unknown[]> =>
  (await query('select g.title from group_member m join course_group g on g.id = m.group_id where m.enrolment_id = $1', [enrolmentId])).map(
    (r) => r.title,
  );

describe('what follows from a result', () => {
  it('is a group for whoever misses the mark: once, and back where they were when it is taken back', async () => {
    await makeQuiz();
    const [first, second] = school.students;
    await withDb(school.pool, true, (db) =>
      rows(db, 'insert into group_member (group_id, enrolment_id) values ($1, $2)', [groups[1]?.id, first]),
    );
    const { id } = (await add({}).expect(200)).body as { id: string };
    expect(await work()).toBe(0);
    await take('student', '1');
    await take('second', '28800');
    expect(await work()).toBe(1);
    expect(await work()).toBe(0);
    expect([await memberOf(first), await memberOf(second)]).toEqual([['Monday'], []]);
    expect((await list()).rules).toMatchObject([
      {
        id,
        meets: 'misses',
        points: 5000,
        what: 'Help: Monday',
        isStopped: false,
        done: [{ name: 'Tester, First', problem: '', isUndone: false }],
      },
    ]);
    const one = follow(`/${id}/students/${first}`);
    await school.agents.student.delete(one).expect(403);
    await school.agents.instructor.delete(one).expect(200);
    expect(await memberOf(first)).toEqual(['Friday']);
    expect((await list()).rules[0]?.done[0]?.isUndone).toBe(true);
    // A teacher has decided: it does not follow again by itself.
    expect(await work()).toBe(0);
    await school.agents.instructor.delete(one).expect(404);
    await school.agents.instructor.post(`${one}/again`).expect(200);
    expect(await work()).toBe(1);
    expect(await memberOf(first)).toEqual(['Monday']);
  });

  it('is an item that opens for whoever reaches it, and closes again', async () => {
    const drafts = await add({ action: 'open', groupId: null, itemId: school.draftId }).expect(422);
    expect(drafts.body.detail).toContain('Drafts and what is for staff only');
    const { id } = (await add({ meets: 'reaches', points: 10_000, action: 'open', groupId: null, itemId: school.itemId }).expect(200)).body;
    expect(await work()).toBe(1);
    const open = async (): Promise<unknown[]> =>
      (await query('select enrolment_id from hand_opening where item_id = $1 and ended_at is null', [school.itemId])).map(
        (r) => r.enrolment_id,
      );
    expect(await open()).toEqual([school.students[1]]);
    await school.agents.instructor.delete(follow(`/${id}/students/${school.students[1]}`)).expect(200);
    expect(await open()).toEqual([]);
  });

  it('is a message, which can be taken back as long as it is unread', async () => {
    expect((await add({ action: 'message', groupId: null }).expect(422)).body.detail).toContain('a subject and something in it');
    const message = { action: 'message', groupId: null, title: 'Come on Friday', body: 'We go over it again.' } as const;
    const one = (await add(message).expect(200)).body as { id: string };
    const two = (await add({ ...message, title: 'Well done', meets: 'reaches' }).expect(200)).body as { id: string };
    expect(await work()).toBe(2);
    const titles = async (who: 'student' | 'second'): Promise<string[]> =>
      (await school.agents[who].get(`/api/courses/${school.courseId}/messages`).expect(200)).body.conversations.map(
        (c: { title: string }) => c.title,
      );
    expect([await titles('student'), await titles('second')]).toEqual([['Come on Friday'], ['Well done']]);
    await school.agents.instructor.delete(follow(`/${one.id}/students/${school.students[0]}`)).expect(200);
    expect(await titles('student')).toEqual([]);
    const [conversation] = await query("select id from conversation where title = 'Well done'");
    await school.agents.second.post(`/api/courses/${school.courseId}/messages/${String(conversation?.id)}/read`).expect(200);
    const late = await school.agents.instructor.delete(follow(`/${two.id}/students/${school.students[1]}`)).expect(409);
    expect(late.body.detail).toContain('has been read already');
  });

  it('keeps what could not be done with its reason, and tries again when told to', async () => {
    await makeQuiz();
    await take('student', '1');
    const { id } = (await add({ action: 'open', groupId: null, itemId: school.itemId }).expect(200)).body as { id: string };
    const draft = (isDraft: boolean) =>
      withDb(school.pool, true, (db) => rows(db, 'update item set is_draft = $2 where id = $1', [school.itemId, isDraft]));
    await draft(true);
    await work();
    expect((await list()).rules[0]?.done[0]?.problem).toContain('still a draft');
    await draft(false);
    expect(await work()).toBe(0);
    await school.agents.instructor.post(follow(`/${id}/students/${school.students[0]}/again`)).expect(200);
    await work();
    expect((await list()).rules[0]?.done[0]?.problem).toBe('');
  });

  it('can be for results that come alone, and can be stopped', async () => {
    await makeQuiz();
    await take('student', '1');
    const { id } = (await add({ isFromNow: true }).expect(200)).body as { id: string };
    expect(await work()).toBe(0);
    expect((await list()).rules[0]?.done).toEqual([]);
    await school.agents.instructor.delete(follow(`/${id}`)).expect(200);
    await take('second', '1');
    expect(await work()).toBe(0);
    expect((await list()).rules[0]?.isStopped).toBe(true);
    await school.agents.instructor.post(follow(`/${id}/restore`)).expect(200);
    expect(await work()).toBe(1);
    // Of the other section, so not an assistant’s to see.
    expect((await list('assistant')).rules[0]?.done).toEqual([]);
  });

  it('waits until a result may be known', async () => {
    await makeQuiz();
    await withDb(school.pool, true, (db) => rows(db, "update item set release_mode = 'hand' where id = $1", [itemId]));
    await add({}).expect(200);
    await take('student', '1');
    expect(await work()).toBe(0);
    await withDb(school.pool, true, (db) =>
      rows(db, 'update grade set is_released = true where column_id = (select column_id from graded_item where id = $1)', [itemId]),
    );
    expect(await work()).toBe(1);
  });

  it('is set by instructors alone', async () => {
    await add({}, 'assistant').expect(403);
    await add({}, 'student').expect(403);
    await school.agents.student.get(follow()).expect(403);
    await school.agents.outsider.get(follow()).expect(404);
    await school.agents.nobody.get(follow()).expect(401);
  });
});

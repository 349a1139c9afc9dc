import type { RippleAnswer } from '@rosemary/api';
import { finishScore, handInText, makeSchool, START, type TestSchool } from './school.ts';

const DAY = 86_400_000;
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('rehearse');
  await handInText(school, 'student', 'Worn jewels');
  await finishScore(school, school.students[0], 45_000);
}, 60_000);
afterAll(() => school.close());

const course = (): string => `/api/courses/${school.courseId}`;
const item = (): string => `${course()}/items/${school.itemId}`;
interface PlanItem {
  readonly id: string;
  readonly version: number;
  readonly possible: number;
  readonly dueAt: string;
}
async function planItem(): Promise<PlanItem> {
  const { body } = await school.agents.instructor.get(`${course()}/plan`).expect(200);
  return (body.units as { items: PlanItem[] }[]).flatMap((u) => u.items).find((i) => i.id === school.itemId)!;
}
async function totals(): Promise<string[]> {
  const { body } = await school.agents.instructor.get(`${course()}/gradebook`).expect(200);
  return (body.rows as { totals: { soFar: string | null } }[]).map((r) => r.totals.soFar ?? '—');
}
const rehearse = async (method: 'patch' | 'put' | 'delete', path: string, body: object = {}): Promise<RippleAnswer> =>
  (await school.agents.instructor[method](path).set('x-ripple', 'show').send(body).expect(200)).body as RippleAnswer;
const rowOf = (ripple: RippleAnswer, n: 0 | 1) => ripple.rows.find((r) => r.id === school.students[n])!;
const everything = async (): Promise<string> => {
  const tables = ['item', 'unit', 'date_variant', 'arrangement', 'enrolment', 'grading_policy', 'category', 'audit', 'grade_event'];
  const found = await Promise.all(tables.map((t) => school.pool.query(`select * from ${t} order by 1`)));
  return JSON.stringify(found.map((f) => f.rows as unknown[]));
};

describe('a change rehearsed', () => {
  it('says whose total would move by other points, and changes nothing at all', async () => {
    const before = await everything();
    const { version } = await planItem();
    const ripple = await rehearse('patch', item(), { version, possible: 90_000 });
    expect(rowOf(ripple, 0)).toMatchObject({
      before: '75.0',
      after: '50.0',
      letterBefore: 'B',
      letterAfter: 'D',
      move: 'falls',
      crosses: true,
    });
    expect(rowOf(ripple, 1).move).toBe('stays');
    expect(ripple.levels.map((l) => l.label)).toEqual(['A', 'B', 'C', 'D', 'F']);
    expect(await everything()).toBe(before);
  });

  it('is exactly what applying does', async () => {
    const { version, possible } = await planItem();
    const ripple = await rehearse('patch', item(), { version, possible: 50_000 });
    await school.agents.instructor.patch(item()).send({ version, possible: 50_000 }).expect(200);
    expect(await totals()).toEqual([rowOf(ripple, 0).after, rowOf(ripple, 1).after ?? '—']);
    await school.agents.instructor
      .patch(item())
      .send({ version: version + 1, possible })
      .expect(200);
    expect(await totals()).toEqual([rowOf(ripple, 0).before, rowOf(ripple, 1).before ?? '—']);
  });

  it('follows a date: work of a student who is late by the new one loses its penalty, and a missing one counts', async () => {
    const policy = (await school.agents.instructor.get(`${course()}/policy`).expect(200)).body;
    const { weightsSum, totals: list, columns, ...rest } = policy;
    expect([weightsSum > 0, list.length, columns.length > 0]).toEqual([true, 2, true]);
    await school.agents.instructor
      .put(`${course()}/policy`)
      .send({ ...rest, isMissingZero: true, lateRatePercent: 10_000, lateCapPercent: 50_000, lateStepMinutes: 1440, lateBase: 'earned' })
      .expect(200);
    const { version } = await planItem();
    const ripple = await rehearse('patch', item(), { version, dueAt: new Date(START - DAY / 2).toISOString() });
    expect(rowOf(ripple, 0)).toMatchObject({ before: '75.0', after: '67.5', move: 'falls' });
    expect(rowOf(ripple, 1)).toMatchObject({ before: null, after: '0.0', move: 'appears' });
  });

  it('follows another date for a section, a deletion and a state', async () => {
    const { version } = await planItem();
    const variant = { sectionId: school.sections[1], enrolmentId: null, opensAt: null, closesAt: null };
    const dated = await rehearse('put', `${item()}/variants`, { variants: [{ ...variant, dueAt: new Date(START - DAY).toISOString() }] });
    expect([rowOf(dated, 0).move, rowOf(dated, 1).move]).toEqual(['stays', 'appears']);
    expect(rowOf(await rehearse('delete', item()), 0)).toMatchObject({ before: '75.0', after: null, move: 'vanishes' });
    expect(rowOf(await rehearse('patch', item(), { version, isDraft: true }), 0).move).toBe('vanishes');
    expect(await totals()).toEqual(['75.0', '—']);
  });

  it('is refused like the change itself: a fault by its field, an old version with both, a stranger not at all', async () => {
    const { version } = await planItem();
    const send = (who: 'instructor' | 'assistant' | 'student' | 'outsider', body: object) =>
      school.agents[who].patch(item()).set('x-ripple', 'show').send(body);
    expect((await send('instructor', { version, possible: -1 }).expect(422)).body.pointers[0].field).toBe('possible');
    expect((await send('instructor', { version: 1, possible: 5000 }).expect(409)).body.current.version).toBe(version);
    await send('assistant', { version, possible: 5000 }).expect(403);
    await send('student', { version, possible: 5000 }).expect(403);
    await send('outsider', { version, possible: 5000 }).expect(404);
    const other = await school.agents.instructor.post(`${course()}/units`).set('x-ripple', 'show').send({ title: 'Not to rehearse' });
    expect([other.status, other.body.detail]).toEqual([422, 'This moves no grade, so it has no ripple.']);
  });
});

describe('arrangements', () => {
  interface Member {
    readonly enrolmentId: string;
    readonly version: number;
    readonly arrangements: readonly object[];
  }
  const member = async (n: 0 | 1): Promise<Member> =>
    ((await school.agents.instructor.get(`${course()}/roster`).expect(200)).body.members as Member[]).find(
      (m) => m.enrolmentId === school.students[n],
    )!;
  const path = (n: 0 | 1): string => `${course()}/roster/${school.students[n]}`;
  const days = (extraDays: number) => ({ extraDays, timeMultiplier: 1250, extraAttempts: 0, reason: 'agreed with the school' });

  it('move the due date of one student, who is told why, and are shown with their ripple first', async () => {
    const { version } = await member(1);
    const ripple = await rehearse('patch', path(1), { version, arrangements: [days(3)] });
    expect(ripple.rows.every((r) => r.move === 'stays')).toBe(true);
    await school.agents.instructor
      .patch(path(1))
      .send({ version, arrangements: [days(3)] })
      .expect(200);
    expect((await member(1)).arrangements).toEqual([days(3)]);
    const own = (await school.agents.second.get(`${course()}/own/items/${school.itemId}`).expect(200)).body;
    expect(Date.parse(own.dates.due.at)).toBe(START + 5 * DAY);
    expect(own.dates.due.reason).toBe('as for everyone, and 3 days by arrangement');
    const first = (await school.agents.student.get(`${course()}/own/items/${school.itemId}`).expect(200)).body;
    expect(Date.parse(first.dates.due.at)).toBe(START + 2 * DAY);
  });

  it('give more attempts than the item does', async () => {
    const canHandIn = async (): Promise<boolean> =>
      (await school.agents.student.get(`${course()}/own/items/${school.itemId}`).expect(200)).body.canHandIn as boolean;
    const setting = await school.agents.instructor.get(item()).expect(200);
    await school.agents.instructor
      .put(`${item()}/assignment`)
      .send({ version: setting.body.assignment.version, attemptsAllowed: 1 })
      .expect(200);
    expect(await canHandIn()).toBe(false);
    const { version } = await member(0);
    await school.agents.instructor
      .patch(path(0))
      .send({ version, arrangements: [{ extraDays: 0, timeMultiplier: 1000, extraAttempts: 1, reason: '' }] })
      .expect(200);
    expect(await canHandIn()).toBe(true);
  });

  it.each([
    ['more days than 60', { extraDays: 61 }],
    ['less than no days', { extraDays: -1 }],
    ['half a day', { extraDays: 0.5 }],
    ['less time than others', { timeMultiplier: 900 }],
    ['a factor finer than a hundredth', { timeMultiplier: 1255 }],
    ['a reason of a page', { reason: 'x'.repeat(201) }],
  ])('refuse %s and keep what stood', async (_, wrong) => {
    const before = await member(1);
    const answer = await school.agents.instructor
      .patch(path(1))
      .send({ version: before.version, arrangements: [{ ...days(1), ...wrong }] })
      .expect(422);
    expect(answer.body.pointers[0].field).toContain('arrangements');
    expect(await member(1)).toEqual(before);
  });

  it('are for students, set by instructors', async () => {
    const staff = (await school.agents.instructor.get(`${course()}/roster`)).body.members.find(
      (m: { role: string }) => m.role === 'assistant',
    );
    const answer = await school.agents.instructor
      .patch(`${course()}/roster/${staff.enrolmentId}`)
      .send({ version: staff.version, arrangements: [days(1)] })
      .expect(422);
    expect(answer.body.detail).toContain('Only a student');
    await school.agents.assistant.patch(path(1)).send({ version: 1, arrangements: [] }).expect(403);
  });
});

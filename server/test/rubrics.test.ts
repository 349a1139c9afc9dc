import { STARTER_RUBRICS } from '@rosemary/core';
import type { KeptRubric, RubricView, Work } from '@rosemary/api';
import { randomUUID } from 'node:crypto';
import { handInText, makeSchool, renewItem, type TestSchool } from './school.ts';

/** A rubric in use that changes, and rubrics kept to be used again. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('rubrics');
}, 60_000);
beforeEach(async () => {
  school = await renewItem(school);
});
afterAll(() => school.close());
const teacher = () => school.agents.instructor;
const base = (): string => `/api/courses/${school.courseId}`;
const path = (): string => `${base()}/items/${school.itemId}/rubric`;
const rubric = async (): Promise<RubricView> =>
  (await teacher().get(`${base()}/items/${school.itemId}`).expect(200)).body.rubric as RubricView;
type Level = { id: string | null; title: string; descriptor: string; points: number };
const level = (points: number): Level => ({ id: null, title: '', descriptor: `${points}`, points });
const put = (criteria: unknown, version: number, headers: Record<string, string> = {}) =>
  teacher().put(path()).set(headers).send({ version, criteria });
async function make(): Promise<RubricView> {
  const criteria = [
    { id: null, title: 'Facts', levels: [level(0), level(20_000), level(40_000)] },
    { id: null, title: 'Words', levels: [level(0), level(20_000)] },
  ];
  return (await put(criteria, 0).expect(200)).body.rubric as RubricView;
}
const workPath = (n: number): string => `${base()}/marking/${school.itemId}/${school.students[n]}`;
async function finish(n: number, levels: readonly number[], score: number | null = null): Promise<void> {
  const { criteria } = await rubric();
  const { mark } = (await teacher().get(workPath(n)).expect(200)).body as Work;
  const choices = Object.fromEntries(criteria.map((c, m) => [c.id, c.levels[levels[m] ?? 0]!.id]));
  const body = { version: mark.version, choices, score, scoreReason: score === null ? '' : 'Seen at the bench', feedback: null };
  const saved = await teacher()
    .put(`${workPath(n)}/mark`)
    .send(body)
    .expect(200);
  await teacher()
    .post(`${workPath(n)}/finish`)
    .send({ version: saved.body.version, isAboveConfirmed: false })
    .expect(200);
}
const raws = async (): Promise<number[]> =>
  (await school.pool.query<{ raw: string }>('select raw from work_grade where item_id = $1 order by raw', [school.itemId])).rows.map((r) =>
    Number(r.raw),
  );
const softer = (r: RubricView) =>
  r.criteria.map((c, n) => (n === 0 ? { ...c, levels: c.levels.map((l, m) => (m === 1 ? { ...l, points: 30_000 } : l)) } : c));

describe('a rubric in use', () => {
  beforeEach(async () => {
    await make();
    await handInText(school, 'student', 'One report');
    await handInText(school, 'second', 'Another report');
  });

  it('when its points change, keeps what was chosen; marks follow in the ledger, each with its reason, and back', async () => {
    await finish(0, [1, 1]);
    await finish(1, [2, 1]);
    expect(await raws()).toEqual([40, 60]);
    const before = await rubric();
    const saved = (await put(softer(before), before.version).expect(200)).body;
    expect([saved.followed, saved.kept]).toEqual([1, 0]);
    expect(await raws()).toEqual([50, 60]);
    const { mark } = (await teacher().get(workPath(0)).expect(200)).body as Work;
    expect([mark.total, mark.isComplete, mark.state]).toEqual([50_000, true, 'finished']);
    const events = await school.pool.query("select reason from grade_event where column_id = $1 and reason <> ''", [school.columnId]);
    expect(events.rows.map((r: { reason: string }) => r.reason)).toEqual(['The points of the rubric changed']);
    await put(before.criteria, saved.rubric.version).expect(200);
    expect(await raws()).toEqual([40, 60]);
  });

  it('can be rehearsed: nothing moves before it is applied', async () => {
    await finish(0, [1, 1]);
    await teacher().post(`${base()}/marking/${school.itemId}/release`).send({ enrolmentIds: null }).expect(200);
    const before = await rubric();
    const rehearsed = (await put(softer(before), before.version, { 'x-ripple': 'show' }).expect(200)).body;
    expect(rehearsed.rows.some((r: { move: string }) => r.move !== 'stays')).toBe(true);
    expect(await raws()).toEqual([40]);
    expect((await rubric()).version).toBe(before.version);
  });

  it('leaves a score its marker overrode, and one typed in the gradebook', async () => {
    await finish(0, [1, 1], 45_000);
    await finish(1, [1, 1]);
    const seen = await school.pool.query<{ id: string }>(
      'select last_event_id as id from work_grade where item_id = $1 and enrolment_id = $2',
      [school.itemId, school.students[1]],
    );
    const cell = {
      columnId: school.columnId,
      enrolmentId: school.students[1],
      state: 'scored',
      raw: 33_000,
      seenEventId: seen.rows[0]!.id,
    };
    await teacher()
      .put(`${base()}/gradebook/cells`)
      .send({ ...cell, isAboveConfirmed: false, reason: 'Agreed with the student' })
      .expect(200);
    const before = await rubric();
    const saved = (await put(softer(before), before.version).expect(200)).body;
    expect([saved.followed, saved.kept]).toEqual([0, 1]);
    expect(await raws()).toEqual([33, 45]);
  });

  it('with a new criterion, keeps finished scores that have no level in it', async () => {
    await finish(0, [1, 1]);
    const before = await rubric();
    const more = [...before.criteria, { id: null, title: 'Order', levels: [level(0), level(5000)] }];
    expect((await put(more, before.version).expect(200)).body).toMatchObject({ followed: 0, kept: 1 });
    expect(await raws()).toEqual([40]);
  });

  it('of no points at all is refused, and the one that is there stays', async () => {
    const before = await rubric();
    const worthless = before.criteria.map((c) => ({ ...c, levels: c.levels.map((l) => ({ ...l, points: 0 })) }));
    expect((await put(worthless, before.version).expect(422)).body.detail).toContain('has 0 points');
    expect(await rubric()).toEqual(before);
  });
});

describe('rubrics kept to be used again', () => {
  const list = async (who: 'instructor' | 'assistant' | 'outsider'): Promise<KeptRubric[]> =>
    (await school.agents[who].get('/api/kept-rubrics').expect(200)).body as KeptRubric[];
  const keep = (id: string, title = 'A report') =>
    teacher().post('/api/kept-rubrics').send({ id, title, criteria: STARTER_RUBRICS[0]!.criteria });
  it('are one’s own until they are shared, then everyone’s who teaches, and only their owner’s to change', async () => {
    const id = randomUUID();
    await keep(id).expect(200);
    await keep(id).expect(200);
    expect((await list('instructor')).map((k) => [k.title, k.isOwn, k.isShared, k.criteria.length])).toEqual([
      ['A report', true, false, 4],
    ]);
    expect(await list('outsider')).toEqual([]);
    await teacher().patch(`/api/kept-rubrics/${id}`).send({ isShared: true, title: 'Our report' }).expect(200);
    expect((await list('outsider')).map((k) => [k.title, k.isOwn, k.owner])).toEqual([['Our report', false, 'Instructor Tester']]);
    await school.agents.outsider.patch(`/api/kept-rubrics/${id}`).send({ title: 'Mine' }).expect(404);
    await school.agents.outsider.delete(`/api/kept-rubrics/${id}`).expect(404);
    await school.agents.student.get('/api/kept-rubrics').expect(403);
    await school.agents.student
      .post('/api/kept-rubrics')
      .send({ id: randomUUID(), title: 'x', criteria: STARTER_RUBRICS[0]!.criteria })
      .expect(403);
    await teacher().delete(`/api/kept-rubrics/${id}`).expect(200);
    expect(await list('outsider')).toEqual([]);
    await teacher().post(`/api/kept-rubrics/${id}/restore`).expect(200);
    expect(await list('assistant')).toHaveLength(1);
  });

  it.each([
    ['no title', { title: ' ' }, 'title'],
    ['no criterion', { criteria: [] }, 'criteria'],
    ['one level', { criteria: [{ title: 'x', levels: [{ title: '', descriptor: '', points: 1 }] }] }, 'criteria.0.levels'],
  ])('are refused with %s', async (_what, wrong, field) => {
    const body = { id: randomUUID(), title: 'A report', criteria: STARTER_RUBRICS[0]!.criteria, ...wrong };
    expect((await teacher().post('/api/kept-rubrics').send(body).expect(422)).body.pointers[0].field).toBe(field);
  });
});

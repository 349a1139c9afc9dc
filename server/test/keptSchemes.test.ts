import { randomUUID } from 'node:crypto';
import type { KeptScheme, PolicyChange, PolicyPast } from '@rosemary/api';
import { READY_SCHEMES } from '@rosemary/core';
import { makeSchool, type TestSchool } from './school.ts';

/** Schemes kept to be used again, and what a category will hold in each grading period. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('kept_schemes');
}, 60_000);
afterAll(() => school.close());
const teacher = () => school.agents.instructor;
const scheme = { levels: READY_SCHEMES[3]!.levels, passPercent: READY_SCHEMES[3]!.passPercent };

describe('schemes kept to be used again', () => {
  const list = async (who: 'instructor' | 'assistant' | 'outsider'): Promise<KeptScheme[]> =>
    (await school.agents[who].get('/api/kept-schemes').expect(200)).body as KeptScheme[];

  it('are one’s own until they are shared, and only their owner’s to change', async () => {
    const id = randomUUID();
    await teacher().post('/api/kept-schemes').send({ id, title: 'Bands', scheme }).expect(200);
    expect((await list('instructor')).map((k) => [k.title, k.isOwn, k.scheme])).toEqual([['Bands', true, scheme]]);
    expect(await list('outsider')).toEqual([]);
    await teacher().patch(`/api/kept-schemes/${id}`).send({ isShared: true, title: 'Our bands' }).expect(200);
    expect((await list('outsider')).map((k) => [k.title, k.isOwn, k.owner])).toEqual([['Our bands', false, 'Instructor Tester']]);
    await school.agents.outsider.patch(`/api/kept-schemes/${id}`).send({ title: 'Mine' }).expect(404);
    await school.agents.outsider.delete(`/api/kept-schemes/${id}`).expect(404);
    await teacher().delete(`/api/kept-schemes/${id}`).expect(200);
    expect(await list('assistant')).toEqual([]);
    await teacher().post(`/api/kept-schemes/${id}/restore`).expect(200);
    expect(await list('assistant')).toHaveLength(1);
  });

  it('are no student’s', async () => {
    await school.agents.student.get('/api/kept-schemes').expect(403);
    await school.agents.student.post('/api/kept-schemes').send({ id: randomUUID(), title: 'x', scheme }).expect(403);
  });

  it.each([
    ['no title', { title: ' ' }, 'title'],
    ['no level', { scheme: { ...scheme, levels: [] } }, 'scheme.levels'],
    ['a cut-point that rises', { scheme: { ...scheme, levels: [...scheme.levels].reverse() } }, 'levels'],
    ['a lowest level above 0', { scheme: { ...scheme, levels: scheme.levels.slice(0, 2) } }, 'levels'],
  ])('are refused with %s', async (_what, wrong, field) => {
    const body = { id: randomUUID(), title: 'Bands', scheme, ...wrong };
    expect((await teacher().post('/api/kept-schemes').send(body).expect(422)).body.pointers[0].field).toBe(field);
  });
});

describe('what a category will hold in each grading period', () => {
  const path = (): string => `/api/courses/${school.courseId}/policy`;
  const read = async (): Promise<PolicyChange> => {
    const { weightsSum, totals, columns, ...policy } = (await teacher().get(path()).expect(200)).body;
    void [weightsSum, totals, columns];
    return policy as PolicyChange;
  };
  const put = async (change: (policy: PolicyChange) => Partial<PolicyChange>): Promise<PolicyChange> => {
    const now = await read();
    await teacher()
      .put(path())
      .send({ ...now, ...change(now) })
      .expect(200);
    return read();
  };

  it('is kept, goes with its period, and comes back with it', async () => {
    const period = (title: string) => ({ id: null, title, weightPercent: 50_000, startsOn: null, endsOn: null });
    const { periods } = await put(() => ({ periods: [period('One'), period('Two')] }));
    const declaredIn = periods.map((p, n) => ({ periodId: p.id ?? '', items: 2 + n, points: 40_000 }));
    const said = await put(({ categories }) => ({ categories: categories.map((c, n) => (n === 0 ? { ...c, declaredIn } : c)) }));
    const sorted = (policy: PolicyChange) => policy.categories.map((c) => c.declaredIn.map((d) => d.items).sort());
    expect(sorted(said)).toEqual([[2, 3], []]);
    const less = await put((now) => ({ periods: now.periods.slice(0, 1) }));
    expect(sorted(less)).toEqual([[2], []]);
    const { body } = await teacher().get(`${path()}/history`).expect(200);
    const past = (body as { changes: PolicyPast[] }).changes[0];
    await put(() => ({ ...past?.before, version: less.version, moves: [] }));
    expect(sorted(await read())).toEqual([[2, 3], []]);
  });
});

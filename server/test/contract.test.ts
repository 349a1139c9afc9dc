import * as api from '@rosemary/api/endpoints';
import type { Endpoint } from '@rosemary/api/endpoints';
import { rows, withDb } from '../src/index.ts';
import { routes } from '../src/routes.ts';
import { requireAnswer } from './answers.ts';
import { makeSchool, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('contract');
}, 60_000);
afterAll(() => school.close());

const endpoints = Object.entries(api as Readonly<Record<string, unknown>>).filter(
  (entry): entry is [string, Endpoint] => typeof entry[1] === 'object',
);
const writes = endpoints.flatMap(([name, at]) => (at.method === 'get' ? [] : [[name, at] as const]));
const label = (at: Endpoint): string => `${at.method} ${at.path}`;

interface Line {
  readonly action: string;
  readonly subject: string | null;
  readonly before: unknown;
  readonly after: unknown;
}
const listAudit = (action: string): Promise<Line[]> =>
  withDb(school.pool, false, (db) =>
    rows<Line>(db, 'select action, subject, before, after from audit where action = $1 order by id', [action]),
  );
const course = (): string => `/api/courses/${school.courseId}`;
const instructor = () => school.agents.instructor;

describe('the endpoints', () => {
  it('are each implemented once, and nothing else is', () => {
    expect(routes.map((route) => label(route.endpoint)).sort()).toEqual(endpoints.map(([, at]) => label(at)).sort());
    expect(new Set(endpoints.map(([, at]) => label(at))).size).toBe(endpoints.length);
  });

  it('have a schema for every body they take, and take none without one', () => {
    const takesBody = (at: Endpoint): boolean => at.method !== 'get' && at.body !== undefined;
    expect(routes.filter((r) => takesBody(r.endpoint) !== (r.schema !== null)).map((r) => label(r.endpoint))).toEqual([]);
  });

  it('say of every write how the audit names it, or why it is not there', () => {
    expect(
      writes.filter(([, at]) => (typeof at.audit === 'string' ? at.audit : at.audit.none).trim() === '').map(([name]) => name),
    ).toEqual([]);
  });

  it('take back what moves grades by an endpoint of the same parameters', () => {
    for (const [name, at] of writes) {
      if (at.movesGrades !== true || at.undo === 'itself' || 'none' in at.undo) continue;
      expect([name, at.undo.method]).not.toEqual([name, 'get']);
      expect(endpoints.map(([, known]) => known)).toContain(at.undo);
    }
  });
});

describe('the audit', () => {
  it('has a line for an act, with what it is about and what was sent', async () => {
    const body = { title: 'Escapements', isStanding: false };
    const { id } = (await instructor().post(`${course()}/units`).send(body).expect(200)).body;
    expect(await listAudit('unit added')).toEqual([{ action: 'unit added', subject: id, before: null, after: body }]);
  });

  it('has one for acts that had none while each handler wrote its own', async () => {
    const folder = (await instructor().post(`${course()}/folders`).send({ title: 'Slides', parentId: null }).expect(200)).body;
    await instructor().delete(`${course()}/folders/${folder.id}`).expect(200);
    await instructor().post(`${course()}/folders/${folder.id}/restore`).expect(200);
    for (const action of ['folder added', 'folder deleted', 'folder brought back'])
      expect((await listAudit(action)).map((line) => line.subject)).toEqual([folder.id]);
  });

  it('has none where the act was refused or only rehearsed', async () => {
    await instructor().patch(`${course()}/units/${school.unitId}`).send({ title: '', version: 1 }).expect(422);
    const [unit] = await withDb(school.pool, false, (db) =>
      rows<{ version: number }>(db, 'select version from unit where id = $1', [school.unitId]),
    );
    const body = { title: 'Another', version: unit?.version };
    await instructor().patch(`${course()}/units/${school.unitId}`).set('x-ripple', 'show').send(body).expect(200);
    expect(await listAudit('unit changed')).toEqual([]);
  });

  it('never holds a password', async () => {
    const person = { givenName: 'Ada', familyName: 'Quill', email: 'ada.quill@example.org', password: 'a secret that is long' };
    await school.agents.administrator.post('/api/school/people').send(person).expect(200);
    const [line] = await listAudit('person added');
    expect(line?.after).toEqual({ givenName: 'Ada', familyName: 'Quill', email: 'ada.quill@example.org' });
  });
});

describe('a change that minds its ripple', () => {
  const item = (): string => `${course()}/items/${school.itemId}`;
  const versionOf = async (): Promise<number> => (await instructor().get(item()).expect(200)).body.item.version;

  it('is done in one request where nobody moves', async () => {
    const version = await versionOf();
    const done = await instructor().patch(item()).set('x-ripple', 'mind').send({ title: 'Report on springs', version }).expect(200);
    expect(done.body.title).toBe('Report on springs');
  });

  it('is held, and changes nothing, where somebody moves', async () => {
    const [enrolmentId] = school.students;
    const cell = {
      columnId: school.columnId,
      enrolmentId,
      state: 'scored',
      raw: 30_000,
      seenEventId: null,
      isAboveConfirmed: false,
      reason: '',
    };
    await instructor().put(`${course()}/gradebook/cells`).send(cell).expect(200);
    const version = await versionOf();
    const held = await instructor().patch(item()).set('x-ripple', 'mind').send({ possible: 120_000, version }).expect(202);
    expect(held.body.rows.map((r: { id: string; move: string }) => [r.id, r.move])).toContainEqual([enrolmentId, 'falls']);
    expect((await instructor().get(item()).expect(200)).body.item).toMatchObject({ possible: 60_000, version });
    await instructor().patch(item()).send({ possible: 120_000, version }).expect(200);
  });

  it('does not ask about a student who goes: nobody else’s total moves', async () => {
    const [enrolmentId] = school.students;
    const roster = (await instructor().get(`${course()}/roster`).expect(200)).body as {
      members: { enrolmentId: string; version: number }[];
    };
    const version = roster.members.find((m) => m.enrolmentId === enrolmentId)?.version;
    const path = `${course()}/roster/${enrolmentId}`;
    await instructor().patch(path).set('x-ripple', 'mind').send({ isWithdrawn: true, version }).expect(200);
    await instructor()
      .patch(path)
      .set('x-ripple', 'mind')
      .send({ isWithdrawn: false, version: (version ?? 0) + 1 })
      .expect(200);
  });

  it('is refused for what moves no grade', async () => {
    await instructor().post(`${course()}/units`).set('x-ripple', 'mind').send({ title: 'Springs' }).expect(422);
  });
});

describe('an answer', () => {
  it.each([
    ['lacks something', { findings: [] }],
    ['has something more', { findings: [], items: 3, secret: 'key' }],
    ['has it in another shape', { findings: 'none', items: 3 }],
  ])('is refused in tests where it %s', (_, answer) => {
    expect(() => {
      requireAnswer(api.getCheck, answer);
    }).toThrow('getCheck answers what its type does not say');
  });

  it('is refused where its endpoint says nothing of one', () => {
    expect(() => {
      requireAnswer(api.removeTemplate, { id: 'x' });
    }).toThrow('its endpoint says nothing of it');
  });
});

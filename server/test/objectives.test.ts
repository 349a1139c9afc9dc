import type { Objectives, ObjectivesDone, ObjectivesPreview, ObjectiveView } from '@rosemary/api';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { makeSchool, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('objectives');
}, 60_000);
afterAll(() => school.close());
const base = (): string => `/api/courses/${school.courseId}/objectives`;
const teacher = () => school.agents.instructor;
const list = async (): Promise<readonly ObjectiveView[]> => ((await teacher().get(base()).expect(200)).body as Objectives).objectives;
const add = async (code: string, statement: string, parentId: string | null = null): Promise<string> =>
  (await teacher().post(base()).send({ code, statement, parentId }).expect(200)).body.id as string;
const change = async (id: string, body: object) => {
  const { version } = (await list()).find((o) => o.id === id) ?? { version: 0 };
  return teacher()
    .patch(`${base()}/${id}`)
    .send({ version, ...body });
};
const clear = async (): Promise<void> => {
  for (const o of (await list()).filter((one) => one.parentId === null)) await teacher().delete(`${base()}/${o.id}`).expect(200);
};
const shape = async () => {
  const all = await list();
  return all.map((o) => [o.code, all.find((p) => p.id === o.parentId)?.code ?? null]);
};

describe('the objectives of a course', () => {
  it('are a tree with codes, changed, moved and removed with what stands below, and brought back', async () => {
    const tools = await add('T', 'Keep tools in order');
    const blade = await add('T1', 'Dress a blade', tools);
    const stone = await add('T1.1', 'Choose a stone', blade);
    const train = await add('G', 'Count a train');
    expect(await shape()).toEqual([
      ['T', null],
      ['T1', 'T'],
      ['T1.1', 'T1'],
      ['G', null],
    ]);
    expect((await change(tools, { parentId: stone })).body.pointers[0].field).toBe('parentId');
    expect((await change(train, { code: 't1' })).body.detail).toContain('taken by “Dress a blade”');
    expect((await teacher().patch(`${base()}/${train}`).send({ version: 99, code: 'X' })).status).toBe(409);
    await change(train, { position: 0 });
    expect((await shape())[0]).toEqual(['G', null]);
    await teacher().delete(`${base()}/${blade}`).expect(200);
    expect(await shape()).toEqual([
      ['G', null],
      ['T', null],
    ]);
    await teacher().post(`${base()}/${blade}/restore`).expect(200);
    expect(await shape()).toEqual([
      ['G', null],
      ['T', null],
      ['T1', 'T'],
      ['T1.1', 'T1'],
    ]);
    await clear();
  });

  it('are aligned with items and criteria in one step, and say where they are used', async () => {
    const id = await add('R', 'Report what is seen');
    const rubric = (
      await teacher()
        .put(`/api/courses/${school.courseId}/items/${school.itemId}/rubric`)
        .send({
          version: 0,
          criteria: [
            {
              id: null,
              title: 'Facts',
              levels: [
                { id: null, title: '', descriptor: 'none', points: 0 },
                { id: null, title: '', descriptor: 'all', points: 10_000 },
              ],
            },
          ],
        })
        .expect(200)
    ).body.rubric;
    const item = `/api/courses/${school.courseId}/items/${school.itemId}/objectives`;
    const criterion = `/api/courses/${school.courseId}/criteria/${rubric.criteria[0].id}/objectives`;
    for (const path of [item, criterion])
      expect(
        (
          await teacher()
            .put(path)
            .send({ objectiveIds: [id] })
            .expect(200)
        ).body,
      ).toEqual({ objectiveIds: [id] });
    expect((await list())[0]?.uses.map((u) => [u.title, u.criterion])).toEqual([
      ['Report', null],
      ['Report', 'Facts'],
    ]);
    await teacher()
      .put(item)
      .send({ objectiveIds: ['00000000-0000-4000-8000-000000000000'] })
      .expect(422);
    expect((await teacher().get(item).expect(200)).body.objectiveIds).toEqual([id]);
    await teacher().put(item).send({ objectiveIds: [] }).expect(200);
    expect((await list())[0]?.uses).toHaveLength(1);
    await school.agents.student.get(base()).expect(403);
    await clear();
  });
});

const FOLDER = join(import.meta.dirname, 'files', 'objectives');
const send = async (what: 'preview' | 'import', bytes: Buffer, name = 'objectives.csv') =>
  teacher().post(`${base()}/${what}`).attach('file', bytes, name);
const file = (name: string): Promise<Buffer> => readFile(join(FOLDER, name));

describe('objectives from a file', () => {
  afterEach(clear);

  it('show what will be added and what is wrong, row by row, and change nothing before it is wished', async () => {
    const preview = (await send('preview', await file('mixed.csv'))).body as ObjectivesPreview;
    expect(preview.rows.map((r) => [r.code, r.depth, r.what])).toEqual([
      ['T', 0, 'add'],
      ['T1', 1, 'add'],
      ['G', 0, 'add'],
    ]);
    expect(preview.problems.map((p) => p.line)).toEqual([4, 5, 6, 8, 9]);
    expect(await list()).toEqual([]);
    const done = (await send('import', await file('mixed.csv'))).body as ObjectivesDone;
    expect([done.added, done.changed, done.left]).toEqual([3, 0, 5]);
    expect(await shape()).toEqual([
      ['T', null],
      ['T1', 'T'],
      ['G', null],
    ]);
  });

  it('brought in again change what changed, and double nothing', async () => {
    await send('import', await file('mixed.csv'));
    expect(((await send('preview', await file('mixed.csv'))).body as ObjectivesPreview).rows.map((r) => r.what)).toEqual([
      'same',
      'same',
      'same',
    ]);
    const again = Buffer.from('code,statement,parent\nT,Keep every tool in order,\nT1,Dress a blade,\n');
    const done = (await send('import', again)).body as ObjectivesDone;
    expect([done.added, done.changed]).toEqual([0, 2]);
    expect((await list()).map((o) => [o.code, o.statement, o.parentId])).toEqual([
      ['T', 'Keep every tool in order', null],
      ['G', 'Count a train', null],
      ['T1', 'Dress a blade', null],
    ]);
  });

  it.each([
    ['truncated.json', 'breaks off'],
    ['latin1.csv', 'not written in UTF-8'],
    ['columns.csv', 'names no column “code”'],
    ['quote.csv', 'quotation mark'],
    ['empty.csv', 'empty'],
  ])('%s is refused in words, and nothing is taken', async (name, words) => {
    const answer = await send('import', await file(name), name);
    const said = JSON.stringify(answer.body);
    if (answer.status === 200) expect((answer.body as ObjectivesDone).added).toBe(0);
    expect(answer.status === 200 ? JSON.stringify((await send('preview', await file(name), name)).body) : said).toContain(words);
    expect(await list()).toEqual([]);
  });

  it('a circle in a framework is named, and the rest taken', async () => {
    const preview = (await send('preview', await file('circle.json'), 'circle.json')).body as ObjectivesPreview;
    expect(preview.rows.map((r) => r.code)).toEqual(['A']);
    expect(preview.problems.map((p) => p.text).join()).toContain('stands below itself');
  });

  it('thousands come in at once, more than a course takes are refused', async () => {
    const rows = (many: number) => Buffer.from(`code,statement\n${Array.from({ length: many }, (_, n) => `C${n},Can do ${n}`).join('\n')}`);
    expect(((await send('preview', rows(5000))).body as ObjectivesPreview).rows).toHaveLength(5000);
    expect((await send('preview', rows(5001))).body.detail).toContain('a course takes 5000');
  });

  it('taken out and brought into another course are the same, as a table and as a framework', async () => {
    await send('import', await file('mixed.csv'));
    const before = await shape();
    for (const format of ['csv', 'case']) {
      const out = await teacher().get(`${base()}/file?format=${format}`).expect(200);
      expect(out.headers['content-disposition']).toContain(format === 'csv' ? '.csv' : '.json');
      const other = `/api/courses/${school.otherCourseId}/objectives`;
      await school.agents.outsider.post(`${other}/import`).attach('file', Buffer.from(out.text), 'x').expect(200);
      const { objectives } = (await school.agents.outsider.get(other).expect(200)).body as Objectives;
      expect(objectives.map((o) => [o.code, objectives.find((p) => p.id === o.parentId)?.code ?? null])).toEqual(before);
    }
  });
});

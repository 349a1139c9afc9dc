import type { Gradebook } from '@rosemary/api';
import { rows, withDb } from '../src/index.ts';
import { finishScore, makeSchool, renewItem, type TestSchool } from './school.ts';

/** Columns of the gradebook that are not of an item’s work: one that stands alone, and one for reviewing beside the work. */
let school: TestSchool;
let alone = '';
let reviewing = '';
beforeAll(async () => {
  school = await makeSchool('columns');
}, 60_000);
const sql = <R extends object>(text: string, values: unknown[] = []): Promise<R[]> =>
  withDb(school.pool, true, (db) => rows<R>(db, text, values));
beforeEach(async () => {
  school = await renewItem(school);
  await sql("update grade_column set removed_at = now() where course_id = $1 and role <> 'work'", [school.courseId]);
  const add = async (itemId: string | null, role: string, title: string | null, possible: number): Promise<string> => {
    const [made] = await sql<{ id: string }>(
      `insert into grade_column (course_id, item_id, role, title, possible, category_id)
       select $1, $2, $3, $4, $5, category_id from grade_column where id = $6 returning id`,
      [school.courseId, itemId, role, title, possible, school.columnId],
    );
    return made?.id ?? '';
  };
  alone = await add(null, 'alone', 'Bench work seen', 20);
  reviewing = await add(school.itemId, 'reviewing', null, 10);
});
afterAll(() => school.close());

const course = (): string => `/api/courses/${school.courseId}`;
const teacher = () => school.agents.instructor;
const book = async (): Promise<Gradebook> => (await teacher().get(`${course()}/gradebook`).expect(200)).body as Gradebook;
const cellOf = (b: Gradebook, columnId: string, n = 0) =>
  b.rows.find((r) => r.enrolmentId === school.students[n])?.cells[b.columns.findIndex((c) => c.id === columnId)] ?? 0;
const type = (columnId: string, raw: number, seenEventId: string | null = null) =>
  teacher()
    .put(`${course()}/gradebook/cells`)
    .send({ columnId, enrolmentId: school.students[0], state: 'scored', raw, seenEventId, isAboveConfirmed: false, reason: '' });
const working = async (): Promise<unknown> => (await teacher().get(`${course()}/gradebook/working/${school.students[0]}`).expect(200)).body;

describe('the columns of a gradebook', () => {
  it('stand in the order of the Plan, each with its own name and points, and those without an item last', async () => {
    const b = await book();
    expect(b.columns.map((c) => [c.id, c.itemId, c.role, c.title, c.possible])).toEqual([
      [school.columnId, school.itemId, 'work', 'Report', 60_000],
      [reviewing, school.itemId, 'reviewing', 'Report: reviewing', 10_000],
      [alone, null, 'alone', 'Bench work seen', 20_000],
    ]);
  });

  it('are summed each by its own points, and are named in the working', async () => {
    await finishScore(school, school.students[0], 30_000);
    await type(reviewing, 9000).expect(200);
    await type(alone, 15_000).expect(200);
    const b = await book();
    // 30 of 60, 9 of 10 and 15 of 20 in one category: 54 of 90.
    expect(b.rows.find((r) => r.enrolmentId === school.students[0])?.totals.soFar).toBe('60.0');
    const told = JSON.stringify(await working());
    for (const words of ['Report', 'Report: reviewing', 'Bench work seen']) expect(told).toContain(words);
  });
});

describe('a column without an item', () => {
  it('is typed into, told at once, kept in its history and undone', async () => {
    const first = (await type(alone, 12_000).expect(200)).body as { eventId: string };
    await type(alone, 14_000, first.eventId).expect(200);
    const own = (await school.agents.student.get(`${course()}/own/grades`).expect(200)).body;
    expect(JSON.stringify(own)).toContain('Bench work seen');
    const history = (await teacher().get(`${course()}/gradebook/history/${alone}/${school.students[0]}`).expect(200)).body;
    expect(history.map((h: { what: string }) => h.what)).toEqual(['12 → 14', '12']);
    const undone = await teacher().post(`${course()}/gradebook/undo`).send({ eventId: history[0].eventId }).expect(200);
    expect(cellOf(await book(), alone)).toMatchObject({ 1: '12', 4: undone.body.eventId });
  });

  it('is missing for nobody, asks before more than its points, and refuses another course’s', async () => {
    school.clock.at += 90 * 86_400_000;
    const b = await book();
    expect(cellOf(b, alone)).toBe(0);
    expect(cellOf(b, reviewing)).toBe(0);
    expect((await type(alone, 21_000)).body).toMatchObject({ type: 'urn:rosemary:confirm', title: 'Please confirm' });
    await school.agents.outsider
      .put(`/api/courses/${school.otherCourseId}/gradebook/cells`)
      .send({
        columnId: alone,
        enrolmentId: school.students[0],
        state: 'scored',
        raw: 1,
        seenEventId: null,
        isAboveConfirmed: false,
        reason: '',
      })
      .expect(404);
  });

  it('is in no stack of marking, and no work of it is asked for', async () => {
    const { body } = await teacher().get(`${course()}/marking`).expect(200);
    expect(body.items.map((i: { id: string }) => i.id)).toEqual([school.itemId]);
    const report = await teacher().get(`${course()}/progress`).expect(200);
    expect(report.body.works.map((w: { title: string }) => w.title)).toContain('Bench work seen');
    expect(JSON.stringify(report.body.items)).not.toContain('Bench work seen');
  });

  it('keeps its category from being removed', async () => {
    const { weightsSum, totals, columns, ...policy } = (await teacher().get(`${course()}/policy`).expect(200)).body;
    void [weightsSum, totals, columns];
    const [own] = await sql<{ id: string }>('select category_id as id from grade_column where id = $1', [alone]);
    const title = policy.categories.find((c: { id: string }) => c.id === own?.id)?.title;
    await sql('update item set removed_at = now() where id = $1', [school.itemId]);
    const refused = await teacher()
      .put(`${course()}/policy`)
      .send({ ...policy, categories: policy.categories.filter((c: { id: string }) => c.id !== own?.id) });
    expect([refused.status, refused.body.detail]).toEqual([422, `“${title}” still holds 1 column. Say where it goes.`]);
  });
});

describe('a column for reviewing', () => {
  it('goes with its item where that is duplicated or deleted', async () => {
    const { body } = await teacher()
      .post(`${course()}/items/duplicates`)
      .send({ itemIds: [school.itemId] })
      .expect(200);
    const copies = await sql<{ role: string; possible: string }>(
      'select role, possible from grade_column where item_id = $1 order by role',
      [body.made[0]],
    );
    expect(copies).toEqual([
      { role: 'reviewing', possible: '10.000' },
      { role: 'work', possible: '60.000' },
    ]);
    const { item } = (await teacher().get(`${course()}/items/${school.itemId}`).expect(200)).body;
    await sql('update item set removed_at = now() where id = $1', [item.id]);
    expect((await book()).columns.map((c) => c.id)).toEqual([alone]);
  });

  it('leaves the marks and releases of the work alone', async () => {
    await finishScore(school, school.students[0], 30_000);
    await type(reviewing, 9000).expect(200);
    const grades = await sql<{ column_id: string; raw: string }>(
      'select column_id, raw from grade where enrolment_id = $1 and column_id = any($2) order by raw',
      [school.students[0], [school.columnId, reviewing, alone]],
    );
    expect(grades).toEqual([
      { column_id: reviewing, raw: '9.000' },
      { column_id: school.columnId, raw: '30.000' },
    ]);
  });
});

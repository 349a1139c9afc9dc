import type { BlockChange, Gradebook } from '@rosemary/api';
import { rows, withDb } from '../src/index.ts';
import { makeSchool, type TestSchool } from './school.ts';

/** Cells written together: pasted, filled or imported as one act, and taken back as one. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('block');
}, 60_000);
afterAll(() => school.close());

const base = (): string => `/api/courses/${school.courseId}/gradebook`;
const read = async (): Promise<Gradebook> => (await school.agents.instructor.get(base()).expect(200)).body as Gradebook;
const textOf = async (student: string): Promise<string> => {
  const book = await read();
  const cell = book.rows.find((r) => r.enrolmentId === student)?.cells[book.columns.findIndex((c) => c.id === school.columnId)];
  return cell === undefined || cell === 0 ? '' : `${cell[0]} ${cell[1]}`;
};
const eventOf = async (student: string): Promise<string | null> => {
  const book = await read();
  const cell = book.rows.find((r) => r.enrolmentId === student)?.cells[book.columns.findIndex((c) => c.id === school.columnId)];
  return cell === undefined || cell === 0 ? null : cell[4];
};
const block = (cells: BlockChange['cells'], more: Partial<BlockChange> = {}): BlockChange => ({
  how: 'paste',
  enrolmentIds: [...school.students],
  columnIds: [school.columnId],
  cells,
  isAboveConfirmed: false,
  reason: '',
  ...more,
});
const put = (change: object, headers: Record<string, string> = {}) =>
  school.agents.instructor.put(`${base()}/block`).set(headers).send(change);

describe('a block of cells', () => {
  it('shows what it would do to the totals and writes nothing for that', async () => {
    const shown = await put(
      block([
        [0, 0, 30_000, null],
        [1, 0, 45_000, null],
      ]),
      { 'x-ripple': 'show' },
    ).expect(200);
    expect(shown.body.sentence).toBeDefined();
    expect(shown.body.rows.map((r: { after: string }) => r.after).sort()).toEqual(['50.0', '75.0']);
    expect(await textOf(school.students[0])).toBe('');
  });

  it('is one act in the ledger, and one undo takes all of it back', async () => {
    const saved = await put(
      block([
        [0, 0, 30_000, null],
        [1, 0, 'exempt', null],
      ]),
    ).expect(200);
    expect(saved.body.changed).toBe(2);
    expect([await textOf(school.students[0]), await textOf(school.students[1])]).toEqual(['marked 30', 'exempt ']);
    const events = await withDb(school.pool, false, (db) =>
      rows<{ act: string; source: string }>(db, 'select act, source from grade_event'),
    );
    expect(events).toEqual([
      { act: saved.body.act, source: 'paste' },
      { act: saved.body.act, source: 'paste' },
    ]);
    const undone = await school.agents.instructor.post(`${base()}/block/undo`).send({ act: saved.body.act }).expect(200);
    expect(undone.body).toMatchObject({ changed: 2, left: 0 });
    expect([await textOf(school.students[0]), await textOf(school.students[1])]).toEqual(['none ', 'none ']);
    // Taking the undoing back does it again.
    await school.agents.instructor.post(`${base()}/block/undo`).send({ act: undone.body.act }).expect(200);
    expect([await textOf(school.students[0]), await textOf(school.students[1])]).toEqual(['marked 30', 'exempt ']);
  });

  it('leaves a cell alone in its undo that somebody changed later, and says so', async () => {
    const seen = [await eventOf(school.students[0]), await eventOf(school.students[1])] as const;
    const saved = await put(
      block([
        [0, 0, 40_000, seen[0]],
        [1, 0, 41_000, seen[1]],
      ]),
    ).expect(200);
    const own = {
      columnId: school.columnId,
      enrolmentId: school.students[0],
      state: 'scored',
      raw: 42_000,
      isAboveConfirmed: false,
      reason: '',
    };
    await school.agents.instructor
      .put(`${base()}/cells`)
      .send({ ...own, seenEventId: await eventOf(school.students[0]) })
      .expect(200);
    const undone = await school.agents.instructor.post(`${base()}/block/undo`).send({ act: saved.body.act }).expect(200);
    expect(undone.body).toMatchObject({ changed: 1, left: 1 });
    expect([await textOf(school.students[0]), await textOf(school.students[1])]).toEqual(['marked 42', 'exempt ']);
  });

  it('writes none where one cannot be, and names each that cannot with its reason', async () => {
    const seen = await eventOf(school.students[1]);
    const refused = await put(
      block([
        [0, 0, 10_000, null],
        [1, 0, 61_000, seen],
      ]),
    ).expect(422);
    expect(refused.body.pointers.map((p: { field: string }) => p.field)).toEqual(['cells.0', 'cells.1']);
    expect(refused.body.pointers[0].text).toMatch(/was changed meanwhile: it now holds 42\./);
    expect(refused.body.pointers[1].text).toMatch(/61 for .* is more than the 60 points of “Report”\./);
    expect(await textOf(school.students[1])).toBe('exempt ');
    // What stands there already is no change, whatever was seen there.
    expect((await put(block([[0, 0, 42_000, null]])).expect(200)).body.changed).toBe(0);
    await put(block([[1, 0, 61_000, seen]], { isAboveConfirmed: true })).expect(200);
    expect(await textOf(school.students[1])).toBe('marked 61');
  });

  it('refuses a score for somebody the item is not for', async () => {
    const { body: item } = await school.agents.instructor.get(`/api/courses/${school.courseId}/items/${school.itemId}`).expect(200);
    const change = { version: item.item.version, audience: [{ sectionId: school.sections[1], enrolmentId: null }] };
    await school.agents.instructor.patch(`/api/courses/${school.courseId}/items/${school.itemId}`).send(change).expect(200);
    expect(await textOf(school.students[0])).toBe('outside ');
    const refused = await put(block([[0, 0, 1000, await eventOf(school.students[0])]])).expect(422);
    expect(refused.body.pointers[0].text).toMatch(/^“Report” is not for /);
  });

  it.each([
    ['nothing', []],
    ['a score below zero', [[0, 0, -1, null]]],
    ['a word', [[0, 0, 'late', null]]],
    ['a student who is not in the list', [[7, 0, 1000, null]]],
    [
      'a cell twice',
      [
        [0, 0, 1000, null],
        [0, 0, 2000, null],
      ],
    ],
  ])('refuses %s', async (_, cells) => {
    const answer = await put(block(cells as never));
    expect([404, 422]).toContain(answer.status);
    expect(answer.body.detail).not.toBe('');
  });

  it('is for nobody but those who write grades', async () => {
    for (const who of ['student', 'assistant', 'outsider'] as const) {
      const answer = await school.agents[who].put(`${base()}/block`).send(block([[0, 0, 1000, null]]));
      expect([403, 404]).toContain(answer.status);
      expect([403, 404]).toContain((await school.agents[who].post(`${base()}/block/undo`).send({ act: school.columnId })).status);
    }
    await school.agents.instructor.post(`${base()}/block/undo`).send({ act: school.columnId }).expect(404);
  });
});

import type { BookDifferences, Gradebook, PolicyChange } from '@rosemary/api';
import { rows, withDb } from '../src/index.ts';
import { PAST_TABLES } from '../src/gradebook/asOf.ts';
import { makeSchool, type TestSchool } from './school.ts';

/** The gradebook as it stood on any day, and what differs between two. */
let school: TestSchool;
const HOUR = 3_600_000;
let first: number;
beforeAll(async () => {
  school = await makeSchool('past');
  // The school was laid out by the clock of the database: what follows is after it.
  first = Date.now() + 24 * HOUR;
  school.clock.at = first;
}, 60_000);
afterAll(() => school.close());

const base = (): string => `/api/courses/${school.courseId}`;
const book = async (asOf?: number): Promise<Gradebook> =>
  (
    await school.agents.instructor
      .get(`${base()}/gradebook${asOf === undefined ? '' : `?asOf=${encodeURIComponent(new Date(asOf).toISOString())}`}`)
      .expect(200)
  ).body as Gradebook;
const rowOf = (read: Gradebook, n: 0 | 1) => read.rows.find((r) => r.enrolmentId === school.students[n]);
const soFar = async (n: 0 | 1, asOf?: number) => rowOf(await book(asOf), n)?.totals.soFar ?? null;
const later = (hours: number): number => (school.clock.at = first + hours * HOUR);
const type = async (n: 0 | 1, raw: number) => {
  const read = await book();
  const cell = rowOf(read, n)?.cells[read.columns.findIndex((c) => c.id === school.columnId)];
  const seenEventId = cell === 0 || cell === undefined ? null : cell[4];
  const change = {
    columnId: school.columnId,
    enrolmentId: school.students[n],
    state: 'scored',
    raw,
    seenEventId,
    isAboveConfirmed: false,
    reason: '',
  };
  await school.agents.instructor.put(`${base()}/gradebook/cells`).send(change).expect(200);
};
const policy = async (): Promise<PolicyChange> => {
  const { weightsSum, totals, columns, ...change } = (await school.agents.instructor.get(`${base()}/policy`).expect(200)).body;
  void [weightsSum, totals, columns];
  return change as PolicyChange;
};
const planItem = async () =>
  (await school.agents.instructor.get(`${base()}/items/${school.itemId}`).expect(200)).body.item as { version: number; possible: number };

describe('the past of a gradebook', () => {
  it('is kept by a trigger of every table that is named for it, and by no other', async () => {
    const found = await withDb(school.pool, false, (db) =>
      rows<{ name: string; args: string }>(
        db,
        `select tgrelid::regclass::text as name, encode(tgargs, 'escape') as args from pg_trigger where tgname = 'A_keeps_past' order by 1`,
      ),
    );
    expect(found.map((f) => f.name)).toEqual(Object.keys(PAST_TABLES).sort());
  });

  it('shows marks, points, policy and dates as they stood at each instant, and the present as it is', async () => {
    later(0);
    await type(0, 30_000);
    later(1);
    await type(0, 45_000);
    later(2);
    const item = await planItem();
    await school.agents.instructor.patch(`${base()}/items/${school.itemId}`).send({ version: item.version, possible: 90_000 }).expect(200);
    later(3);
    const now = await policy();
    await school.agents.instructor
      .put(`${base()}/policy`)
      .send({
        ...now,
        decimals: 0,
        levels: now.levels
          .map((l) => (l.label === 'A' ? { ...l, cutPoint: 49_000 } : l))
          .filter((l) => l.label === 'A' || l.cutPoint === 0),
      })
      .expect(200);
    later(4);
    expect([await soFar(0), rowOf(await book(), 0)?.totals.letter]).toEqual(['50', 'A']);
    const at = async (hours: number) => {
      const { soFar: total, letter } = rowOf(await book(first + hours * HOUR), 0)!.totals;
      return `${total} ${letter}`;
    };
    // Nothing was given yet, and it was due: missing counts as zero.
    expect(await at(-1)).toBe('0.0 F');
    expect(await at(0.5)).toBe('50.0 D');
    expect(await at(1.5)).toBe('75.0 B');
    expect(await at(2.5)).toBe('50.0 D');
    expect(await at(3.5)).toBe('50 A');
    expect((await book(first + 1.5 * HOUR)).columns.find((c) => c.id === school.columnId)?.possible).toBe(60_000);
    expect((await book(first + 1.5 * HOUR)).asOf).toEqual({ at: new Date(first + 1.5 * HOUR).toISOString(), knownSince: null });
    expect((await book()).asOf).toBeNull();
    // Looking back has changed nothing.
    expect(await soFar(0)).toBe('50');
  });

  it('opens the working of a number of the past', async () => {
    const at = encodeURIComponent(new Date(first + 0.5 * HOUR).toISOString());
    const working = (
      await school.agents.instructor.get(`${base()}/gradebook/working/${school.students[0]}?of=soFar&asOf=${at}`).expect(200)
    ).body;
    expect(working.title).toBe('Total so far: 50.0 %, D');
    expect(JSON.stringify(working.lines)).toContain('30 / 60');
  });

  it('knows whom something was for, and who was in the course', async () => {
    later(5);
    const { version } = await planItem();
    await school.agents.instructor
      .patch(`${base()}/items/${school.itemId}`)
      .send({ version, audience: [{ sectionId: school.sections[1], enrolmentId: null }] })
      .expect(200);
    later(6);
    const state = async (asOf?: number) => {
      const read = await book(asOf);
      const cell = rowOf(read, 0)?.cells[read.columns.findIndex((c) => c.id === school.columnId)];
      return cell === 0 || cell === undefined ? null : cell[0];
    };
    expect([await state(), await state(first + 4.5 * HOUR)]).toEqual(['outside', 'marked']);
    await withDb(
      school.pool,
      true,
      (db) =>
        db.query('update enrolment set withdrawn_at = to_timestamp($1 / 1000.0) where id = $2', [school.clock.at, school.students[1]]),
      school.clock.at,
    );
    later(7);
    expect([rowOf(await book(), 1) === undefined, rowOf(await book(first + 5.5 * HOUR), 1) === undefined]).toEqual([true, false]);
    await withDb(
      school.pool,
      true,
      (db) => db.query('update enrolment set withdrawn_at = null where id = $1', [school.students[1]]),
      school.clock.at,
    );
    const back = await planItem();
    await school.agents.instructor.patch(`${base()}/items/${school.itemId}`).send({ version: back.version, audience: [] }).expect(200);
  });

  it('lists what differs between two days: results, totals, letters, and the act behind each', async () => {
    const differences = async (from: number, to?: number): Promise<BookDifferences> => {
      const query = new URLSearchParams({
        from: new Date(from).toISOString(),
        ...(to === undefined ? {} : { to: new Date(to).toISOString() }),
      });
      return (await school.agents.instructor.get(`${base()}/gradebook/differences?${query}`).expect(200)).body as BookDifferences;
    };
    const marks = await differences(first + 0.5 * HOUR, first + 1.5 * HOUR);
    expect(marks.cells).toMatchObject([{ was: '30', is: '45', enrolmentId: school.students[0], by: { source: 'gradebook', act: null } }]);
    expect(marks.totals).toMatchObject([{ before: '50.0', after: '75.0', letterBefore: 'D', letterAfter: 'B' }]);
    const whole = await differences(first + 1.5 * HOUR, first + 3.5 * HOUR);
    expect(whole.cells).toEqual([]);
    expect(whole.acts.map((a) => [a.what, a.subject])).toEqual([
      ['policy changed', ''],
      ['item changed', 'Report'],
    ]);
    expect(whole.totals[0]).toMatchObject({ before: '75.0', after: '50', letterBefore: 'B', letterAfter: 'A' });
    expect((await differences(first + 3.5 * HOUR, first + 3.6 * HOUR)).totals).toEqual([]);
    // From the last mark until now nothing was given.
    expect((await differences(first + 1.5 * HOUR)).cells).toEqual([]);
  });

  it.each([
    ['asOf=yesterday', 'is not a date and time'],
    ['asOf=2999-01-01T00:00:00Z', 'still to come'],
  ])('refuses %s', async (query, words) => {
    expect((await school.agents.instructor.get(`${base()}/gradebook?${query}`).expect(422)).body.detail).toContain(words);
  });

  it('refuses days in the wrong order, and shows nobody what is not theirs', async () => {
    const query = `from=${new Date(first + HOUR).toISOString()}&to=${new Date(first).toISOString()}`;
    expect((await school.agents.instructor.get(`${base()}/gradebook/differences?${query}`).expect(422)).body.detail).toContain(
      'must be after the first',
    );
    for (const who of ['student', 'outsider'] as const)
      expect([403, 404]).toContain(
        (await school.agents[who].get(`${base()}/gradebook/differences?from=${new Date(first).toISOString()}`)).status,
      );
  });

  it('leaves nothing behind on its connection: the present is read from the real tables after it', async () => {
    for (let n = 0; n < 12; n += 1) {
      expect(await soFar(0, first + 0.5 * HOUR)).toBe('50.0');
      expect(await soFar(0)).toBe('50');
    }
  });
});

import type { Gradebook, PolicyChange, RippleAnswer } from '@rosemary/api';
import { addItem, changeItem, getPlanItem, getWorkColumn, withDb } from '../src/index.ts';
import { makeSchool, type TestSchool } from './school.ts';

/** What a ripple shows is what applying does: for 200 changes drawn at random, each held against the gradebook after it. */
let school: TestSchool;
const columns: string[] = [];
const items: string[] = [];
beforeAll(async () => {
  school = await makeSchool('ripple_is_true');
  await withDb(school.pool, true, async (db) => {
    for (const title of ['One', 'Two', 'Three', 'Four']) {
      const id = await addItem(db, school.courseId, { unitId: school.unitId, kind: 'activity', title, position: 0 });
      const { version } = await getPlanItem(db, school.courseId, id, school.clock.at);
      await changeItem(db, school.courseId, id, { version, possible: 20_000, isDraft: false }, school.clock.at);
      items.push(id);
      columns.push(await getWorkColumn(db, id));
    }
  });
}, 60_000);
afterAll(() => school.close());

/** A small generator, so that a run that fails can be run again. */
function drawn(seed: number): (most: number) => number {
  let state = seed;
  return (most) => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7fffffff;
    return Math.floor((state / 0x7fffffff) * most) % most;
  };
}
const base = (): string => `/api/courses/${school.courseId}`;
const read = async (): Promise<Gradebook> => (await school.agents.instructor.get(`${base()}/gradebook`).expect(200)).body as Gradebook;
const policy = async (): Promise<PolicyChange> => {
  const { weightsSum, totals, columns: held, ...change } = (await school.agents.instructor.get(`${base()}/policy`).expect(200)).body;
  void [weightsSum, totals, held];
  return change as PolicyChange;
};

type Change = { readonly method: 'put' | 'patch'; readonly path: string; readonly body: object };
async function policyChange(draw: (most: number) => number): Promise<Change> {
  const now = await policy();
  const [first, ...rest] = now.categories;
  const categories =
    first === undefined
      ? []
      : [
          {
            ...first,
            weightPercent: 1000 * (1 + draw(100)),
            method: draw(2) === 0 ? ('points' as const) : ('share' as const),
            dropLowest: draw(3),
            keepBest: draw(3) === 0 ? 1 + draw(3) : 0,
            isCapped: draw(2) === 0,
            declaredItems: draw(3) === 0 ? draw(9) : 0,
            declaredPoints: draw(3) === 0 ? draw(200_000) : 0,
            declaredIn: now.periods.flatMap(({ id }) =>
              id === null || draw(2) === 0 ? [] : [{ periodId: id, items: draw(5), points: draw(90_000) }],
            ),
          },
          ...rest,
        ];
  const body = {
    ...now,
    categories,
    decimals: draw(3),
    isMissingZero: draw(2) === 0,
    isRenormalised: draw(2) === 0,
    total: (['weights', 'points', 'share'] as const)[draw(3)],
    periods:
      draw(4) !== 0
        ? now.periods
        : now.periods.length > 0
          ? []
          : ['One', 'Two'].map((title, n) => ({
              id: null,
              title,
              weightPercent: 1000 * (1 + draw(9)),
              startsOn: `2026-1${n}-01`,
              endsOn: `2026-1${n}-28`,
            })),
  };
  return { method: 'put', path: `${base()}/policy`, body };
}
async function itemChange(draw: (most: number) => number): Promise<Change> {
  const itemId = items[draw(items.length)] ?? '';
  const { item } = (await school.agents.instructor.get(`${base()}/items/${itemId}`).expect(200)).body;
  const categories = (await policy()).categories.map((c) => c.id);
  const body = {
    version: item.version,
    possible: 1000 * (1 + draw(60)),
    multiplier: 500 * (1 + draw(4)),
    isExtraCredit: draw(5) === 0,
    categoryId: draw(4) === 0 ? null : (categories[draw(categories.length)] ?? null),
  };
  return { method: 'patch', path: `${base()}/items/${itemId}`, body };
}
function curveChange(draw: (most: number) => number): Change {
  const kind = (['add', 'scale', 'root', null] as const)[draw(4)] ?? null;
  const curve = kind === null ? null : { kind, amount: kind === 'root' ? null : 1000 * (1 + draw(10)), isCapped: draw(2) === 0 };
  return { method: 'put', path: `${base()}/gradebook/columns/${columns[draw(columns.length)]}/curve`, body: { curve } };
}
async function blockChange(draw: (most: number) => number): Promise<Change> {
  const book = await read();
  const cells = school.students.flatMap((student, s) =>
    columns.flatMap((column, c) => {
      if (draw(3) === 0) return [];
      const cell = book.rows.find((r) => r.enrolmentId === student)?.cells[book.columns.findIndex((one) => one.id === column)];
      const given = draw(6) === 0 ? 'exempt' : draw(8) === 0 ? null : draw(30_000);
      return [[s, c, given, cell === 0 || cell === undefined ? null : cell[4]]];
    }),
  );
  const body = { how: 'paste', enrolmentIds: [...school.students], columnIds: columns, isAboveConfirmed: true, reason: '' };
  return { method: 'put', path: `${base()}/gradebook/block`, body: { ...body, cells: cells.length === 0 ? [[0, 0, 1000, null]] : cells } };
}

describe('the ripple of a change', () => {
  it('is what applying it does, for 200 changes of policy, items, curves and results', async () => {
    const draw = drawn(20_261_201);
    let applied = 0;
    let moving = 0;
    for (let n = 0; n < 200; n += 1) {
      const { method, path, body } = await [policyChange, itemChange, curveChange, blockChange][draw(4)]!(draw);
      const send = (headers: Record<string, string> = {}) => school.agents.instructor[method](path).set(headers).send(body);
      const shown = await send({ 'x-ripple': 'show' });
      const done = await send();
      // What is refused is refused in both, with the same words.
      expect([n, done.status, done.status === 200 ? '' : done.body.detail]).toEqual([
        n,
        shown.status,
        shown.status === 200 ? '' : shown.body.detail,
      ]);
      if (done.status !== 200) continue;
      applied += 1;
      const after = await read();
      for (const row of (shown.body as RippleAnswer).rows) {
        const stands = after.rows.find((r) => r.enrolmentId === row.id)?.totals;
        if (row.move !== 'stays') moving += 1;
        expect([n, row.after, row.letterAfter]).toEqual([n, stands?.soFar, stands?.letter]);
        if (row.floor !== null) expect([n, row.floor.after]).toEqual([n, stands?.floor]);
        if (row.reach !== null) expect([n, row.reach.after]).toEqual([n, stands?.reach]);
      }
    }
    expect(applied).toBeGreaterThan(150);
    expect(moving).toBeGreaterThan(100);
  }, 120_000);
});

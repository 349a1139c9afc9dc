import type { ColumnView, Gradebook, NewColumn, PolicyChange } from '@rosemary/api';
import { finishScore, makeSchool, type TestSchool } from './school.ts';

/** Columns made in the gradebook, curves on them, words on their cells. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('grade_columns');
  await finishScore(school, school.students[0], 30_000);
}, 60_000);
afterAll(() => school.close());

const course = (): string => `/api/courses/${school.courseId}`;
const book = async (who: 'instructor' | 'assistant' = 'instructor'): Promise<Gradebook> =>
  (await school.agents[who].get(`${course()}/gradebook`).expect(200)).body as Gradebook;
const cellOf = async (columnId: string, student: string): Promise<readonly unknown[]> => {
  const read = await book();
  const cell = read.rows.find((r) => r.enrolmentId === student)?.cells[read.columns.findIndex((c) => c.id === columnId)];
  return cell === 0 || cell === undefined ? [] : cell;
};
const soFar = async (student: string): Promise<string | null | undefined> =>
  (await book()).rows.find((r) => r.enrolmentId === student)?.totals.soFar;
const wish = (more: Partial<NewColumn> = {}): NewColumn => ({
  title: 'Bench talk',
  possible: 10_000,
  categoryId: null,
  newCategory: null,
  dueAt: null,
  audience: [],
  isToldAtOnce: true,
  showsStatistics: false,
  isExtraCredit: false,
  multiplier: 1000,
  periodId: null,
  studentReads: 'points',
  ownLevels: null,
  ...more,
});
const add = (more: Partial<NewColumn> = {}) => school.agents.instructor.post(`${course()}/gradebook/columns`).send(wish(more));
const columnOf = async (itemId: string) => (await book()).columns.find((c) => c.itemId === itemId);
const type = (columnId: string, enrolmentId: string, raw: number) =>
  school.agents.instructor
    .put(`${course()}/gradebook/cells`)
    .send({ columnId, enrolmentId, state: 'scored', raw, seenEventId: null, isAboveConfirmed: false, reason: '' });

describe('a column made in the gradebook', () => {
  it('stands there at once, with a new category, and is told at once', async () => {
    const { itemId } = (await add({ newCategory: 'Practice', multiplier: 2000 }).expect(200)).body as { itemId: string };
    const column = await columnOf(itemId);
    expect(column).toMatchObject({
      title: 'Bench talk',
      possible: 10_000,
      isAlone: true,
      kind: 'activity',
      multiplier: 2000,
      counts: true,
    });
    expect((await book()).categories.map((c) => [c.title, c.weightPercent]).at(-1)).toEqual(['Practice', 0]);
    await type(column?.id ?? '', school.students[0], 8000).expect(200);
    expect((await cellOf(column?.id ?? '', school.students[0])).slice(0, 3)).toEqual(['marked', '8', 1]);
    expect(JSON.stringify((await school.agents.student.get(`${course()}/own/grades`).expect(200)).body)).toContain('Bench talk');
    // It stands in no unit of the Plan.
    const plan = (await school.agents.instructor.get(`${course()}/plan`).expect(200)).body;
    expect(JSON.stringify(plan.units)).not.toContain(itemId);
    // It is opened like any other item.
    expect((await school.agents.instructor.get(`${course()}/items/${itemId}`).expect(200)).body.item.title).toBe('Bench talk');
  });

  it('takes no score for those it is not for, and keeps its results back where it is told to', async () => {
    const only = [{ sectionId: school.sections[1], enrolmentId: null }];
    const { itemId } = (await add({ title: 'Extra talk', audience: only, isToldAtOnce: false }).expect(200)).body as { itemId: string };
    const column = await columnOf(itemId);
    expect((await cellOf(column?.id ?? '', school.students[0]))[0]).toBe('outside');
    expect((await type(column?.id ?? '', school.students[0], 5000)).status).toBe(422);
    // Nor is anything of it told to those it is not for.
    expect(JSON.stringify((await school.agents.student.get(`${course()}/own/grades`).expect(200)).body)).not.toContain('Extra talk');
    await type(column?.id ?? '', school.students[1], 5000).expect(200);
    expect((await cellOf(column?.id ?? '', school.students[1])).slice(0, 3)).toEqual(['marked', '5', 0]);
  });

  it('becomes an item of the Plan, also one to hand in, and keeps its results', async () => {
    const { itemId } = (await add({ title: 'Practical' }).expect(200)).body as { itemId: string };
    const column = await columnOf(itemId);
    await type(column?.id ?? '', school.students[0], 9000).expect(200);
    const place = (body: object) => school.agents.instructor.post(`${course()}/gradebook/columns/${itemId}/place`).send(body);
    expect((await place({ unitId: school.columnId, isHandedIn: false })).status).toBe(422);
    await place({ unitId: school.unitId, isHandedIn: true }).expect(200);
    expect(await columnOf(itemId)).toMatchObject({ isAlone: false, kind: 'assignment', id: column?.id });
    expect((await cellOf(column?.id ?? '', school.students[0])).slice(0, 2)).toEqual(['marked', '9']);
    expect((await place({ unitId: school.unitId, isHandedIn: false })).status).toBe(404);
    const plan = (await school.agents.instructor.get(`${course()}/plan`).expect(200)).body;
    expect(JSON.stringify(plan.units)).toContain(itemId);
  });

  it.each([
    [{ title: '' }, 'Title'],
    [{ title: 'Bench talk' }, 'already'],
    [{ title: 'X', possible: -1 }, 'Points'],
    [{ title: 'X', multiplier: 100_001 }, 'Multiplier'],
    [{ title: 'X', categoryId: '00000000-0000-4000-8000-000000000001' }, 'category'],
  ])('is refused with what to mend: %j', async (more, words) => {
    const answer = await add(more).expect(422);
    expect(answer.body.detail).toContain(words);
    expect((await book()).columns.some((c) => c.title === 'X')).toBe(false);
  });

  it('is made by nobody but those who build the course', async () => {
    for (const who of ['student', 'assistant', 'outsider'] as const)
      expect([403, 404]).toContain((await school.agents[who].post(`${course()}/gradebook/columns`).send(wish({ title: 'Y' }))).status);
  });
});

describe('a curve', () => {
  const set = (curve: object | null, headers: Record<string, string> = {}) =>
    school.agents.instructor.put(`${course()}/gradebook/columns/${school.columnId}/curve`).set(headers).send({ curve });
  const view = async (): Promise<ColumnView> =>
    (await school.agents.instructor.get(`${course()}/gradebook/columns/${school.columnId}`).expect(200)).body as ColumnView;

  it('shows whom it moves, changes what becomes of a mark and not the mark, and is taken back', async () => {
    const before = await soFar(school.students[0]);
    const ripple = await set({ kind: 'add', amount: 6000, isCapped: true }, { 'x-ripple': 'show' }).expect(200);
    expect(ripple.body.rise).toBe(1);
    expect(await soFar(school.students[0])).toBe(before);
    const done = await set({ kind: 'add', amount: 6000, isCapped: true }).expect(200);
    expect(done.body).toEqual({ before: { curve: null } });
    const cell = await cellOf(school.columnId, school.students[0]);
    expect([cell[1], cell[6]]).toEqual(['36', 30_000]);
    const working = (await school.agents.instructor.get(`${course()}/gradebook/working/${school.students[0]}?of=column:${school.columnId}`))
      .body;
    expect(JSON.stringify(working.lines)).toContain('curve: 6 points added, at most full marks');
    expect(await view()).toMatchObject({
      curve: { kind: 'add', amount: 6000 },
      marks: [30_000],
      curveWords: '6 points added, at most full marks',
    });
    await set(done.body.before.curve).expect(200);
    expect(await soFar(school.students[0])).toBe(before);
  });

  it('sets the mean from the marks there are, and a later mark moves nobody by it', async () => {
    await set({ kind: 'mean', amount: 45_000, isCapped: false }).expect(200);
    expect((await cellOf(school.columnId, school.students[0]))[1]).toBe('45');
    await type(school.columnId, school.students[1], 20_000).expect(200);
    expect((await cellOf(school.columnId, school.students[0]))[1]).toBe('45');
    expect((await cellOf(school.columnId, school.students[1]))[1]).toBe('35');
    await set(null).expect(200);
  });

  it.each([
    [{ kind: 'scale', amount: 0, isCapped: true }, 'cannot be 0'],
    [{ kind: 'mean', amount: 70_000, isCapped: true }, 'above the 60 points'],
    [{ kind: 'bend', amount: 1, isCapped: true }, 'choices'],
    [{ kind: 'add', amount: -5, isCapped: true }, 'at least 0'],
  ])('that cannot be is refused: %j', async (curve, words) => {
    expect((await set(curve).expect(422)).body.detail).toContain(words);
    expect((await view()).curve).toBeNull();
  });

  it('is set by nobody but those who make the policy', async () => {
    for (const who of ['student', 'assistant', 'outsider'] as const)
      expect([403, 404]).toContain(
        (await school.agents[who].put(`${course()}/gradebook/columns/${school.columnId}/curve`).send({ curve: null })).status,
      );
  });
});

describe('words on a cell', () => {
  const path = (): string => `${course()}/gradebook/words/${school.columnId}/${school.students[0]}`;
  it('are kept with their version, and shown beside those of somebody else who wrote meanwhile', async () => {
    expect((await school.agents.instructor.get(path()).expect(200)).body).toEqual({ memo: '', comment: '', version: 0 });
    await school.agents.instructor.put(path()).send({ memo: 'Talked on the phone', comment: 'Come and see me', version: 0 }).expect(200);
    const saved = (await school.agents.instructor.get(path()).expect(200)).body;
    expect(saved).toEqual({ memo: 'Talked on the phone', comment: 'Come and see me', version: 1 });
    const conflict = await school.agents.instructor.put(path()).send({ memo: 'x', comment: '', version: 0 }).expect(409);
    expect(conflict.body.current).toEqual(saved);
    await school.agents.instructor
      .put(path())
      .send({ ...saved, memo: '' })
      .expect(200);
  });
  it('are neither read nor written by students, and refused where they are too long', async () => {
    for (const who of ['student', 'outsider'] as const) expect([403, 404]).toContain((await school.agents[who].get(path())).status);
    const long = { memo: 'x'.repeat(2001), comment: '', version: 2 };
    expect((await school.agents.instructor.put(path()).send(long).expect(422)).body.detail).toContain('Memo is too long');
  });
});

describe('grading periods', () => {
  const read = async (): Promise<PolicyChange> => {
    const { weightsSum, totals, columns, ...policy } = (await school.agents.instructor.get(`${course()}/policy`).expect(200)).body;
    void [weightsSum, totals, columns];
    return policy as PolicyChange;
  };
  const put = (change: object) => school.agents.instructor.put(`${course()}/policy`).send(change);
  const period = (title: string, startsOn: string | null, endsOn: string | null, weightPercent = 50_000) => ({
    id: null,
    title,
    weightPercent,
    startsOn,
    endsOn,
  });

  it('give each its own subtotals and total, and every number opens', async () => {
    const before = await read();
    const periods = [period('First half', '2026-10-01', '2026-10-31', 40_000), period('Second half', '2026-11-01', '2026-12-20', 60_000)];
    await put({ ...before, periods }).expect(200);
    const made = await book();
    expect(made.periods.map((p) => p.title)).toEqual(['First half', 'Second half']);
    expect(made.parts.map((p) => p.title)).toContain('Second half: Assignments');
    const row = made.rows.find((r) => r.enrolmentId === school.students[0]);
    expect([row?.subtotals.length, row?.periods.length]).toEqual([made.parts.length, 2]);
    const working = async (of: string) =>
      (await school.agents.instructor.get(`${course()}/gradebook/working/${school.students[0]}?of=${of}`).expect(200)).body;
    for (const p of made.periods) expect((await working(`period:${p.id}`)).title).toContain(p.title);
    const part = made.parts[0];
    expect((await working(`category:${part?.categoryId}:${part?.periodId}`)).title).toContain('First half: ');
    // A column goes into a period by hand, and taking the change back moves it back.
    const now = await read();
    const second = now.periods[1]?.id ?? null;
    const column = made.columns.find((c) => c.id === school.columnId);
    const moved = await put({
      ...now,
      moves: [{ columnId: school.columnId, categoryId: column?.categoryId ?? null, periodId: second }],
    }).expect(200);
    expect((await book()).columns.find((c) => c.id === school.columnId)?.periodId).toBe(second);
    await put({ ...moved.body.before, version: moved.body.after.version }).expect(200);
    expect((await book()).columns.find((c) => c.id === school.columnId)?.periodId).toBe(column?.periodId);
    await put({ ...before, version: (await read()).version }).expect(200);
    expect((await book()).periods).toEqual([]);
  });

  it.each([
    [
      'overlap',
      [period('A', '2026-10-01', '2026-10-31'), period('B', '2026-10-31', '2026-11-30')],
      '“B” begins on 2026-10-31, while “A” still goes on',
    ],
    ['end before they begin', [period('A', '2026-10-31', '2026-10-01')], 'before it begins'],
    ['have one name', [period('A', null, null), period('a', null, null)], 'Two grading periods are called'],
    ['have one day only', [period('A', '2026-10-01', null)], 'both its first and its last day'],
    ['have a weight below zero', [period('A', null, null, -1)], 'at least 0'],
  ])('that %s are refused', async (_, periods, words) => {
    expect((await put({ ...(await read()), periods }).expect(422)).body.detail).toContain(words);
  });

  it('leave a removed category only when it is said where its columns go', async () => {
    const now = await read();
    const [first, second] = now.categories;
    const without = now.categories.filter((c) => c.id !== first?.id);
    const refused = await put({ ...now, categories: without }).expect(422);
    expect(refused.body.detail).toContain('Say where');
    const moves = (await book()).columns
      .filter((c) => c.categoryId === first?.id)
      .map((c) => ({ columnId: c.id, categoryId: second?.id ?? null, periodId: null }));
    const done = await put({ ...now, categories: without, moves }).expect(200);
    expect((await book()).columns.filter((c) => c.categoryId === second?.id).map((c) => c.id)).toEqual(
      expect.arrayContaining(moves.map((m) => m.columnId)),
    );
    await put({ ...done.body.before, version: done.body.after.version }).expect(200);
    expect((await book()).columns.find((c) => c.id === school.columnId)?.categoryId).toBe(first?.id);
  });

  it('is read by names of its own, which can be typed, and counts in the grading period that is chosen', async () => {
    const { weightsSum, totals, columns, ...policy } = (await school.agents.instructor.get(`${course()}/policy`).expect(200)).body;
    void [weightsSum, totals, columns];
    const period = (title: string) => ({ id: null, title, weightPercent: 50_000, startsOn: null, endsOn: null });
    await school.agents.instructor
      .put(`${course()}/policy`)
      .send({ ...policy, periods: [period('One'), period('Two')] })
      .expect(200);
    const { periods } = await book();
    const ownLevels = [
      { label: 'secure', cutPoint: 70_000, value: 90_000 },
      { label: 'beginning', cutPoint: 0, value: null },
    ];
    const made = (await add({ title: 'Stages', studentReads: 'letter', ownLevels, periodId: periods[1]?.id ?? null }).expect(200)).body;
    expect(await columnOf(made.itemId as string)).toMatchObject({ takesLetters: true, ownLevels, periodId: periods[1]?.id });
    const refused = await add({ title: 'Elsewhere', periodId: school.courseId }).expect(422);
    expect(refused.body.pointers[0].field).toBe('periodId');
    expect((await book()).columns.some((c) => c.title === 'Elsewhere')).toBe(false);
  });
});

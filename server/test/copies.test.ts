import type { CopiesMade, CopyPlace, CopyWish, Gradebook, MyGrades, Plan, PolicyChange, StudentItem } from '@rosemary/api';
import { addTerm, withDb } from '../src/index.ts';
import { finishScore, handInText, makeSchool, START, type TestSchool } from './school.ts';

/** Copies for several courses and sections in one go; how a result is read; late work by a category's policy. */
let school: TestSchool;
let target = '';
beforeAll(async () => {
  school = await makeSchool('copies');
  const termId = await withDb(school.pool, true, (db) =>
    addTerm(db, { title: 'Spring', startsOn: '2027-02-22', endsOn: '2027-05-30', meetingDays: [1, 3], holidays: [] }),
  );
  const made = await school.agents.instructor
    .post('/api/courses')
    .send({ code: 'HOR-1', run: 'b', title: 'Watches again', termId, timeZone: 'Europe/Lisbon', sections: ['Only'], outline: 'empty' })
    .expect(200);
  target = (made.body as { id: string }).id;
}, 60_000);
afterAll(() => school.close());
const teacher = () => school.agents.instructor;
const base = (): string => `/api/courses/${school.courseId}`;
const plan = async (id: string): Promise<Plan> => (await teacher().get(`/api/courses/${id}/plan`).expect(200)).body as Plan;
const items = async (id: string) => (await plan(id)).units.flatMap((u) => u.items);
const places = async (): Promise<CopyPlace[]> =>
  (
    await teacher()
      .post(`${base()}/copies/places`)
      .send({ itemIds: [school.itemId] })
      .expect(200)
  ).body as CopyPlace[];
const copy = (targets: CopyWish['targets']) =>
  teacher()
    .post(`${base()}/copies`)
    .send({ itemIds: [school.itemId], targets });
const due = (dueAt: string | null) => [{ itemId: school.itemId, dueAt }];

describe('copies in one go', () => {
  it('can go to every course one teaches and its sections, with the date of the same teaching week', async () => {
    const found = await places();
    expect(found.map((p) => [p.isHere, p.sections.length])).toEqual([
      [true, 2],
      [false, 1],
    ]);
    expect(found[0]?.dues[0]?.dueAt).toBe(new Date(START + 2 * 86_400_000).toISOString());
    // The Wednesday of teaching week 3 again, at the same time by the clock.
    expect(found[1]?.dues).toEqual([{ itemId: school.itemId, dueAt: '2027-03-10T10:00:00.000Z', note: '' }]);
  });

  it('are made for a course and for a section, each with its own dates, as drafts, and deleting them undoes it', async () => {
    const { made } = (
      await copy([
        { courseId: target, sectionId: null, dues: due('2027-03-12T10:00:00.000Z') },
        { courseId: school.courseId, sectionId: school.sections[1], dues: due('2026-10-08T09:00:00.000Z') },
      ]).expect(200)
    ).body as CopiesMade;
    expect(made.map((m) => [m.courseId, m.itemIds.length])).toEqual([
      [target, 1],
      [school.courseId, 1],
    ]);
    const there = (await items(target)).find((i) => i.id === made[0]?.itemIds[0]);
    expect(there).toMatchObject({ title: 'Report', isDraft: true, dueAt: '2027-03-12T10:00:00.000Z', possible: 60_000 });
    // It closes as long after it is due as the original does.
    expect(there?.closesAt).toBe('2027-03-15T10:00:00.000Z');
    const here = (await items(school.courseId)).find((i) => i.id === made[1]?.itemIds[0]);
    expect(here).toMatchObject({ title: 'Report (copy)', isDraft: true, dueAt: '2026-10-08T09:00:00.000Z' });
    expect(here?.audience.map((a) => a.sectionId)).toEqual([school.sections[1]]);
    for (const m of made) await teacher().post(`/api/courses/${m.courseId}/items/removals`).send({ itemIds: m.itemIds }).expect(200);
    expect(await items(target)).toEqual([]);
  });

  it('are made wholly or not at all', async () => {
    const before = (await items(school.courseId)).length;
    await copy([
      { courseId: school.courseId, sectionId: school.sections[0], dues: due(null) },
      { courseId: school.otherCourseId, sectionId: null, dues: due(null) },
    ]).expect(404);
    const refused = await copy([{ courseId: target, sectionId: school.sections[0], dues: due(null) }]).expect(422);
    expect(refused.body.detail).toContain('no longer there');
    const odd = await copy([{ courseId: target, sectionId: null, dues: [{ itemId: school.itemId, dueAt: 'soon' }] }]).expect(422);
    expect(odd.body.pointers[0].text).toContain('Due is “soon”');
    expect((await items(school.courseId)).length).toBe(before);
    expect(await items(target)).toEqual([]);
  });

  it('are an instructor’s to make', async () => {
    const body = { itemIds: [school.itemId], targets: [{ courseId: school.courseId, sectionId: school.sections[0], dues: [] }] };
    for (const who of ['assistant', 'student', 'outsider'] as const) {
      expect([403, 404]).toContain((await school.agents[who].post(`${base()}/copies`).send(body)).status);
      expect([403, 404]).toContain((await school.agents[who].post(`${base()}/copies/places`).send({ itemIds: [school.itemId] })).status);
    }
  });
});

describe('how a result is read', () => {
  const policy = async (): Promise<PolicyChange> => {
    const { weightsSum, totals, columns, ...change } = (await teacher().get(`${base()}/policy`).expect(200)).body;
    void weightsSum;
    void totals;
    void columns;
    return change as PolicyChange;
  };
  const own = async (): Promise<StudentItem> =>
    (await school.agents.student.get(`${base()}/own/items/${school.itemId}`).expect(200)).body as StudentItem;
  const set = async (change: object) => {
    const { version } = (await items(school.courseId)).find((i) => i.id === school.itemId) as { version: number };
    return teacher()
      .patch(`${base()}/items/${school.itemId}`)
      .send({ version, ...change })
      .expect(200);
  };

  it('by its student as a share or a letter, everywhere; by staff beside the points', async () => {
    await handInText(school, 'student', 'My report');
    await finishScore(school, school.students[0], 45_000);
    await teacher().post(`${base()}/marking/${school.itemId}/release`).send({ enrolmentIds: null }).expect(200);
    const levels = [
      { label: 'A', cutPoint: 90_000 },
      { label: 'B', cutPoint: 75_000 },
      { label: 'F', cutPoint: 0 },
    ];
    await teacher()
      .put(`${base()}/policy`)
      .send({ ...(await policy()), decimals: 1, levels })
      .expect(200);
    expect((await own()).returned?.reads).toBeNull();
    await set({ studentReads: 'percent', staffReads: 'letter' });
    expect((await own()).returned).toMatchObject({ scoreText: '45', reads: '75.0 %' });
    const book = (await teacher().get(`${base()}/gradebook`).expect(200)).body as Gradebook;
    const place = book.columns.findIndex((c) => c.itemId === school.itemId);
    expect(book.rows.find((r) => r.enrolmentId === school.students[0])?.cells[place]).toEqual([
      'marked',
      '45',
      1,
      0,
      expect.any(String),
      0,
      45_000,
      'B',
    ]);
    await set({ studentReads: 'letter' });
    expect((await own()).returned?.reads).toBe('B');
    const grades = (await school.agents.student.get(`${base()}/own/grades`).expect(200)).body as MyGrades;
    const line = grades.categories.flatMap((c) => c.columns).find((c) => c.itemId === school.itemId);
    // The working still says how it came about.
    expect([line?.text, JSON.stringify(line?.working)]).toEqual(['B', expect.stringContaining('45')]);
    const ownLevels = [
      { label: 'secure', cutPoint: 70_000, value: 100_000 },
      { label: 'beginning', cutPoint: 0, value: null },
    ];
    await set({ ownLevels });
    expect((await own()).returned?.reads).toBe('secure');
    const named = (await teacher().get(`${base()}/gradebook`).expect(200)).body as Gradebook;
    expect([named.rows.find((r) => r.enrolmentId === school.students[0])?.cells[place], named.columns[place]]).toMatchObject([
      { 7: 'secure' },
      { takesLetters: true, ownLevels },
    ]);
    const wrong = [{ label: 'secure', cutPoint: 70_000, value: null }, ...ownLevels.slice(0, 1)];
    const { version } = (await teacher().get(`${base()}/items/${school.itemId}`).expect(200)).body.item as { version: number };
    const twice = await teacher().patch(`${base()}/items/${school.itemId}`).send({ version, ownLevels: wrong }).expect(422);
    expect(twice.body.pointers[0]).toMatchObject({ field: 'ownLevels' });
    await set({ ownLevels: null });
    expect((await own()).returned?.reads).toBe('B');
    const refused = await teacher().patch(`${base()}/items/${school.itemId}`).send({ version: 1, studentReads: 'stars' }).expect(422);
    expect(refused.body.pointers[0].text).toContain('How students read the result is “stars”');
  });

  it('late by its category, unless the item has a rule of its own', async () => {
    school.clock.at = START + 2.5 * 86_400_000;
    await handInText(school, 'second', 'Half a day late');
    const second = { columnId: school.columnId, enrolmentId: school.students[1], state: 'scored', raw: 60_000, seenEventId: null };
    await teacher()
      .put(`${base()}/gradebook/cells`)
      .send({ ...second, isAboveConfirmed: false, reason: '' })
      .expect(200);
    const result = async (): Promise<unknown> => {
      const book = (await teacher().get(`${base()}/gradebook`).expect(200)).body as Gradebook;
      const cell = book.rows.find((r) => r.enrolmentId === school.students[1])?.cells[
        book.columns.findIndex((c) => c.itemId === school.itemId)
      ];
      return Array.isArray(cell) ? cell[1] : cell;
    };
    const late = {
      ratePercent: 10_000,
      stepMinutes: 1440,
      base: 'possible',
      capPercent: 100_000,
      floorPercent: 0,
      graceMinutes: 0,
    } as const;
    const now = await policy();
    const { categoryId } = (await items(school.courseId)).find((i) => i.id === school.itemId) as { categoryId: string };
    const before = await result();
    await teacher()
      .put(`${base()}/policy`)
      .send({ ...now, categories: now.categories.map((c) => (c.id === categoryId ? { ...c, late } : c)) })
      .expect(200);
    expect([before, await result()]).toEqual(['60', '54']);
    await set({ late: { ...late, ratePercent: 5000 } });
    expect(await result()).toBe('57');
    await set({ late: null });
    expect((await policy()).categories.find((c) => c.id === categoryId)?.late).toEqual(late);
  });
});

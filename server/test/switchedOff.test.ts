import type { BatchChange, BatchDone, CourseCheck, CourseTime, ItemChange, Plan, PlanItem } from '@rosemary/api';
import { finishScore, handInText, makeSchool, type TestSchool } from './school.ts';
import { bytesOf } from './zips.ts';

/** Items that are switched off keep everything, are seen by no student and count nowhere; on again they are what they were. */
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('off');
}, 60_000);
afterAll(() => school.close());
const teacher = () => school.agents.instructor;
const base = (): string => `/api/courses/${school.courseId}`;
const items = async (courseId = school.courseId): Promise<readonly PlanItem[]> =>
  ((await teacher().get(`/api/courses/${courseId}/plan`).expect(200)).body as Plan).units.flatMap((u) => u.items);
const itemOf = async (id: string): Promise<PlanItem> => (await items()).find((i) => i.id === id)!;
const ask = async (id: string, change: Omit<ItemChange, 'version'>) =>
  teacher()
    .patch(`${base()}/items/${id}`)
    .send({ version: (await itemOf(id)).version, ...change });
const change = async (id: string, wish: Omit<ItemChange, 'version'>): Promise<PlanItem> => {
  const done = await ask(id, wish);
  expect(done.status).toBe(200);
  return done.body as PlanItem;
};
const batch = async (changes: BatchChange['changes']): Promise<BatchDone> =>
  (await teacher().put(`${base()}/items`).send({ changes }).expect(200)).body as BatchDone;
const sees = async (id: string): Promise<number> => (await school.agents.student.get(`${base()}/own/items/${id}`)).status;
const total = async (): Promise<unknown> => (await school.agents.student.get(`${base()}/own/grades`).expect(200)).body.totals;

describe('an item that is switched off', () => {
  it('is not seen and does not count, and is what it was once it is on again: open with its marks', async () => {
    await handInText(school, 'student', 'Words.');
    await finishScore(school, school.students[0], 48);
    const before = await total();
    const off = await change(school.itemId, { isOff: true });
    expect([off.isOff, off.isDraft, off.isDraftOnceOn]).toEqual([true, true, false]);
    expect(await sees(school.itemId)).toBe(404);
    expect(await total()).not.toEqual(before);
    const on = await change(school.itemId, { isOff: false });
    expect([on.isOff, on.isDraft]).toEqual([false, false]);
    expect(await sees(school.itemId)).toBe(200);
    expect(await total()).toEqual(before);
  });

  it('comes back as the draft that it was', async () => {
    await change(school.draftId, { isOff: true });
    expect(await change(school.draftId, { isOff: false })).toMatchObject({ isOff: false, isDraft: true });
  });

  it('cannot be opened until it is on, alone or with others', async () => {
    await change(school.draftId, { isOff: true });
    const alone = await ask(school.draftId, { isDraft: false });
    expect([alone.status, alone.body.detail]).toEqual([422, '“Secret page” is switched off, so it cannot be opened. Switch it on first.']);
    const { version } = await itemOf(school.draftId);
    await teacher()
      .put(`${base()}/items`)
      .send({ changes: [{ id: school.draftId, version, isDraft: false }] })
      .expect(422);
    // Nor by hand in the database, whatever forgets it.
    await expect(school.pool.query('update item set is_draft = false where id = $1', [school.draftId])).rejects.toThrow('check');
    await change(school.draftId, { isOff: false });
  });

  it('is switched with others in one go, each back to what it was with one Undo', async () => {
    const chosen = await Promise.all([school.itemId, school.draftId].map(itemOf));
    const done = await batch(chosen.map(({ id, version }) => ({ id, version, isOff: true })));
    const state = (list: readonly PlanItem[]) => [school.itemId, school.draftId].map((id) => list.find((i) => i.id === id)!);
    expect(state(done.plan.units.flatMap((u) => u.items)).map((i) => [i.isOff, i.isDraft])).toEqual([
      [true, true],
      [true, true],
    ]);
    await batch(done.undo.changes);
    expect(state(await items()).map((i) => [i.isOff, i.isDraft])).toEqual([
      [false, false],
      [false, true],
    ]);
  });
});

describe('what is off', () => {
  beforeAll(async () => {
    for (const id of [school.itemId, school.draftId]) await change(id, { isOff: true });
  });
  afterAll(async () => {
    for (const id of [school.itemId, school.draftId]) await change(id, { isOff: false });
  });
  const minutes = async (): Promise<number> =>
    ((await teacher().get(`${base()}/time`).expect(200)).body as CourseTime).weeks.reduce((sum, w) => sum + w.studentMinutes, 0);

  it('asks for no time in any week, and is in no list of times', async () => {
    const time = (await teacher().get(`${base()}/time`).expect(200)).body as CourseTime;
    expect(time.items.map((i) => i.id)).not.toContain(school.itemId);
    const without = await minutes();
    await change(school.itemId, { isOff: false });
    expect(await minutes()).toBeGreaterThan(without);
    await change(school.itemId, { isOff: true });
  });

  it('is no draft that is to be opened with the course, and nothing to mend', async () => {
    const check = (await teacher().get(`${base()}/check`).expect(200)).body as CourseCheck;
    expect(check.drafts.map((d) => d.id)).not.toContain(school.draftId);
    expect(check.findings.filter((f) => JSON.stringify(f).includes(school.itemId))).toEqual([]);
  });

  it('is left out of the programme without being called a draft', async () => {
    const { body } = await teacher().get(`${base()}/programme`).expect(200);
    expect(JSON.stringify(body)).not.toContain('Secret page');
    expect((body as { drafts: number }).drafts).toBe(0);
  });

  it('is off in an archive, and in the course that the archive becomes; a copy is on', async () => {
    const bytes = await bytesOf(teacher().get(`${base()}/archive`).expect(200));
    const { terms } = (await teacher().get('/api/course-start').expect(200)).body as { terms: { id: string }[] };
    const wish = {
      code: 'HOR-9',
      run: 'z',
      title: 'Again',
      termId: terms[0]!.id,
      timeZone: 'Europe/Lisbon',
      sections: ['A'],
      outline: 'empty',
    };
    const { id: courseId } = (await teacher().post('/api/courses').send(wish).expect(200)).body as { id: string };
    await teacher().post(`/api/courses/${courseId}/archive`).attach('file', bytes, 'course.zip').expect(200);
    expect((await items(courseId)).map((i) => [i.title, i.isOff, i.isDraftOnceOn]).sort()).toEqual([
      ['Report', true, false],
      ['Secret page', true, true],
    ]);
    await teacher()
      .post(`${base()}/items/duplicates`)
      .send({ itemIds: [school.draftId] })
      .expect(200);
    const copy = (await items()).find((i) => i.title === 'Secret page (copy)')!;
    expect([copy.isOff, copy.isDraft]).toEqual([false, true]);
    await teacher()
      .post(`${base()}/items/removals`)
      .send({ itemIds: [copy.id] });
  });
});

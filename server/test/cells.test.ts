import type { Gradebook, RippleAnswer } from '@rosemary/api';
import { rows, withDb } from '../src/index.ts';
import { finishScore, handInText, makeSchool, renewItem, START, type TestSchool } from './school.ts';

/** What a cell of the gradebook is given, and what moves with nobody asked. */
const DAY = 86_400_000;
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('cells');
}, 60_000);
beforeEach(async () => {
  school = await renewItem(school);
});
afterAll(() => school.close());
const course = (): string => `/api/courses/${school.courseId}`;
const book = async (): Promise<Gradebook> => (await school.agents.instructor.get(`${course()}/gradebook`).expect(200)).body as Gradebook;
const cell = async (n = 0) => {
  const b = await book();
  const at = b.columns.findIndex((c) => c.itemId === school.itemId);
  return b.rows.find((r) => r.enrolmentId === school.students[n])?.cells[at] ?? 0;
};
const events = async (): Promise<number> =>
  (await withDb(school.pool, false, (db) => rows(db, 'select id from grade_event where column_id = $1', [school.columnId]))).length;
const write = (n: number, body: object) =>
  school.agents.instructor
    .put(`${course()}/gradebook/cells`)
    .send({ columnId: school.columnId, enrolmentId: school.students[n], isAboveConfirmed: false, reason: '', ...body });

describe('a cell', () => {
  it('holds what was given beside the result after lateness, and writing it again writes nothing', async () => {
    const late = { ratePercent: 10_000, stepMinutes: 1440, base: 'earned', capPercent: 100_000, floorPercent: 0, graceMinutes: 0 };
    const { item } = (await school.agents.instructor.get(`${course()}/items/${school.itemId}`).expect(200)).body;
    await school.agents.instructor.patch(`${course()}/items/${school.itemId}`).send({ version: item.version, late }).expect(200);
    school.clock.at = START + 3 * DAY;
    await handInText(school, 'student', 'Late');
    await finishScore(school, school.students[0], 43_500);
    const shown = await cell();
    if (shown === 0) throw new Error('The cell is empty.');
    expect(shown[6]).toBe(43_500);
    expect(shown[1]).not.toBe('43.5');
    const before = await events();
    const answer = await write(0, { state: 'scored', raw: 43_500, seenEventId: shown[4] }).expect(200);
    expect([answer.body.eventId, await events()]).toEqual([shown[4], before]);
  });
  it('keeps a state that is written again, and nothing of an empty one', async () => {
    const said = await write(0, { state: 'exempt', raw: null, seenEventId: null }).expect(200);
    const shown = await cell();
    expect(shown !== 0 && [shown[0], shown[6]]).toEqual(['exempt', 'exempt']);
    await write(0, { state: 'exempt', raw: null, seenEventId: said.body.eventId }).expect(200);
    await write(1, { state: null, raw: null, seenEventId: null }).expect(200);
    expect(await events()).toBe(1);
  });
  it('takes nothing for somebody the item is not for, and shows that it is not', async () => {
    const { item } = (await school.agents.instructor.get(`${course()}/items/${school.itemId}`).expect(200)).body;
    const audience = [{ sectionId: school.sections[0], enrolmentId: null }];
    await school.agents.instructor.patch(`${course()}/items/${school.itemId}`).send({ version: item.version, audience }).expect(200);
    const refused = await write(1, { state: 'scored', raw: 9000, seenEventId: null });
    expect([refused.status, refused.body.detail]).toEqual([
      422,
      '“Report” is not for Second Tester, so nothing can be given for it. Change in the Plan who it is for.',
    ]);
    const shown = await cell(1);
    expect(shown !== 0 && shown[0]).toBe('outside');
  });
  it('that is exempt is so for the student too, before anything is released', async () => {
    await write(0, { state: 'exempt', raw: null, seenEventId: null }).expect(200);
    const own = (await school.agents.student.get(`${course()}/own/grades`).expect(200)).body;
    const b = await book();
    expect(own.totals).toEqual(b.rows.find((r) => r.enrolmentId === school.students[0])?.totals);
    expect(JSON.stringify(own)).toContain('exempt');
  });
});

describe('moving an item to a unit that is for staff only', () => {
  it('shows its ripple first, and is in the audit', async () => {
    await finishScore(school, school.students[0], 30_000);
    const unit = await school.agents.instructor.post(`${course()}/units`).send({ title: 'Staff', isStanding: false }).expect(200);
    const unitId = unit.body.id as string;
    const { version } = unit.body.plan.units.find((u: { id: string }) => u.id === unitId);
    await school.agents.instructor.patch(`${course()}/units/${unitId}`).send({ version, isStaffOnly: true }).expect(200);
    const plan = (await school.agents.instructor.get(`${course()}/plan`).expect(200)).body;
    const order = {
      units: plan.units.map((u: { id: string; items: { id: string }[] }) => ({
        id: u.id,
        itemIds: [...u.items.map((i) => i.id).filter((id) => id !== school.itemId), ...(u.id === unitId ? [school.itemId] : [])],
      })),
    };
    const ripple = (await school.agents.instructor.put(`${course()}/order`).set('x-ripple', 'show').send(order).expect(200))
      .body as RippleAnswer;
    expect(ripple.rows.find((r) => r.id === school.students[0])?.move).toBe('vanishes');
    // Whoever has no mark has no total so far to lose; their floor and reach go.
    expect(ripple.rows.find((r) => r.id === school.students[1])).toMatchObject({
      move: 'stays',
      floor: { after: null },
      reach: { after: null },
    });
    expect(ripple.others).toBe('The floor of 2 and the reach of 2 move');
    await school.agents.instructor.put(`${course()}/order`).send(order).expect(200);
    const audit = await withDb(school.pool, false, (db) =>
      rows(db, "select 1 as one from audit where action = 'items moved' and course_id = $1", [school.courseId]),
    );
    expect(audit).toHaveLength(1);
  });
});

import type { Announcements, DatesChange, DatesDone, Plan } from '@rosemary/api';
import { makeSchool, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('date_sheet');
}, 60_000);
afterAll(() => school.close());
const agent = () => school.agents.instructor;
const base = (): string => `/api/courses/${school.courseId}`;
const plan = async (): Promise<Plan> => (await agent().get(`${base()}/plan`).expect(200)).body as Plan;
const item = async () => (await plan()).units.flatMap((u) => u.items).find((i) => i.id === school.itemId)!;
const unit = async () => (await plan()).units.find((u) => u.id === school.unitId)!;
const announcement = async () => ((await agent().get(`${base()}/announcements`).expect(200)).body as Announcements).announcements[0]!;
const move = async (change: Partial<DatesChange>, status = 200) =>
  (
    await agent()
      .put(`${base()}/dates`)
      .send({ items: [], units: [], announcements: [], ...change })
      .expect(status)
  ).body;

describe('the dates of a course, moved together', () => {
  it('are those of items, of their sections, of units and of announcements; and one act takes all of it back', async () => {
    const paragraph = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Bring loupes.' }] }] };
    await agent()
      .post(`${base()}/announcements`)
      .send({ version: 1, title: 'Loupes', document: paragraph, publishAt: '2026-11-30T09:00:00.000Z', sectionIds: [], tells: false })
      .expect(200);
    const variant = {
      sectionId: school.sections[0],
      enrolmentId: null,
      groupId: null,
      opensAt: null,
      dueAt: '2026-12-03T18:00:00.000Z',
      closesAt: null,
    };
    await agent()
      .put(`${base()}/items/${school.itemId}/variants`)
      .send({ variants: [variant] })
      .expect(200);
    const before = { item: await item(), unit: await unit(), announcement: await announcement() };

    const done = (await move({
      items: [
        {
          id: school.itemId,
          version: before.item.version,
          dueAt: '2026-12-10T18:00:00.000Z',
          closesAt: null,
          variants: [{ ...variant, dueAt: '2026-12-11T18:00:00.000Z' }],
        },
      ],
      units: [{ id: school.unitId, version: before.unit.version, opensAt: '2026-09-22T08:00:00.000Z' }],
      announcements: [{ id: before.announcement.id, version: before.announcement.version, publishAt: '2026-12-01T09:00:00.000Z' }],
    })) as DatesDone;
    expect((await item()).dueAt).toBe('2026-12-10T18:00:00.000Z');
    expect((await item()).variants.map((v) => v.dueAt)).toEqual(['2026-12-11T18:00:00.000Z']);
    expect((await unit()).opensAt).toBe('2026-09-22T08:00:00.000Z');
    expect((await announcement()).publishAt).toBe('2026-12-01T09:00:00.000Z');

    await move(done.undo);
    expect([(await item()).dueAt, (await item()).closesAt]).toEqual([before.item.dueAt, before.item.closesAt]);
    expect((await item()).variants.map((v) => v.dueAt)).toEqual([variant.dueAt]);
    expect((await unit()).opensAt).toBe(before.unit.opensAt);
    expect((await announcement()).publishAt).toBe(before.announcement.publishAt);
  });

  it('are moved all or none: what changed meanwhile, or cannot be, leaves every date where it was', async () => {
    const before = { item: await item(), unit: await unit() };
    const due = { id: school.itemId, version: before.item.version, dueAt: '2026-12-20T18:00:00.000Z', closesAt: null };
    await move({ items: [due], units: [{ id: school.unitId, version: before.unit.version - 1, opensAt: null }] }, 409);
    expect((await item()).dueAt).toBe(before.item.dueAt);
    const refused = await move({ items: [{ ...due, opensAt: '2026-12-24T18:00:00.000Z' }] }, 422);
    expect(refused.detail).toContain('Nothing was changed.');
    expect((await item()).version).toBe(before.item.version);
  });

  it('leave what was published as it was said', async () => {
    const { id, version } = await announcement();
    school.clock.at = Date.parse('2026-12-02T09:00:00.000Z');
    expect((await move({ announcements: [{ id, version, publishAt: '2026-12-09T09:00:00.000Z' }] }, 409)).detail).toContain(
      '“Loupes” is published already',
    );
  });

  it('are the instructor’s to move, and of this course alone', async () => {
    const nothing = { items: [], units: [], announcements: [] };
    await school.agents.assistant.put(`${base()}/dates`).send(nothing).expect(403);
    await school.agents.student.put(`${base()}/dates`).send(nothing).expect(403);
    await school.agents.outsider.put(`${base()}/dates`).send(nothing).expect(404);
    const foreign = { id: school.itemId, version: 1, dueAt: null };
    await school.agents.outsider
      .put(`/api/courses/${school.otherCourseId}/dates`)
      .send({ ...nothing, items: [foreign] })
      .expect(404);
  });
});

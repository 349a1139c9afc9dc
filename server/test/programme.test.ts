import { paragraphs, type Programme } from '@rosemary/api';
import { makeSchool, START, type TestSchool } from './school.ts';

const DAY = 86_400_000;
let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('programme');
}, 60_000);
afterAll(() => school.close());
type Who = 'instructor' | 'assistant' | 'student' | 'second';
const path = (): string => `/api/courses/${school.courseId}/programme`;
const read = async (who: Who = 'instructor'): Promise<Programme> => (await school.agents[who].get(path()).expect(200)).body as Programme;
const titles = (p: Programme): string[] => p.units.flatMap((u) => u.items.map((i) => i.title));

describe('the course programme', () => {
  it('is made from Plan, policy and roster, and says how many drafts it leaves out', async () => {
    const p = await read();
    expect(p).toMatchObject({ title: 'Watches', code: 'HOR-1', sections: ['Morning', 'Evening'], drafts: 1, canEdit: true, text: null });
    expect(p.units).toEqual([
      {
        id: school.unitId,
        title: 'Bench',
        items: [
          {
            id: school.itemId,
            kind: 'assignment',
            title: 'Report',
            dueAt: new Date(START + 2 * DAY).toISOString(),
            week: 3,
            time: '1 h',
            possible: 60_000,
            category: 'Assignments',
          },
        ],
      },
    ]);
    expect(p.staff.map((s) => [s.name, s.role])).toEqual([
      ['Instructor Tester', 'instructor'],
      ['Assistant Tester', 'assistant'],
    ]);
    expect(p.policy).toEqual(expect.arrayContaining(['Assignments count 60 %, by points.', 'Class work count 40 %, by points.']));
  });

  it('follows a change of the Plan at once, without being written again', async () => {
    const { body } = await school.agents.instructor.get(`/api/courses/${school.courseId}/items/${school.itemId}`).expect(200);
    await school.agents.instructor
      .patch(`/api/courses/${school.courseId}/items/${school.itemId}`)
      .send({ version: body.item.version, title: 'Condition report', possible: 50_000 })
      .expect(200);
    expect((await read()).units[0]?.items[0]).toMatchObject({ title: 'Condition report', possible: 50_000 });
  });

  it('shows a student their own dates, and nothing of drafts, not even how many there are', async () => {
    await school.agents.instructor
      .put(`/api/courses/${school.courseId}/items/${school.itemId}/variants`)
      .send({
        variants: [
          {
            sectionId: school.sections[1],
            enrolmentId: null,
            opensAt: null,
            dueAt: new Date(START + 9 * DAY).toISOString(),
            closesAt: null,
          },
        ],
      })
      .expect(200);
    const [first, second] = [await read('student'), await read('second')];
    expect(first.units[0]?.items[0]?.dueAt).toBe(new Date(START + 2 * DAY).toISOString());
    expect(second.units[0]?.items[0]).toMatchObject({ dueAt: new Date(START + 9 * DAY).toISOString(), week: 4 });
    expect([first.drafts, first.sections, first.canEdit]).toEqual([0, [], false]);
    expect(JSON.stringify(first)).not.toContain('Secret');
  });

  it('leaves out for a student what is not announced yet', async () => {
    await school.pool.query(
      'update item set announced_at = to_timestamp($2 / 1000.0), opens_at = to_timestamp($2 / 1000.0) where id = $1',
      [school.itemId, START + DAY],
    );
    expect(titles(await read('student'))).toEqual([]);
    expect(titles(await read())).toEqual(['Condition report']);
    school.clock.at = START + 2 * DAY;
    expect(titles(await read('student'))).toEqual(['Condition report']);
  });

  it('carries the teacher’s own words by version, and gives both where two write', async () => {
    const put = (version: number, text: string) => school.agents.instructor.put(path()).send({ document: paragraphs(text), version });
    expect((await put(0, 'Bring a loupe.').expect(200)).body).toEqual({ version: 1 });
    expect((await put(1, 'Bring a loupe and patience.').expect(200)).body).toEqual({ version: 2 });
    const refused = await put(1, 'Mine').expect(409);
    expect(JSON.stringify(refused.body.current)).toContain('patience');
    const again = await put(0, 'Mine').expect(409);
    expect(again.body.current.version).toBe(2);
    expect(JSON.stringify((await read('student')).text)).toContain('Bring a loupe and patience.');
  });

  it('is written by instructors, in the one schema of text', async () => {
    for (const who of ['assistant', 'student'] as const)
      await school.agents[who]
        .put(path())
        .send({ document: paragraphs('x'), version: 2 })
        .expect(403);
    await school.agents.instructor
      .put(path())
      .send({ document: { type: 'doc', content: [{ type: 'script' }] }, version: 2 })
      .expect(422);
  });
});

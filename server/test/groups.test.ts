import type { Groups, GroupSet, Plan, StudentCourse } from '@rosemary/api';
import { addGroupSet } from '../src/groups/queries.ts';
import { withDb } from '../src/index.ts';
import { makeSchool, START, type TestSchool } from './school.ts';

const DAY = 86_400_000;
let school: TestSchool;
let base = '';
beforeAll(async () => {
  school = await makeSchool('groups');
  base = `/api/courses/${school.courseId}`;
}, 60_000);
afterAll(() => school.close());
const teacher = () => school.agents.instructor;
const iso = (at: number): string => new Date(at).toISOString();
const groups = async (): Promise<Groups> => (await teacher().get(`${base}/group-sets`).expect(200)).body as Groups;
const setOf = async (title: string): Promise<GroupSet> => (await groups()).sets.find((s) => s.title === title) as GroupSet;
const make = (body: object) =>
  teacher()
    .post(`${base}/group-sets`)
    .send({ title: 'Restoration', makes: 'empty', number: 2, withinSections: true, ...body });
const save = (set: GroupSet, change: object) =>
  teacher()
    .put(`${base}/group-sets/${set.id}`)
    .send({
      version: set.version,
      title: set.title,
      groups: set.groups.map(({ id, title, enrolmentIds }) => ({ id, title, enrolmentIds })),
      ...change,
    });
const report = async (who: 'student' | 'second') =>
  ((await school.agents[who].get(`${base}/own/outline`).expect(200)).body as StudentCourse).units
    .flatMap((u) => u.entries)
    .find((e) => e.title === 'Report');
const version = async (): Promise<number> =>
  ((await teacher().get(`${base}/plan`).expect(200)).body as Plan).units.flatMap((u) => u.items).find((i) => i.id === school.itemId)
    ?.version ?? 0;

describe('sets of groups', () => {
  it('are made empty, or with everybody dealt at random', async () => {
    const made = (await make({}).expect(200)).body as { groups: Groups };
    expect(made.groups.sets[0]?.groups.map((g) => [g.title, g.enrolmentIds])).toEqual([
      ['Group 1', []],
      ['Group 2', []],
    ]);
    await make({ title: 'Pairs', makes: 'dealt', number: 2, withinSections: false }).expect(200);
    expect((await setOf('Pairs')).groups.map((g) => g.enrolmentIds.length)).toEqual([2]);
    await make({ title: 'Alone', makes: 'dealt', number: 2, withinSections: true }).expect(200);
    expect((await setOf('Alone')).groups.map((g) => g.enrolmentIds.length)).toEqual([1, 1]);
    expect((await groups()).students.map((s) => s.name)).toEqual(['Tester, First', 'Tester, Second']);
  });

  it('are dealt by the chance that is given', async () => {
    await withDb(school.pool, true, async (db) => {
      const wish = { title: 'Chance', makes: 'dealt', number: 1, withinSections: false } as const;
      await addGroupSet(db, school.courseId, wish, new Map(), () => 0);
      await addGroupSet(db, school.courseId, { ...wish, title: 'Other chance' }, new Map(), () => 0.99);
    });
    const firsts = await Promise.all(['Chance', 'Other chance'].map(async (title) => (await setOf(title)).groups[0]?.enrolmentIds[0]));
    expect(firsts[0]).not.toBe(firsts[1]);
  });

  it('are laid out as a whole: renamed, filled, emptied, added, removed; somebody else’s change since is said', async () => {
    const before = await setOf('Restoration');
    const [one, two] = school.students;
    const layout = [
      { id: before.groups[0]?.id, title: 'Dials', enrolmentIds: [one] },
      { id: null, title: 'Cases', enrolmentIds: [two] },
    ];
    await save(before, { title: 'Restorations', groups: layout }).expect(200);
    const after = await setOf('Restorations');
    expect(after.groups.map((g) => [g.title, g.enrolmentIds])).toEqual([
      ['Dials', [one]],
      ['Cases', [two]],
    ]);
    expect((await save(before, {}).expect(409)).body.type).toBe('urn:rosemary:conflict');
  });

  it('have each student once, and nobody of another course', async () => {
    const set = await setOf('Restorations');
    const [one] = school.students;
    const twice = set.groups.map((g) => ({ id: g.id, title: g.title, enrolmentIds: [one] }));
    expect((await save(set, { groups: twice }).expect(422)).body.detail).toContain('two groups of this set');
    const stranger = [{ id: null, title: 'X', enrolmentIds: ['00000000-0000-4000-8000-000000000000'] }];
    expect((await save(set, { groups: stranger }).expect(422)).body.detail).toContain('no longer a student');
    const other = await setOf('Pairs');
    const foreign = [{ id: other.groups[0]?.id, title: 'X', enrolmentIds: [] }];
    expect((await save(set, { groups: foreign }).expect(422)).body.detail).toContain('not of this set');
  });

  it('are seen by staff, made by the instructor, and no student’s business', async () => {
    await school.agents.assistant.get(`${base}/group-sets`).expect(200);
    await school.agents.assistant.post(`${base}/group-sets`).send({}).expect(403);
    await school.agents.student.get(`${base}/group-sets`).expect(403);
    const head = (await school.agents.student.get(base).expect(200)).body;
    expect(head.groups).toEqual([]);
  });
});

describe('something for a group', () => {
  const aim = async (groupId: string | undefined) =>
    teacher()
      .patch(`${base}/items/${school.itemId}`)
      .send({ version: await version(), audience: groupId === undefined ? [] : [{ sectionId: null, enrolmentId: null, groupId }] });
  it('is seen by its members alone, and follows them from group to group', async () => {
    const set = await setOf('Restorations');
    const [dials, cases] = set.groups;
    await aim(dials?.id).then((r) => expect(r.status).toBe(200));
    expect([(await report('student'))?.title, await report('second')]).toEqual(['Report', undefined]);
    const { units } = (await teacher().get(`${base}/plan`).expect(200)).body as Plan;
    expect(units.flatMap((u) => u.items).find((i) => i.id === school.itemId)?.audience).toEqual([
      { sectionId: null, enrolmentId: null, groupId: dials?.id, name: 'Dials' },
    ]);
    const swapped = [
      { id: dials?.id, title: 'Dials', enrolmentIds: cases?.enrolmentIds },
      { id: cases?.id, title: 'Cases', enrolmentIds: dials?.enrolmentIds },
    ];
    await save(set, { groups: swapped }).expect(200);
    expect([await report('student'), (await report('second'))?.title]).toEqual([undefined, 'Report']);
  });

  it('of a group that nobody is in is seen by nobody, and not by everyone', async () => {
    const set = await setOf('Restorations');
    await save(set, { groups: set.groups.map((g) => ({ id: g.id, title: g.title, enrolmentIds: [] })) }).expect(200);
    expect([await report('student'), await report('second')]).toEqual([undefined, undefined]);
  });

  it('keeps its group from being removed, and says what names it', async () => {
    const set = await setOf('Restorations');
    expect(set.groups[0]?.uses).toEqual(['Report']);
    expect((await save(set, { groups: [] }).expect(409)).body.detail).toContain('“Dials” cannot be removed: “Report” names it');
    expect((await teacher().delete(`${base}/group-sets/${set.id}`).expect(409)).body.detail).toContain('“Report”');
    await aim(undefined);
    await teacher().delete(`${base}/group-sets/${set.id}`).expect(200);
    expect((await groups()).sets.map((s) => s.title)).not.toContain('Restorations');
    await teacher().post(`${base}/group-sets/${set.id}/restore`).expect(200);
    expect((await groups()).sets.map((s) => s.title)).toContain('Restorations');
  });

  it('one named that is not of the course is refused', async () => {
    expect((await aim('00000000-0000-4000-8000-000000000000')).status).toBe(422);
    const both = { sectionId: school.sections[0], enrolmentId: null, groupId: (await setOf('Pairs')).groups[0]?.id };
    await teacher()
      .patch(`${base}/items/${school.itemId}`)
      .send({ version: await version(), audience: [both] })
      .expect(422);
  });
});

describe('another date for a group', () => {
  const put = (variants: object[]) => teacher().put(`${base}/items/${school.itemId}/variants`).send({ variants });
  const date = (more: object, days: number) => ({
    sectionId: null,
    enrolmentId: null,
    groupId: null,
    opensAt: null,
    dueAt: iso(START + days * DAY),
    closesAt: null,
    ...more,
  });
  it('holds for its members, before the section’s and after their own; of two groups the kinder', async () => {
    const [one] = school.students;
    await save(await setOf('Restorations'), { groups: [{ id: null, title: 'Late', enrolmentIds: [one] }] }).expect(200);
    await make({ title: 'Others', makes: 'empty', number: 1 }).expect(200);
    await save(await setOf('Others'), { groups: [{ id: null, title: 'Later', enrolmentIds: [one] }] }).expect(200);
    const [late, later] = [(await setOf('Restorations')).groups[0]?.id, (await setOf('Others')).groups[0]?.id];
    const section = date({ sectionId: school.sections[0] }, 9);
    await put([section, date({ groupId: late }, 3)]).expect(200);
    expect([(await report('student'))?.dueAt, (await report('student'))?.dueReason]).toEqual([iso(START + 3 * DAY), 'set for Late']);
    expect((await report('second'))?.dueAt).toBe(iso(START + 2 * DAY));
    await put([section, date({ groupId: late }, 3), date({ groupId: later }, 4)]).expect(200);
    expect((await report('student'))?.dueReason).toBe('set for Later');
    await put([date({ groupId: late }, 3), date({ enrolmentId: one }, 2)]).expect(200);
    expect((await report('student'))?.dueReason).toBe('set for this student');
  });
  it('is for one of them: two at once, or none, is refused', async () => {
    expect((await put([date({}, 3)]).expect(422)).body.detail).toContain('one section, one group or one student');
    await put([date({ groupId: '00000000-0000-4000-8000-000000000000' }, 3)]).expect(404);
  });
  it('a change of groups that moves dates is rehearsed', async () => {
    const set = await setOf('Restorations');
    const answer = await teacher()
      .put(`${base}/group-sets/${set.id}`)
      .set('x-ripple', 'show')
      .send({ version: set.version, title: set.title, groups: [] });
    expect([answer.status, (await setOf('Restorations')).groups.length]).toEqual([409, 1]);
  });
});

import type { CourseSettings, PublicCourse, SectionMoved, SectionsParted, StudentItem } from '@rosemary/api';
import { finishScore, handInText, makeSchool, START, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('settings');
}, 60_000);
afterAll(() => school.close());
const DAY = 86_400_000;
const iso = (at: number): string => new Date(at).toISOString();
const base = (): string => `/api/courses/${school.courseId}`;
const teacher = () => school.agents.instructor;
const settings = async (): Promise<CourseSettings> => (await teacher().get(`${base()}/settings`).expect(200)).body as CourseSettings;
const change = async (body: object, status = 200) =>
  teacher()
    .patch(`${base()}/settings`)
    .send({ version: (await settings()).version, ...body })
    .expect(status);

describe('the settings of a course', () => {
  it('are changed with the fault named, and a conflict shown', async () => {
    await change({ title: 'Watches and clocks', description: 'Of wheels', progressBy: 'minutes' });
    expect(await settings()).toMatchObject({
      title: 'Watches and clocks',
      description: 'Of wheels',
      progressBy: 'minutes',
      code: 'HOR-1',
      run: 'a',
    });
    expect((await change({ timeZone: 'Lisbon' }, 422)).body.pointers[0].field).toBe('timeZone');
    expect((await change({ enrolsFrom: iso(START), enrolsUntil: iso(START - DAY) }, 422)).body.pointers[0].field).toBe('enrolsUntil');
    expect((await change({ code: 'X' }, 422)).body.detail).toContain('not a field here');
    expect((await change({ version: 1, title: 'Late' }, 409)).body.current.title).toBe('Watches and clocks');
    await school.agents.assistant.patch(`${base()}/settings`).send({ version: 1 }).expect(403);
    await school.agents.student.get(`${base()}/settings`).expect(403);
  });
});

describe('sections joined and parted', () => {
  const seen = async (): Promise<StudentItem> =>
    (await school.agents.second.get(`${base()}/own/items/${school.itemId}`).expect(200)).body as StudentItem;

  it('keep all work, marks and dates, and can be taken back', async () => {
    await handInText(school, 'second', 'Work of the evening');
    await finishScore(school, school.students[1], 7000);
    const due = iso(START + 5 * DAY);
    const variants = [{ sectionId: school.sections[1], enrolmentId: null, opensAt: null, dueAt: due, closesAt: null }];
    await teacher().put(`${base()}/items/${school.itemId}/variants`).send({ variants }).expect(200);
    expect((await seen()).dates.due).toEqual({ at: due, reason: 'set for Evening' });
    const done = (await teacher().post(`${base()}/sections/${school.sections[1]}/join`).send({ into: school.sections[0] }).expect(200))
      .body as SectionMoved;
    expect(done.settings.sections.map((s) => [s.title, s.students])).toEqual([['Morning', 2]]);
    expect((await seen()).dates.due).toEqual({ at: due, reason: 'set for this student' });
    expect((await seen()).attempts).toHaveLength(1);
    const book = (await teacher().get(`${base()}/gradebook`).expect(200)).body;
    expect(JSON.stringify(book.rows.find((r: { enrolmentId: string }) => r.enrolmentId === school.students[1]))).toContain('7');
    expect(done.settings.joined).toMatchObject([{ actId: done.actId, title: 'Evening', into: 'Morning', students: 1 }]);
    const parted = (await teacher().post(`${base()}/section-partings`).send({ actId: done.actId }).expect(200)).body as SectionsParted;
    expect(parted).toMatchObject({ back: 1, stayed: 0, settings: { joined: [] } });
    // The date is the section’s again, not one of their own.
    expect((await seen()).dates.due).toEqual({ at: due, reason: 'set for Evening' });
    const back = parted.settings;
    expect(back.sections.map((s) => [s.title, s.students])).toEqual([
      ['Morning', 1],
      ['Evening', 1],
    ]);
  });

  it('a section is parted with the students named, who keep what they have', async () => {
    const done = (
      await teacher()
        .post(`${base()}/sections`)
        .send({ title: 'Weekend', enrolmentIds: [school.students[1]] })
        .expect(200)
    ).body as SectionMoved;
    expect(done.settings.sections.map((s) => [s.title, s.students])).toEqual([
      ['Morning', 1],
      ['Evening', 0],
      ['Weekend', 1],
    ]);
    expect((await seen()).attempts).toHaveLength(1);
    const weekend = done.settings.sections[2]?.id ?? '';
    expect((await teacher().delete(`${base()}/sections/${weekend}`).expect(409)).body.detail).toContain('has a student');
    await teacher().post(`${base()}/section-partings`).send({ actId: done.actId }).expect(200);
    await teacher().delete(`${base()}/sections/${weekend}`).expect(200);
  });

  it('refuses a title that is there or was there, itself, and sections or students of other courses', async () => {
    const add = (title: string, enrolmentIds: string[] = []) => teacher().post(`${base()}/sections`).send({ title, enrolmentIds });
    expect((await add('morning').expect(422)).body.detail).toContain('is here already');
    expect((await add('Weekend').expect(422)).body.detail).toContain('was here');
    await add('New', ['00000000-0000-4000-8000-000000000000']).expect(422);
    const join = (into: string) => teacher().post(`${base()}/sections/${school.sections[0]}/join`).send({ into });
    await join(school.sections[0]).expect(422);
    const foreign =
      (await school.pool.query<{ id: string }>('select id from section where course_id = $1', [school.otherCourseId])).rows[0]?.id ?? '';
    await join(foreign).expect(404);
    await teacher().patch(`${base()}/sections/${foreign}`).send({ title: 'Mine' }).expect(404);
    await teacher().post(`${base()}/section-partings`).send({ actId: school.otherCourseId }).expect(404);
  });

  it('have titles and meeting days of their own', async () => {
    const path = `${base()}/sections/${school.sections[0]}`;
    await teacher()
      .patch(path)
      .send({ title: 'Early', meetingDays: [1, 3] })
      .expect(200);
    expect((await settings()).sections[0]).toMatchObject({ title: 'Early', meetingDays: [1, 3] });
    await teacher().patch(path).send({ title: 'Morning', meetingDays: null }).expect(200);
    expect((await settings()).sections[0]).toMatchObject({ title: 'Morning', meetingDays: null });
    await teacher()
      .patch(path)
      .send({ meetingDays: [8] })
      .expect(422);
  });
});

describe('a page about a course', () => {
  const path = (): string => `/api/public-courses/${school.courseId}`;
  it('is there only when it is wished, and says nothing of people but who teaches', async () => {
    await school.agents.nobody.get(path()).expect(404);
    await change({ isPublic: true });
    const page = (await school.agents.nobody.get(path()).expect(200)).body as PublicCourse;
    expect(page).toMatchObject({ code: 'HOR-1', staff: ['Instructor Tester'], isEnrolling: false, description: 'Of wheels' });
    expect(JSON.stringify(page)).not.toMatch(/First|example\.org|Report/);
  });
  it('lets people enrol themselves while the window is open, once', async () => {
    const enrol = (sectionId = school.sections[0]) => school.agents.outsider.post(`${path()}/enrolment`).send({ sectionId });
    expect((await enrol().expect(409)).body.detail).toContain('not open now');
    await change({ enrolsFrom: iso(START - DAY), enrolsUntil: iso(START + DAY) });
    await school.agents.nobody.post(`${path()}/enrolment`).send({ sectionId: school.sections[0] }).expect(401);
    await enrol('00000000-0000-4000-8000-000000000000').expect(404);
    await enrol().expect(200);
    expect((await enrol().expect(409)).body.detail).toContain('in this course already');
    await school.agents.outsider.get(`${base()}/own/outline`).expect(200);
    await change({ isPublic: false });
    await enrol().expect(404);
  });
});

describe('a term', () => {
  const term = { title: 'Autumn', startsOn: '2026-09-21', endsOn: '2027-01-01', meetingDays: [2, 4], holidays: [] };
  const change = (id: string, body: object) => school.agents.administrator.put(`/api/school/terms/${id}`).send({ ...term, ...body });
  it('is changed with its holidays, for every course in it; faults are named, a conflict shown', async () => {
    const { terms } = (await school.agents.administrator.get('/api/school').expect(200)).body as {
      terms: { id: string; version: number }[];
    };
    const { id, version } = terms[0]!;
    const holidays = [{ title: 'Break', startsOn: '2026-11-09', endsOn: '2026-11-15' }];
    await change(id, { version, holidays, meetingDays: [1] }).expect(200);
    expect((await settings()).term).toMatchObject({ meetingDays: [1], holidays });
    expect((await change(id, { version, holidays: [] }).expect(409)).body.current.version).toBe(version + 1);
    expect((await change(id, { version: version + 1, endsOn: '2026-09-01' }).expect(422)).body.pointers[0].field).toBe('endsOn');
    await change('00000000-0000-4000-8000-000000000000', { version: 1 }).expect(404);
    await school.agents.instructor
      .put(`/api/school/terms/${id}`)
      .send({ ...term, version: version + 1 })
      .expect(403);
    expect((await settings()).term.holidays).toEqual(holidays);
  });
});

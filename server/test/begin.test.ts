import type { CourseHead, CourseHistory, FirstSteps, Me, PublicHolidays, School } from '@rosemary/api';
import supertest from 'supertest';
import { makeSchool, PASSWORD, START, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('begin');
}, 60_000);
afterAll(() => school.close());
const admin = () => school.agents.administrator;
const base = (): string => `/api/courses/${school.courseId}`;
const left = (first: FirstSteps): string => first.steps.flatMap((s) => (s.isDone ? [] : [s.name])).join(' ');
const signIn = async (email: string) => {
  const agent = supertest.agent(school.app);
  await agent.post('/api/sign-in').send({ email, password: PASSWORD }).expect(200);
  return agent;
};

describe('somebody who teaches', () => {
  const teacher = { givenName: 'New', familyName: 'Teacher', email: 'new.teacher@example.org', password: PASSWORD };
  it('makes a course before having one; somebody of whom that is not said does not', async () => {
    await admin().post('/api/school/people').send(teacher).expect(200);
    const agent = await signIn(teacher.email);
    expect((await agent.get('/api/course-start').expect(403)).body.detail).toContain('made by those who teach');
    const { people } = (await admin().get('/api/school').expect(200)).body as School;
    const { id, ...mine } = people.find((p) => p.email === teacher.email)!;
    await admin()
      .patch(`/api/school/people/${id}`)
      .send({ ...mine, teaches: true })
      .expect(200);
    expect(((await agent.get('/api/me').expect(200)).body as Me).person?.teaches).toBe(true);
    const { terms } = (await agent.get('/api/course-start').expect(200)).body as { terms: { id: string }[] };
    const course = {
      title: 'First steps',
      code: 'STEP-1',
      run: 'one',
      termId: terms[0]!.id,
      timeZone: 'Europe/Lisbon',
      sections: ['Only'],
    };
    const made = await agent
      .post('/api/courses')
      .send({ ...course, outline: 'empty' })
      .expect(200);
    const at = `/api/courses/${made.body.id as string}`;
    const steps = async () => (await agent.get(`${at}/first-steps`).expect(200)).body as FirstSteps;
    expect(left(await steps())).toBe('students page open see');
    expect((await steps()).course).toMatchObject({ title: 'First steps', teachers: 'New Teacher', isOwn: true, drafts: 0 });

    const { plan } = (await agent.post(`${at}/units`).send({ title: 'Beginning', isStanding: false }).expect(200)).body;
    const item = { unitId: plan.units[0].id, kind: 'page', title: 'Welcome', position: 0 };
    await agent.post(`${at}/items`).send(item).expect(200);
    expect(left(await steps())).toBe('students open see');
    expect((await steps()).course?.drafts).toBe(1);
    // A course that is open with nothing but drafts shows its students nothing.
    await agent.post(`${at}/open`).expect(200);
    expect(left(await steps())).toBe('students open see');
    await agent.put(`${at}/first-steps/seen`).expect(200);
    expect(left(await steps())).toBe('students open');
    await agent.get(`${at}/first-steps`).expect(200);
    await school.agents.outsider.get(`${at}/first-steps`).expect(404);
    await school.agents.student.put(`${base()}/first-steps/seen`).expect(403);
  });
});

describe('the first steps', () => {
  it('of a school are for its administrator, and end once a student has read something', async () => {
    await school.agents.instructor.get('/api/school/first-steps').expect(403);
    const steps = (await admin().get('/api/school/first-steps').expect(200)).body as FirstSteps;
    expect(left(steps)).toContain('see');
    expect(steps.steps.map((s) => s.name).slice(0, 3)).toEqual(['term', 'people', 'course']);
    expect(steps.course?.isOwn).toBe(false);
    await school.agents.student.post(`${base()}/own/items/${school.itemId}/visits`).send({ seconds: 3 }).expect(200);
    expect(((await admin().get('/api/school/first-steps').expect(200)).body as FirstSteps).steps).toEqual([]);
    expect(((await school.agents.instructor.get(`${base()}/first-steps`).expect(200)).body as FirstSteps).steps).toEqual([]);
  });
});

describe('the public holidays of a country', () => {
  const find = async (country: string, query: string, status = 200) =>
    (await admin().get(`/api/public-holidays?country=${country}&${query}`).expect(status)).body;
  it('are those that fall into the term, on the days of the place', async () => {
    const { holidays, regions } = (await find('PT', 'from=2026-09-21&to=2027-01-03')) as PublicHolidays;
    expect(holidays.map((h) => h.startsOn)).toEqual(['2026-10-05', '2026-11-01', '2026-12-01', '2026-12-08', '2026-12-25', '2027-01-01']);
    expect(holidays.every((h) => h.endsOn === h.startsOn && h.title !== '')).toBe(true);
    expect(regions).toEqual([]);
    // The United States, west of Greenwich: a holiday is the day it is there.
    const { holidays: american } = (await find('US', 'from=2026-11-20&to=2026-11-30')) as PublicHolidays;
    expect(american.map((h) => h.startsOn)).toContain('2026-11-26');
  });

  it('of a region are more than those of its country', async () => {
    const of = async (more: string) => (await find('DE', `from=2026-10-01&to=2026-11-30${more}`)) as PublicHolidays;
    expect((await of('')).regions).toContainEqual({ code: 'BY', name: 'Bayern' });
    expect((await of('&region=BY')).holidays.length).toBeGreaterThan((await of('')).holidays.length);
  });

  it('are refused in words where the country, the region or a day is none', async () => {
    expect((await find('XX', 'from=2026-09-21&to=2027-01-03', 422)).pointers[0].text).toContain('“XX” are not known');
    expect((await find('DE', 'from=2026-09-21&to=2027-01-03&region=ZZ', 422)).pointers[0].field).toBe('region');
    expect((await find('PT', 'from=soon&to=2027-01-03', 422)).pointers[0].text).toContain('“soon” is not a day');
    expect((await find('PT', 'from=2027-01-03&to=2026-09-21', 422)).pointers[0].field).toBe('to');
    expect((await find('PT', 'from=2026-01-03&to=2029-09-21', 422)).pointers[0].text).toContain('more than 400 days');
    await school.agents.instructor.get('/api/public-holidays').expect(403);
  });
});

describe('a look of an administrator into a course', () => {
  it('is asked for, written down, changes nothing, and ends', async () => {
    await admin().get(base()).expect(404);
    const look = await admin().post(`/api/school/courses/${school.courseId}/look`).expect(200);
    expect(Date.parse(look.body.endsAt as string)).toBe(school.clock.at + 8 * 3_600_000);
    const head = (await admin().get(base()).expect(200)).body as CourseHead;
    expect(head).toMatchObject({ role: 'assistant', looksUntil: look.body.endsAt });
    for (const view of ['plan', 'gradebook', 'progress', 'roster', 'marking']) await admin().get(`${base()}/${view}`).expect(200);
    const refused = await admin()
      .put(`${base()}/gradebook/cells`)
      .send({
        columnId: school.columnId,
        enrolmentId: school.students[0],
        state: 'scored',
        raw: 1,
        seenEventId: null,
        isAboveConfirmed: false,
        reason: '',
      })
      .expect(403);
    expect(refused.body.detail).not.toBe('');
    const marked = await admin().put(`${base()}/marking/${school.itemId}/${school.students[0]}/mark`).send({}).expect(403);
    expect(marked.body.detail).toContain('You are looking into this course as an administrator');
    await admin().post(`${base()}/units`).send({ title: 'Mine' }).expect(403);
    // It is no membership: the course does not stand among one's own, nor on the Desk.
    expect(((await admin().get('/api/me').expect(200)).body as Me).courses).toEqual([]);
    expect((await admin().get('/api/desk').expect(200)).body.courses).toEqual([]);
    const history = (await school.agents.instructor.get(`${base()}/history`).expect(200)).body as CourseHistory;
    expect(history.acts[0]).toMatchObject({ what: 'looked into as an administrator', by: 'Administrator Tester' });
    // Other courses stay closed, and this one is again afterwards.
    await admin().get(`/api/courses/${school.otherCourseId}`).expect(404);
    await admin().delete(`/api/school/courses/${school.courseId}/look`).expect(200);
    await admin().get(base()).expect(404);
    await admin().delete(`/api/school/courses/${school.courseId}/look`).expect(404);
  });

  it('is over after eight hours', async () => {
    await admin().post(`/api/school/courses/${school.courseId}/look`).expect(200);
    school.clock.at = START + 8 * 3_600_000 + 1000;
    await admin().get(base()).expect(404);
    school.clock.at = START;
  });

  it('is for administrators, and for courses they are not in', async () => {
    await school.agents.instructor.post(`/api/school/courses/${school.otherCourseId}/look`).expect(403);
    await admin().post('/api/school/courses/00000000-0000-4000-8000-000000000000/look').expect(404);
  });
});

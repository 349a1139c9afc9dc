import { decide, type Permission } from '@rosemary/core';
import { routes as implemented } from '../src/routes.ts';
import { makeSchool, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('access');
}, 60_000);
afterAll(() => school.close());
// Among what is tried are the ends of a course: it runs again for the next.
afterEach(() => school.pool.query('update course set is_open = true, archived_at = null, removed_at = null'));

const NOWHERE = '00000000-0000-4000-8000-000000000000';
const addressOf = (path: string, courseId: string): string => `/api${path}`.replace(':courseId', courseId).replace(/:\w+/g, NOWHERE);
const routes = implemented.map((route) => route.endpoint);
const courseRoutes = routes.filter((r) => r.path.includes(':courseId'));
const label = (r: (typeof routes)[number]): string => `${r.method} ${r.path}`;
const ROLES = ['instructor', 'assistant', 'student'] as const;
const isAllowed = (role: (typeof ROLES)[number], needs: string): boolean =>
  decide(
    {
      personId: 'p',
      isAdministrator: false,
      // The instructor of the school that is laid out is the one of record.
      memberships: [{ courseId: 'c', enrolmentId: 'e', role, isActive: true, sectionIds: null, isOfRecord: role === 'instructor' }],
    },
    needs as Permission,
    'c',
  ).isAllowed;

describe('the route table', () => {
  it('names what every route needs, and a course permission for every address in a course', () => {
    expect(routes.filter((r) => !r.needs).map(label)).toEqual([]);
    expect(courseRoutes.filter((r) => r.needs === 'public' || r.needs === 'person').map(label)).toEqual([]);
    expect(routes.filter((r) => r.needs === 'public').map((r) => r.path)).toEqual([
      '/me',
      '/sign-in',
      '/demo/sign-in',
      '/welcome/:token',
      '/welcome/:token',
      '/sign-out',
      '/public-courses/:publicId',
      '/public-courses/:publicId/picture',
      '/calendars/:secret',
    ]);
  });

  it.each(routes.filter((r) => r.needs !== 'public').map((r) => [label(r), r] as const))('%s answers 401 to nobody', async (_, route) => {
    await school.agents.nobody[route.method](addressOf(route.path, school.courseId)).send({}).expect(401);
  });

  it.each(courseRoutes.map((r) => [label(r), r] as const))('%s is unknown to members of another course', async (_, route) => {
    const answer = await school.agents.outsider[route.method](addressOf(route.path, school.courseId)).send({});
    expect([answer.status, answer.body.type]).toEqual([404, 'urn:rosemary:not-found']);
    expect(JSON.stringify(answer.body)).not.toMatch(/Watches|HOR-1|Report/);
  });

  it.each(courseRoutes.flatMap((r) => ROLES.map((role) => [label(r), role, r] as const)))(
    '%s decides for an %s',
    async (_, role, route) => {
      const answer = await school.agents[role][route.method](addressOf(route.path, school.courseId)).send({});
      if (isAllowed(role, route.needs)) expect(answer.body.type ?? '').not.toBe('urn:rosemary:refused');
      else expect([answer.status, answer.body.type]).toEqual([403, 'urn:rosemary:refused']);
      expect(answer.status).not.toBe(401);
      expect(answer.status).toBeLessThan(500);
    },
  );

  it.each(routes.filter((r) => r.needs === 'school.administer').map((r) => [label(r), r] as const))(
    '%s is the administrator’s alone',
    async (_, route) => {
      await school.agents.instructor[route.method](addressOf(route.path, school.courseId)).send({}).expect(403);
      const answer = await school.agents.administrator[route.method](addressOf(route.path, school.courseId)).send({});
      expect([200, 404, 422]).toContain(answer.status);
    },
  );
});

describe('what leaks nothing', () => {
  it('keeps drafts from students, in lists, alone, by search and in the term line', async () => {
    const base = `/api/courses/${school.courseId}`;
    for (const path of [`${base}/own/outline`, `${base}/own/week`, base, '/api/find?q=Secret', '/api/this-week']) {
      expect(JSON.stringify((await school.agents.student.get(path).expect(200)).body)).not.toContain('Secret');
    }
    await school.agents.student.get(`${base}/own/items/${school.draftId}`).expect(404);
  });

  it('shows an assistant only the students of the sections given', async () => {
    const base = `/api/courses/${school.courseId}`;
    const book = await school.agents.assistant.get(`${base}/gradebook`).expect(200);
    expect(book.body.rows.map((r: { enrolmentId: string }) => r.enrolmentId)).toEqual([school.students[0]]);
    await school.agents.assistant.get(`${base}/gradebook/working/${school.students[1]}`).expect(404);
    await school.agents.assistant.get(`${base}/marking/${school.itemId}/${school.students[1]}`).expect(404);
    await school.agents.assistant.get(`${base}/progress/people/${school.students[1]}`).expect(404);
    await school.agents.assistant.get(`${base}/marking/${school.itemId}/${school.students[0]}`).expect(200);
  });

  it('treats a course that is not open as unknown to its students', async () => {
    await school.pool.query('update course set is_open = false where id = $1', [school.courseId]);
    await school.agents.student.get(`/api/courses/${school.courseId}`).expect(404);
    await school.agents.instructor.post(`/api/courses/${school.courseId}/open`).expect(200);
    await school.agents.student.get(`/api/courses/${school.courseId}`).expect(200);
  });

  it('refuses a write from another site', async () => {
    const answer = await school.agents.instructor.post('/api/sign-out').set('origin', 'https://elsewhere.example').send({});
    expect(answer.body.type).toBe('urn:rosemary:wrong-origin');
    for (const origin of ['null', 'nonsense', '']) {
      const other = await school.agents.instructor.post('/api/desk/slips').set('origin', origin).send({ slip: 'x', until: null });
      expect([origin, other.status]).toEqual([origin, 403]);
    }
  });
});

describe('seeing as a student', () => {
  it('shows exactly what the student sees, on a chosen day, and changes nothing', async () => {
    const { instructor, student } = school.agents;
    const path = `/api/courses/${school.courseId}/own/items/${school.itemId}`;
    const seen = await instructor.get(path).set('x-see-as', school.students[0]).expect(200);
    expect(seen.body).toEqual((await student.get(path).expect(200)).body);
    const later = await instructor.get(path).set('x-see-as', school.students[0]).set('x-see-on', '2026-12-01T12:00:00Z').expect(200);
    expect([seen.body.visibility, later.body.visibility]).toEqual(['open', 'closed']);
    await instructor.get(`/api/courses/${school.courseId}/gradebook`).set('x-see-as', school.students[0]).expect(403);
    expect((await instructor.put(`${path}/draft`).set('x-see-as', school.students[0]).send({}).expect(403)).body.type).toBe(
      'urn:rosemary:read-only',
    );
  });

  it('is not for assistants or students, nor for people of another course', async () => {
    const path = `/api/courses/${school.courseId}/own/items/${school.itemId}`;
    await school.agents.assistant.get(path).set('x-see-as', school.students[0]).expect(403);
    expect(
      (await school.agents.second.get(`/api/courses/${school.courseId}/own/grades`).set('x-see-as', school.students[0]).expect(200)).status,
    ).toBe(200);
    await school.agents.instructor.get(path).set('x-see-as', NOWHERE).expect(404);
    await school.agents.outsider.get(path).set('x-see-as', school.students[0]).expect(404);
  });
});

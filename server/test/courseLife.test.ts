import type { CourseLife, Me, School } from '@rosemary/api';
import { makeSchool, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('life');
}, 60_000);
afterAll(() => school.close());
const base = (): string => `/api/courses/${school.courseId}`;
const { instructor, student, administrator } = {
  instructor: () => school.agents.instructor,
  student: () => school.agents.student,
  administrator: () => school.agents.administrator,
};
const mine = async (agent: () => typeof school.agents.student) =>
  ((await agent().get('/api/me').expect(200)).body as Me).courses.find((c) => c.id === school.courseId);
const listed = async () =>
  ((await administrator().get('/api/school').expect(200)).body as School).courses.find((c) => c.id === school.courseId);

describe('the end of a course', () => {
  it('is closed to its students and opened again, and its teachers go on meanwhile', async () => {
    expect((await instructor().post(`${base()}/close`).expect(200)).body as CourseLife).toMatchObject({ isOpen: false, isArchived: false });
    await student().get(base()).expect(404);
    expect(await mine(student)).toBeUndefined();
    await instructor().post(`${base()}/units`).send({ title: 'While it is closed' }).expect(200);
    expect((await instructor().post(`${base()}/close`).expect(409)).body.detail).toBe('The course is closed to students already.');
    await instructor().post(`${base()}/open`).expect(200);
    await student().get(base()).expect(200);
  });

  it('is archived: read by everybody as before, changed by nobody, and running again when it is taken out', async () => {
    await instructor().post(`${base()}/archival`).expect(200);
    expect((await mine(instructor))?.isArchived).toBe(true);
    await student().get(`${base()}/own/grades`).expect(200);
    await instructor().get(`${base()}/gradebook`).expect(200);
    const refused = await instructor().post(`${base()}/units`).send({ title: 'Too late' }).expect(409);
    expect(refused.body.detail).toContain('This course is archived');
    const cell = {
      columnId: school.columnId,
      enrolmentId: school.students[0],
      state: 'scored',
      raw: 1000,
      seenEventId: null,
      isAboveConfirmed: false,
      reason: '',
    };
    await instructor().put(`${base()}/gradebook/cells`).send(cell).expect(409);
    await student().put(`${base()}/own/items/${school.itemId}/draft`).send({}).expect(409);
    await student()
      .post(`${base()}/own/items/${school.itemId}/visits`)
      .send({ seconds: 3 })
      .expect((answer) => {
        if (answer.status === 409) throw new Error('a visit is refused in the archive');
      });
    const desk = (await instructor().get('/api/desk').expect(200)).body as { courses: { id: string }[] };
    expect(desk.courses.some((c) => c.id === school.courseId)).toBe(false);
    await instructor().delete(`${base()}/archival`).expect(200);
    await instructor().post(`${base()}/units`).send({ title: 'Running again' }).expect(200);
  });

  it('is not deleted by its instructor while students are in it, and says who can', async () => {
    const refused = await instructor().delete(base()).expect(409);
    expect(refused.body.detail).toMatch(/has \d+ students?, so only an administrator of the school can delete it\. Archive it instead/);
  });

  it('is deleted by an administrator, reached by nobody then, and put back closed', async () => {
    await administrator().delete(`/api/school/courses/${school.courseId}`).expect(200);
    await instructor().get(base()).expect(404);
    await student().get(base()).expect(404);
    expect([await mine(instructor), await mine(student)]).toEqual([undefined, undefined]);
    expect((await listed())?.removedAt).not.toBeNull();
    await administrator().delete(`/api/school/courses/${school.courseId}`).expect(404);
    await instructor().post(`/api/school/courses/${school.courseId}/restore`).expect(403);
    await administrator().post(`/api/school/courses/${school.courseId}/restore`).expect(200);
    expect(await listed()).toMatchObject({ removedAt: null, isOpen: false });
    await instructor().get(base()).expect(200);
    await student().get(base()).expect(404);
    await administrator().post(`/api/school/courses/${school.courseId}/restore`).expect(404);
    await instructor().post(`${base()}/open`).expect(200);
  });

  it('is deleted by its instructor where nobody studies in it', async () => {
    await school.pool.query("update enrolment set withdrawn_at = now() where course_id = $1 and role = 'student'", [school.courseId]);
    await instructor().delete(base()).expect(200);
    await instructor().get(base()).expect(404);
  });
});

import type { School } from '@rosemary/api';
import { makeSchool, PASSWORD, type TestSchool } from './school.ts';
import supertest from 'supertest';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('people');
}, 60_000);
afterAll(() => school.close());
const admin = () => school.agents.administrator;
const all = async () => ((await admin().get('/api/school').expect(200)).body as School).people;
const find = async (email: string) => (await all()).find((p) => p.email === email)!;
const emailOf = async (agent: 'student' | 'instructor' | 'administrator') =>
  (await school.agents[agent].get('/api/me').expect(200)).body.person.email as string;
const change = async (email: string, more: object, status = 200) => {
  const { id, ...person } = await find(email);
  return (
    await admin()
      .patch(`/api/school/people/${id}`)
      .send({ ...person, ...more })
      .expect(status)
  ).body;
};

describe('a person of the school', () => {
  it('is given another name and email, and signs in with it', async () => {
    const email = await emailOf('student');
    await change(email, { givenName: 'Renamed', email: 'renamed@test.example' });
    expect(await find('renamed@test.example')).toMatchObject({ givenName: 'Renamed', isActive: true });
    await supertest.agent(school.app).post('/api/sign-in').send({ email: 'renamed@test.example', password: PASSWORD }).expect(200);
    await change('renamed@test.example', { email });
  });

  it('does not take the email of another, and is told which', async () => {
    const email = await emailOf('student');
    const taken = await emailOf('instructor');
    expect((await change(email, { email: taken }, 422)).pointers).toEqual([
      { field: 'email', text: `Someone with the email ${taken} is here already.` },
    ]);
    expect((await change(email, { email: 'no email' }, 422)).pointers[0].field).toBe('email');
  });

  it('is signed out everywhere when deactivated, and told why at sign-in, but only with the right password', async () => {
    const email = await emailOf('student');
    await change(email, { isActive: false });
    await school.agents.student.get(`/api/courses/${school.courseId}`).expect(401);
    const fresh = supertest.agent(school.app);
    const told = await fresh.post('/api/sign-in').send({ email, password: PASSWORD }).expect(403);
    expect(told.body.detail).toBe('This account is deactivated. Ask an administrator of your school.');
    expect((await fresh.post('/api/sign-in').send({ email, password: 'some other words' }).expect(401)).body.detail).toContain(
      'does not match',
    );
    await change(email, { isActive: true });
    await fresh.post('/api/sign-in').send({ email, password: PASSWORD }).expect(200);
    await fresh.get(`/api/courses/${school.courseId}`).expect(200);
  });

  it('does not lock out the administrator who changes it', async () => {
    const email = await emailOf('administrator');
    expect((await change(email, { isActive: false }, 422)).pointers[0].text).toBe(
      'You cannot deactivate yourself. Ask another administrator.',
    );
    expect((await change(email, { isAdministrator: false }, 422)).pointers[0].field).toBe('isAdministrator');
  });

  it('is changed by administrators alone, and unknown ones are nobody', async () => {
    const { id, ...person } = await find(await emailOf('instructor'));
    await school.agents.instructor.patch(`/api/school/people/${id}`).send(person).expect(403);
    await admin()
      .patch('/api/school/people/00000000-0000-4000-8000-000000000000')
      .send({ ...person, email: 'new@test.example' })
      .expect(404);
  });
});

describe('the code of a course', () => {
  const add = async (code: string, run: string) => {
    const { body } = await admin().get('/api/school').expect(200);
    const { terms, people } = body as School;
    return admin()
      .post('/api/school/courses')
      .send({
        ...{ code, run, title: 'Springs', termId: terms[0]?.id, timeZone: 'Europe/Lisbon', sections: ['One'] },
        instructorId: people[0]?.id,
      });
  };
  it('takes spaces and points, each space once', async () => {
    expect((await add('HOR  310', '2026.1')).status).toBe(200);
    const { body } = await admin().get('/api/school').expect(200);
    expect((body as School).courses.some((c) => c.code === 'HOR 310' && c.run === '2026.1')).toBe(true);
  });
  it.each(['-X', 'A/B', 'x'.repeat(21), 'A '.padEnd(3, '!')])('refuses %s and says what it takes', async (code) => {
    const answer = await add(code, 'r1');
    expect([answer.status, answer.body.pointers[0].text]).toEqual([
      422,
      expect.stringContaining('it takes up to 20 letters, digits, spaces, points and hyphens'),
    ]);
  });
});

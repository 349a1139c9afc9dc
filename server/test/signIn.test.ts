import supertest from 'supertest';
import { makeTestApp, makeSchool, PASSWORD, START, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('signin');
}, 60_000);
afterAll(() => school.close());

const enter = (email: string, password: string) => supertest(school.app).post('/api/sign-in').send({ email, password });

describe('signing in', () => {
  it('says the same of a wrong password and of an unknown address', async () => {
    const wrong = await enter('second@example.org', 'not the password').expect(401);
    const unknown = await enter('nobody@example.org', 'not the password').expect(401);
    expect(wrong.body.detail).toBe(unknown.body.detail);
  });

  it('rests an account after five wrong passwords, and says until when', async () => {
    for (let n = 0; n < 4; n += 1) await enter('first@example.org', 'wrong').expect(401);
    expect((await enter('first@example.org', 'wrong').expect(423)).body.detail).toContain('15 minutes');
    await enter('first@example.org', PASSWORD).expect(423);
    school.clock.at = START + 16 * 60_000;
    await enter('first@example.org', PASSWORD).expect(200);
    school.clock.at = START;
  });

  it('names the field that is missing', async () => {
    const answer = await supertest(school.app).post('/api/sign-in').send({ email: 'x@example.org' }).expect(422);
    expect(answer.body.pointers).toEqual([{ field: 'password', text: 'Password is missing.' }]);
  });

  it('keeps a session that is HttpOnly, SameSite, and ends after idle time', async () => {
    const answer = await enter('second@example.org', PASSWORD).expect(200);
    const cookie = String(answer.headers['set-cookie']);
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Lax/);
    const expires = Date.parse(/Expires=([^;]+)/.exec(cookie)?.[1] ?? '');
    expect(Math.abs(expires - Date.now() - 30 * 60_000)).toBeLessThan(10_000);
    const { rows } = await school.pool.query("select count(*)::int as n from session where sess->>'personId' is not null");
    expect(rows[0].n).toBeGreaterThan(0);
    await school.pool.query("update session set expire = now() - interval '1 second'");
    await school.agents.administrator.get('/api/school').expect(401);
  });

  it('limits sign-ins from one place', async () => {
    const app = makeTestApp(school.pool, school.clock, 2);
    const tries = [];
    for (let n = 0; n < 3; n += 1)
      tries.push((await supertest(app).post('/api/sign-in').send({ email: 'q@example.org', password: 'wrong' })).status);
    expect(tries).toEqual([401, 401, 429]);
  });

  it('offers nobody by one click outside the demo', async () => {
    expect((await supertest(school.app).get('/api/me').expect(200)).body.demoPeople).toEqual([]);
    await supertest(school.app).post('/api/demo/sign-in').send({ personId: '00000000-0000-4000-8000-000000000000' }).expect(404);
  });

  it('changes a password only with the present one', async () => {
    const agent = supertest.agent(school.app);
    await agent.post('/api/sign-in').send({ email: 'second@example.org', password: PASSWORD }).expect(200);
    expect(
      (await agent.post('/api/me/password').send({ current: 'x', next: 'another long password' }).expect(422)).body.pointers[0].field,
    ).toBe('current');
    await agent.post('/api/me/password').send({ current: PASSWORD, next: 'another long password' }).expect(200);
    await enter('second@example.org', 'another long password').expect(200);
  });
});

describe('the server’s health', () => {
  it('is 200 with the database and 503 without it, and a request then says what to expect', async () => {
    await supertest(school.app).get('/api/health').expect(200, { state: 'ok', database: 'ok' });
    const { makePool } = await import('../src/index.ts');
    const gone = makePool('postgres://rosemary_app:x@127.0.0.1:1/none', 1);
    const app = makeTestApp(gone, school.clock);
    await supertest(app).get('/api/health').expect(503);
    const answer = await supertest(app).get('/api/me').expect(503);
    expect(answer.body.type).toBe('urn:rosemary:database-away');
    await gone.end();
  });
});

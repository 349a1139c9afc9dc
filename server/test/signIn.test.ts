import supertest from 'supertest';
import { makeTestApp, makeSchool, PASSWORD, START, type TestSchool } from './school.ts';

let school: TestSchool;
beforeAll(async () => {
  school = await makeSchool('signin');
}, 60_000);
afterAll(() => school.close());
// Each begins with nobody waiting.
beforeEach(async () => {
  await school.pool.query('delete from wrong_try');
});

const enter = (email: string, password: string) => supertest(school.app).post('/api/sign-in').send({ email, password });

describe('signing in', () => {
  it('says the same of a wrong password and of an unknown address', async () => {
    const wrong = await enter('second@example.org', 'not the password').expect(401);
    const unknown = await enter('nobody@example.org', 'not the password').expect(401);
    expect(wrong.body.detail).toBe(unknown.body.detail);
  });

  it('makes whoever types wrong passwords wait, longer each time, whether the address is known or not', async () => {
    const said = async (email: string): Promise<unknown[]> => {
      const lines: unknown[] = [];
      school.clock.at = START;
      for (let n = 0; n < 6; n += 1) {
        const { status, body } = await enter(email, 'wrong');
        lines.push([status, body.detail]);
      }
      // Once the wait is over there is one try more, and the next wait is twice as long.
      school.clock.at = START + 5_001;
      const { status, body } = await enter(email, 'wrong');
      lines.push([status, body.detail]);
      return lines;
    };
    const known = await said('first@example.org');
    const plain = [401, 'The email or the password does not match. Check both and try again.'];
    expect(known).toEqual([
      ...[plain, plain, plain, plain],
      [401, 'The email or the password does not match. Wait 5 seconds and try again.'],
      [429, 'That was wrong too often. Wait 5 seconds and try again.'],
      [401, 'The email or the password does not match. Wait 10 seconds and try again.'],
    ]);
    expect(await said('nobody.at.all@example.org')).toEqual(known);
    school.clock.at = START;
  });

  it('never keeps the owner of an account out elsewhere, and tells them by mail', async () => {
    const far = (password: string) =>
      supertest(school.app).post('/api/sign-in').set('x-forwarded-for', '203.0.113.9').send({ email: 'assistant@example.org', password });
    for (let n = 0; n < 10; n += 1) {
      await far('wrong').expect(401);
      school.clock.at += 16 * 60_000;
    }
    await far('wrong').expect(401);
    await far(PASSWORD).expect(429);
    await enter('assistant@example.org', PASSWORD).expect(200);
    const { rows } = await school.pool.query("select address, subject from outbox where subject like 'Wrong passwords%'");
    expect(rows).toEqual([{ address: 'assistant@example.org', subject: 'Wrong passwords for your account' }]);
    // Right after its wait, and everything is forgotten.
    school.clock.at += 16 * 60_000;
    await far(PASSWORD).expect(200);
    await far('wrong').expect(401);
    await far(PASSWORD).expect(200);
    school.clock.at = START;
  });

  it('lets a hundred guesses at once be no way round the wait', async () => {
    const guesses = await Promise.all(Array.from({ length: 20 }, (_, n) => enter('administrator@example.org', `guess ${n}`)));
    const tried = guesses.filter((g) => g.status === 401);
    expect([tried.length, guesses.length - tried.length]).toEqual([5, 15]);
    school.clock.at = START + 60_000;
    await enter('administrator@example.org', PASSWORD).expect(200);
    school.clock.at = START;
  });

  it('names the field that is missing', async () => {
    const answer = await supertest(school.app).post('/api/sign-in').send({ email: 'x@example.org' }).expect(422);
    expect(answer.body.pointers).toEqual([{ field: 'password', text: 'Password is missing.' }]);
  });

  it('ends a session a day after it began, however often it is used', async () => {
    const agent = supertest.agent(school.app);
    await agent.post('/api/sign-in').send({ email: 'second@example.org', password: PASSWORD }).expect(200);
    await agent.get('/api/me/sessions').expect(200);
    await school.pool.query(
      "update session set sess = jsonb_set(sess::jsonb, '{begunAt}', to_jsonb((now() - interval '25 hours')::text))::json where sess ->> 'personId' = (select id::text from person where email = 'second@example.org')",
    );
    expect((await agent.get('/api/me/sessions').expect(401)).body.detail).toContain('Your session has ended');
    await agent.post('/api/sign-in').send({ email: 'second@example.org', password: PASSWORD }).expect(200);
    await agent.get('/api/me/sessions').expect(200);
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

  it('counts the sign-ins of a minute for all server processes together', async () => {
    const servers = [1, 2, 3].map(() => makeTestApp(school.pool, school.clock, 2));
    const tryOne = (app: (typeof servers)[number]) =>
      supertest(app).post('/api/sign-in').send({ email: 'spread@example.org', password: 'wrong' });
    const tries = [];
    for (const app of servers) tries.push((await tryOne(app)).status);
    expect(tries).toEqual([401, 401, 429]);
    // A minute later, the count begins anew, and what is over is cleared away.
    await school.pool.query("update sign_in_count set ends_at = now() - interval '1 second'");
    for (const app of servers.slice(1)) expect((await tryOne(app)).status).toBe(401);
    expect((await school.pool.query('select 1 from sign_in_count where ends_at <= now()')).rows).toEqual([]);
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
    await agent.post('/api/me/password').send({ current: 'another long password', next: PASSWORD }).expect(200);
  });

  it('takes the present password only so often', async () => {
    const agent = supertest.agent(school.app);
    await agent.post('/api/sign-in').send({ email: 'first@example.org', password: PASSWORD }).expect(200);
    const guess = () => agent.post('/api/me/password').send({ current: 'x', next: 'another long password' });
    for (let n = 0; n < 5; n += 1) await guess().expect(422);
    await guess().expect(429);
    await agent.post('/api/me/password').send({ current: PASSWORD, next: 'four unrelated quiet pines' }).expect(429);
    school.clock.at = START + 60_000;
    await agent.post('/api/me/password').send({ current: PASSWORD, next: 'four unrelated quiet pines' }).expect(200);
    await agent.post('/api/me/password').send({ current: 'four unrelated quiet pines', next: PASSWORD }).expect(200);
    school.clock.at = START;
  });

  it.each(['1234567890', '          ', 'aaaaaaaaaaaa', 'qwertyuiop', 'password123', 'first@example.org', 'FirstTester'])(
    'refuses “%s”, which is among the first that are tried',
    async (next) => {
      const agent = supertest.agent(school.app);
      await agent.post('/api/sign-in').send({ email: 'first@example.org', password: PASSWORD }).expect(200);
      const { status, body } = await agent.post('/api/me/password').send({ current: PASSWORD, next });
      expect([status, body.pointers[0].field]).toEqual([422, 'next']);
      expect(body.detail).toContain('among the first that are tried');
    },
  );

  it('lists where one is signed in, and ends the rest: asked for, and when the password is changed', async () => {
    await school.pool.query(
      "delete from session where sess ->> 'personId' = (select id::text from person where email = 'second@example.org')",
    );
    const [here, there, third] = [supertest.agent(school.app), supertest.agent(school.app), supertest.agent(school.app)];
    const firefox = 'Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0';
    const come = (agent: typeof here) =>
      agent.post('/api/sign-in').set('user-agent', firefox).send({ email: 'second@example.org', password: PASSWORD }).expect(200);
    for (const agent of [here, there, third]) await come(agent);
    const listed = (await here.get('/api/me/sessions').expect(200)).body.sessions;
    expect(listed.map((s: { browser: string; isThis: boolean }) => [s.browser, s.isThis])).toEqual([
      ['Firefox on Linux', true],
      ['Firefox on Linux', false],
      ['Firefox on Linux', false],
    ]);
    // What names a session in the list opens nothing.
    const { rows } = await school.pool.query('select sid from session');
    for (const { sid } of rows) expect(JSON.stringify(listed)).not.toContain(sid);
    expect((await here.post('/api/me/sessions/end').expect(200)).body.ended).toBe(2);
    await there.get('/api/me/sessions').expect(401);
    await third.get('/api/me/sessions').expect(401);
    await come(there);
    await here.post('/api/me/password').send({ current: PASSWORD, next: 'four unrelated quiet pines' }).expect(200);
    await there.get('/api/me/sessions').expect(401);
    expect((await here.get('/api/me/sessions').expect(200)).body.sessions).toHaveLength(1);
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

import { ask, HttpProblem, setHooks, TAB } from '../src/platform/http.ts';
import { makeSerial } from '../src/platform/serial.ts';
import { fakeServer, quietHooks, Refusal, Silence } from './server.ts';

const get = async (path: string): Promise<unknown> => (await ask('get', path)).answer;
beforeEach(() => {
  setHooks(quietHooks);
});

describe('a request', () => {
  it('carries its body, and the name of the tab it comes from', async () => {
    const server = fakeServer();
    server.on('PATCH /courses/c/items/i', () => ({ title: 'New' }));
    expect(await ask('patch', '/courses/c/items/i', { title: 'New' })).toMatchObject({ status: 200, answer: { title: 'New' } });
    expect(server.sent[0]).toMatchObject({ body: { title: 'New' }, headers: { 'content-type': 'application/json', 'x-tab': TAB } });
  });

  it('gives the server’s own words of a refusal, by field', async () => {
    const server = fakeServer();
    server.on('POST /courses', () => new Refusal(422, 'invalid', { pointers: [{ field: 'code', text: 'is in use' }] }));
    const error = await ask('post', '/courses', {}).catch((e: unknown) => e);
    expect(error).toBeInstanceOf(HttpProblem);
    const problem = error as HttpProblem;
    expect([problem.code, problem.field('code'), problem.field('title'), problem.isPassing]).toEqual(['invalid', 'is in use', null, false]);
  });

  it.each([
    ['the network is silent', () => new Silence(), true],
    ['the database is away', () => new Refusal(503, 'database-away'), true],
    ['the course is unknown', () => new Refusal(404, 'not-found'), false],
  ])('knows whether it is worth another try when %s', async (_, answer, isPassing) => {
    const server = fakeServer();
    server.on('GET /x', answer);
    const error = (await get('/x').catch((e: unknown) => e)) as HttpProblem;
    expect(error.isPassing).toBe(isPassing);
  });

  it('asks to sign in again when the session has ended, then goes out once more with the same body', async () => {
    const server = fakeServer();
    let isSignedIn = false;
    let asked = 0;
    setHooks({
      ...quietHooks,
      signInAgain: () => {
        asked += 1;
        isSignedIn = true;
        return Promise.resolve();
      },
    });
    server.on('PUT /draft', () => (isSignedIn ? { version: 2 } : new Refusal(401, 'not-signed-in')));
    expect((await ask('put', '/draft', { text: 'typed meanwhile' })).answer).toEqual({ version: 2 });
    expect(asked).toBe(1);
    expect(server.bodies('PUT /draft')).toEqual([{ text: 'typed meanwhile' }, { text: 'typed meanwhile' }]);
  });

  it('asks whom a change is for where students are taking the quiz, and goes out once more with what was chosen', async () => {
    const server = fakeServer();
    const asked = { titles: ['“Bearings”'], fields: ['the time limit'], canKeep: true, running: [] };
    const choices: ('keep' | 'give' | null)[] = ['keep', null];
    setHooks({ ...quietHooks, askRunning: (whom) => (expect(whom).toEqual(asked), Promise.resolve(choices.shift() ?? null)) });
    server.on('PUT /quiz', ({ headers }) => (headers['x-running'] === undefined ? new Refusal(409, 'running', { current: asked }) : {}));
    expect(await ask('put', '/quiz', { limitMinutes: 1 })).toMatchObject({ status: 200, forRunning: { 'x-running': 'keep' } });
    expect(server.sent.map((one) => one.headers['x-running'])).toEqual([undefined, 'keep']);
    const left = (await ask('put', '/quiz', { limitMinutes: 1 }).catch((e: unknown) => e)) as HttpProblem;
    expect([left.code, left.message]).toEqual(['running', 'Nothing was changed.']);
    expect(server.sent).toHaveLength(3);
  });

  it('looks through a student’s eyes only inside that course', async () => {
    const server = fakeServer();
    setHooks({ ...quietHooks, seeAs: () => ({ courseId: 'c', enrolmentId: 'e', on: '2026-12-01T12:00:00Z' }) });
    server.on('GET /courses/c/own/week', () => ({}));
    server.on('GET /courses/d/own/week', () => ({}));
    await get('/courses/c/own/week');
    await get('/courses/d/own/week');
    expect(server.sent.map((s) => [s.headers['x-see-as'], s.headers['x-see-on']])).toEqual([
      ['e', '2026-12-01T12:00:00Z'],
      [undefined, undefined],
    ]);
  });
});

describe('work done one after another', () => {
  it('keeps its order, and goes on after a failure', async () => {
    const serial = makeSerial();
    const done: string[] = [];
    let free: () => void = () => undefined;
    const first = serial(async () => {
      await new Promise<void>((go) => {
        free = go;
      });
      done.push('first');
    });
    const second = serial(() => Promise.reject(new Error('no')));
    const third = serial(() => {
      done.push('third');
      return Promise.resolve('value');
    });
    expect(done).toEqual([]);
    await Promise.resolve();
    free();
    await first;
    await expect(second).rejects.toThrow('no');
    expect(await third).toBe('value');
    expect(done).toEqual(['first', 'third']);
  });
});

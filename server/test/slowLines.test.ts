import { paragraphs } from '@rosemary/api';
import { randomBytes } from 'node:crypto';
import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import { connect, type AddressInfo, type Socket } from 'node:net';
import { readConfig, serve } from '../src/index.ts';
import { makeSchool, makeTestApp, PASSWORD, type TestSchool } from './school.ts';

/** Lines that break off, drip or are not read: nobody else waits for them, and nothing of the database is held by them. */
let school: TestSchool;
let server: Server;
let port = 0;
const MOST = 8; // Connections of the school's pool.

beforeAll(async () => {
  school = await makeSchool('slow_lines');
  await school.pool.query('update assignment set most_bytes = 90000000, most_files = 10 where item_id = $1', [school.itemId]);
  server = createServer(makeTestApp(school.pool, school.clock));
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  ({ port } = server.address() as AddressInfo);
}, 60_000);
afterAll(async () => {
  server.closeAllConnections();
  server.close();
  await school.close();
});

async function cookieOf(email: string, at = port): Promise<string> {
  const answer = await fetch(`http://127.0.0.1:${at}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email, password: PASSWORD }),
  });
  return (answer.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
}

const get = (path: string, cookie: string, at = port): Promise<Response> =>
  fetch(`http://127.0.0.1:${at}/api${path}`, { headers: { cookie } });

/** Waits until something holds; each look is a question to the server or its pool, so that nothing is waited for by the clock alone. */
async function until(holds: () => boolean | Promise<boolean>): Promise<void> {
  while (!(await holds())) await new Promise((done) => setImmediate(done));
}

/** The head of an upload and the first bytes of its file, on a line of its own. */
async function beginUpload(path: string, cookie: string, at = port, length = 1_000_000): Promise<Socket> {
  const line = connect(at, '127.0.0.1');
  line.on('error', () => undefined);
  await once(line, 'connect');
  const head = `--b\r\ncontent-disposition: form-data; name="file"; filename="a.pdf"\r\ncontent-type: application/pdf\r\n\r\n%PDF-1.4\n`;
  line.write(
    `POST /api${path} HTTP/1.1\r\nhost: 127.0.0.1:${at}\r\ncookie: ${cookie}\r\ncontent-type: multipart/form-data; boundary=b\r\ncontent-length: ${length}\r\n\r\n${head}`,
  );
  return line;
}

const isIdle = (): boolean => school.pool.idleCount === school.pool.totalCount && school.pool.waitingCount === 0;

describe('uploads that break off', () => {
  it('hold no connection and no lock, and their student goes on', async () => {
    const cookie = await cookieOf('first@example.org');
    const own = `/courses/${school.courseId}/own/items/${school.itemId}`;
    for (let n = 0; n < 3 * MOST; n += 1) {
      const line = await beginUpload(`${own}/files`, cookie);
      if (n % 2 === 0) line.destroy();
      else line.resume().end();
      await once(line, 'close');
    }
    await until(isIdle);
    const item = await school.agents.student.get(`/api${own}`).expect(200);
    const saved = await school.agents.student
      .put(`/api${own}/draft`)
      .send({ document: paragraphs('Goes on.'), version: item.body.draft.version });
    expect(saved.status).toBe(200);
    const file = Buffer.concat([Buffer.from('%PDF-1.4\n'), randomBytes(2000)]);
    await school.agents.student.post(`/api${own}/files`).attach('file', file, 'whole.pdf').expect(200);
  });

  it('are six at once of one person at most, and take nothing from others', async () => {
    const cookie = await cookieOf('first@example.org');
    const own = `/courses/${school.courseId}/own/items/${school.itemId}`;
    const lines = await Promise.all(Array.from({ length: 6 }, () => beginUpload(`${own}/files`, cookie)));
    // The seventh is refused once the six before it were let in.
    let [status, body] = [0, { detail: '', id: '' }];
    await until(async () => {
      const form = new FormData();
      form.set('file', new Blob(['%PDF-1.4 seventh'], { type: 'application/pdf' }), `seventh${status}.pdf`);
      const answer = await fetch(`http://127.0.0.1:${port}/api${own}/files`, { method: 'POST', headers: { cookie }, body: form });
      [status, body] = [answer.status, (await answer.json()) as { detail: string; id: string }];
      if (status === 200) {
        // It came before the six were in, and one of them may have been refused in its place: another line begins, and its file goes
        // out again, so that the draft never holds as many as it may.
        await school.agents.student.delete(`/api${own}/files/${body.id}`).expect(200);
        lines.push(await beginUpload(`${own}/files`, cookie));
      }
      return status !== 200;
    });
    expect([status, body.detail]).toEqual([429, '6 files of yours are on their way already. Let one of them arrive first.']);
    const others = Array.from({ length: 3 * MOST }, () => school.agents.second.get(`/api${own}`).expect(200));
    await Promise.all(others);
    for (const line of lines) line.destroy();
    await until(isIdle);
  });
});

describe('downloads that nobody reads', () => {
  it('leave every connection to the others', async () => {
    const cookie = await cookieOf('instructor@example.org');
    await school.agents.instructor
      .post(`/api/courses/${school.courseId}/files`)
      .attach('file', Buffer.concat([Buffer.from('%PDF-1.4\n'), randomBytes(20_000_000)]), 'large.pdf')
      .expect(200);
    const lines: Socket[] = [];
    for (let n = 0; n < 3 * MOST; n += 1) {
      const line = connect(port, '127.0.0.1');
      line.on('error', () => undefined);
      line.write(`GET /api/courses/${school.courseId}/archive HTTP/1.1\r\nhost: 127.0.0.1:${port}\r\ncookie: ${cookie}\r\n\r\n`);
      // The first bytes are taken, and no more: its window is full soon.
      await once(line, 'readable');
      lines.push(line);
    }
    await until(isIdle);
    expect((await get('/health', '')).status).toBe(200);
    expect((await get('/me', cookie)).status).toBe(200);
    for (const line of lines) line.destroy();
    await until(isIdle);
  });
});

describe('a server that is told to end', () => {
  it('answers what is under way, sends lines of events away, lets nobody new in, and ends', async () => {
    const running = await serve(
      readConfig({ PORT: '0', ROSEMARY_DATABASE_URL: school.url, ROSEMARY_SESSION_SECRET: 'test', ROSEMARY_CLOCK: '2026-10-05T09:00:00Z' }),
    );
    const at = (running.server.address() as AddressInfo).port;
    const cookie = await cookieOf('second@example.org', at);
    const events = await fetch(`${running.url}/api/courses/${school.courseId}/events`, {
      headers: { cookie, accept: 'text/event-stream' },
    });
    const body = Buffer.from('%PDF-1.4 the rest of it\r\n--b--\r\n');
    const head = 'content-disposition: form-data; name="file"; filename="a.pdf"';
    const length = Buffer.byteLength(`--b\r\n${head}\r\ncontent-type: application/pdf\r\n\r\n%PDF-1.4\n`) + body.length;
    const line = await beginUpload(`/courses/${school.courseId}/own/items/${school.itemId}/files`, cookie, at, length);
    // It is let in once its session was looked up; the request that follows it on another line is answered after that.
    await until(async () => (await get('/me', cookie, at)).status === 200);
    let said = '';
    line.on('data', (part: Buffer) => {
      said += part.toString();
    });
    const ended = running.stop();
    expect(await events.text()).toMatch(/retry: \d+\n\n$/);
    await expect(fetch(`http://127.0.0.1:${at}/api/health`)).rejects.toThrow();
    line.write(body);
    await once(line, 'close');
    expect(said).toMatch(/^HTTP\/1\.1 200 /);
    expect(said).toContain('"name":"a.pdf"');
    await ended;
  });
});

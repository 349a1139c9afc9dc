import type { StudentItem, Work } from '@rosemary/api';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { keepLinks } from '../src/handIn/linkCopy.ts';
import { rows, run, withDb } from '../src/index.ts';
import { isOutside } from '../src/platform/fetchOutside.ts';
import { doJob, makeSchool, renewItem, type TestSchool } from './school.ts';

/** Work handed in as a link: what stood there is kept, and nothing of the house is fetched. */
let school: TestSchool;

let site: Server;

let host: string;

const asked: string[] = [];

const PAGE = `<html><head><title>My log</title><script>alert(1)</script></head><body><h1>Day one</h1>
  <p>The wheel was <a href="/more">clean</a>. <a href="javascript:alert(1)">Run</a></p><img src="http://127.0.0.1/spy.png"></body></html>`;

beforeAll(async () => {
  school = await makeSchool('links');
  site = createServer((request, response) => {
    const path = request.url ?? '';
    asked.push(path);
    const answers: Record<string, () => void> = {
      '/log': () => response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(PAGE),
      '/away': () => response.writeHead(302, { location: '/log' }).end(),
      '/inside': () => response.writeHead(302, { location: `http://localhost:${host.split(':')[1] ?? ''}/secret` }).end(),
      '/closed': () => response.writeHead(403).end('no'),
      '/round': () => response.writeHead(302, { location: '/round' }).end(),
      '/large': () => {
        response.writeHead(200, { 'content-type': 'text/plain' });
        const part = Buffer.alloc(1_048_576, 'a');
        const send = (left: number): void => {
          if (left === 0) response.end();
          else
            response.write(part, () => {
              send(left - 1);
            });
        };
        response.on('error', () => undefined);
        send(22);
      },
      '/drawing.pdf': () =>
        response
          .writeHead(200, { 'content-type': 'application/pdf' })
          .end('%PDF-1.4\n1 0 obj<</Type/Catalog>>endobj\ntrailer<</Root 1 0 R>>\n%%EOF\n'),
      '/odd.bin': () => response.writeHead(200, { 'content-type': 'application/octet-stream' }).end(Buffer.from([0, 1, 2, 3, 255, 0])),
    };
    (answers[path] ?? (() => response.writeHead(404).end()))();
  });
  await new Promise<void>((done) => {
    site.listen(0, '127.0.0.1', done);
  });
  host = `127.0.0.1:${(site.address() as AddressInfo).port}`;
}, 60_000);

beforeEach(async () => {
  school = await renewItem(school);
  await withDb(school.pool, true, (db) => run(db, 'update assignment set accepts_link = true where item_id = $1', [school.itemId]));
  process.env.ROSEMARY_LINK_HOSTS = host;
  asked.length = 0;
});

afterAll(async () => {
  delete process.env.ROSEMARY_LINK_HOSTS;
  site.closeAllConnections();
  site.close();
  await school.close();
});

const own = (): string => `/api/courses/${school.courseId}/own/items/${school.itemId}`;

async function handInLink(link: string): Promise<void> {
  await school.agents.student.put(`${own()}/draft-link`).send({ link }).expect(200);
  const { version } = ((await school.agents.student.get(own()).expect(200)).body as StudentItem).draft ?? { version: 0 };
  await school.agents.student
    .post(`${own()}/hand-in`)
    .send({ note: '', key: `link-${school.itemId}`, version })
    .expect(200);
}

const look = (): Promise<number> => doJob(school, keepLinks);

const copy = async () => {
  const { body } = await school.agents.instructor
    .get(`/api/courses/${school.courseId}/marking/${school.itemId}/${school.students[0]}`)
    .expect(200);
  return (body as Work).attempts[0]?.linkCopy ?? null;
};

async function kept(path: string) {
  await handInLink(`http://${host}${path}`);
  expect(await look()).toBe(1);
  return copy();
}

describe('which addresses are outside', () => {
  it.each([
    '127.0.0.1',
    '10.1.2.3',
    '192.168.0.1',
    '172.20.0.1',
    '169.254.169.254',
    '100.64.0.1',
    '0.0.0.0',
    '::1',
    'fe80::1',
    'fd00::1',
    '::ffff:127.0.0.1',
    'nonsense',
  ])('not %s', (address) => {
    expect(isOutside(address)).toBe(false);
  });
  it.each(['93.184.216.34', '2606:2800:220:1:248:1893:25c8:1946'])('but %s', (address) => {
    expect(isOutside(address)).toBe(true);
  });
});

describe('the copy of a handed-in link', () => {
  it('is not there until it was looked at, and is made once', async () => {
    await handInLink(`http://${host}/log`);
    expect(await copy()).toBeNull();
    expect(await look()).toBe(1);
    expect(await look()).toBe(0);
    expect(asked).toEqual(['/log']);
  });

  it('holds the words of a page, with its links and without what runs', async () => {
    const found = await kept('/log');
    expect(found).toMatchObject({ state: 'kept', title: 'My log', said: 'It can be opened without signing in.' });
    const text = JSON.stringify(found?.document);
    expect(text).toContain('Day one');
    expect(text).toContain(`http://${host}/more`);
    expect(text).not.toMatch(/javascript|alert|spy/);
  });

  it('holds the bytes as they came, which the student and those who mark may fetch and nobody else', async () => {
    const found = await kept('/away');
    const url = found?.file?.url ?? '';
    for (const who of ['instructor', 'student'] as const) {
      const answer = await school.agents[who].get(`${url}?download`).buffer(true).expect(200);
      expect(answer.headers['content-disposition']).toContain('attachment');
      expect(answer.text).toBe(PAGE);
    }
    await school.agents.second.get(url).expect(404);
    await school.agents.outsider.get(url).expect(404);
    expect(found?.file?.name).toBe('log.html');
  });

  it('is a file where a file stands there', async () => {
    const found = await kept('/drawing.pdf');
    expect(found).toMatchObject({ state: 'kept', document: null, file: { name: 'drawing.pdf', mediaType: 'application/pdf' } });
  });

  it.each([
    ['/closed', 'refused', 'It lets in only those who are signed in there (it answered 403).'],
    ['/nothing', 'refused', 'There is nothing at this address (it answered 404).'],
    ['/round', 'refused', 'It leads from one address to the next without end.'],
    ['/large', 'large', 'It is larger than 20 MB.'],
    ['/inside', 'inside', 'It leads into a private network, where nothing is fetched.'],
    ['/odd.bin', 'kept', 'It can be opened without signing in; what stands there is of a kind of which no copy is kept.'],
  ])('says of %s that it is %s', async (path, state, said) => {
    expect(await kept(path)).toMatchObject({ state, said, file: null });
    expect(asked).not.toContain('/secret');
    const { body } = await school.agents.student.get(own()).expect(200);
    expect((body as StudentItem).attempts[0]?.linkCopy?.said).toBe(said);
  });

  it('asks nothing of its own house, by number or by name', async () => {
    delete process.env.ROSEMARY_LINK_HOSTS;
    expect(await kept('/log')).toMatchObject({ state: 'inside' });
    expect(asked).toEqual([]);
  });

  it('tries three times where nobody answers, and then no more', async () => {
    process.env.ROSEMARY_LINK_HOSTS = '127.0.0.1:1';
    await handInLink('http://127.0.0.1:1/log');
    for (const minute of [0, 1, 2, 3]) {
      school.clock.at += minute * 60_000;
      await look();
    }
    expect(await copy()).toMatchObject({ state: 'away', said: 'Nobody answered at this address.' });
    const tries = await withDb(school.pool, false, (db) => rows<{ tries: number }>(db, "select tries from link_copy where state = 'away'"));
    expect(tries).toEqual([{ tries: 3 }]);
  });
});

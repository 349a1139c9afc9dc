import { once } from 'node:events';
import { createServer, request as ask, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { routes as implemented } from '../src/routes.ts';
import { makeSchool, makeTestApp, PASSWORD, type TestSchool } from './school.ts';

/** Requests that no page of ours would send, to every endpoint there is: each is refused with a reason, and none is a fault of ours. */
let school: TestSchool;
let server: Server;
let port = 0;
const cookies: Record<string, string> = {};
const WHO = ['instructor@example.org', 'first@example.org', 'administrator@example.org', ''] as const;

beforeAll(async () => {
  school = await makeSchool('fuzz');
  server = createServer(makeTestApp(school.pool, school.clock));
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  ({ port } = server.address() as AddressInfo);
  for (const email of WHO.filter((who) => who !== '')) await signIn(email);
}, 60_000);
afterAll(async () => {
  server.closeAllConnections();
  server.close();
  await school.close();
});

async function signIn(email: string): Promise<void> {
  const answer = await fetch(`http://127.0.0.1:${port}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email, password: PASSWORD }),
  });
  cookies[email] = (answer.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
}

interface Sent {
  readonly method: string;
  readonly path: string;
  readonly headers: Record<string, string>;
  readonly body: Buffer | string;
}

/** As bytes on a line: `fetch` would mend an address that is written wrong. */
function send({ method, path, headers, body }: Sent): Promise<{ status: number; text: string }> {
  return new Promise((done, fail) => {
    const going = ask({ host: '127.0.0.1', port, method, path, headers }, (answer) => {
      let text = '';
      answer.setEncoding('utf8');
      answer.on('data', (part: string) => {
        text += part;
        // A line of events goes on for ever.
        if (path.includes('/events')) going.destroy();
      });
      answer.on('close', () => {
        done({ status: answer.statusCode ?? 0, text });
      });
    });
    going.on('error', fail);
    going.end(body);
  });
}

/** A seeded generator (mulberry32): the same requests each time. */
function makeChance(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

const chance = makeChance(20_261_130);
const pick = <T>(list: readonly T[]): T => list[Math.floor(chance() * list.length)] as T;

const NOWHERE = '00000000-0000-4000-8000-000000000000';
const strange = (): unknown =>
  pick<() => unknown>([
    () => null,
    () => 'a\u0000b',
    () => '',
    () => `[${NOWHERE}]`,
    () => `{${NOWHERE}}`,
    () => NOWHERE.replaceAll('-', ''),
    () => NOWHERE,
    () => -1,
    () => 1e308,
    () => 9_007_199_254_740_993,
    () => 0.1,
    () => [],
    () => ({}),
    () => [[[[]]]],
    () => 'x'.repeat(5000),
    () => '2026-99-99T99:99:99Z',
    () => '2026-11-18T10:20:00Z',
    () => '+275760-09-13T00:00:00.001Z',
    () => '\ud800',
    () => ({ type: 'doc', content: [{ type: 'paragraph', attrs: { colspan: 1e9 } }] }),
    () => true,
    () => '%',
    () => '(a?){900}a{900}',
    () => school.itemId,
    () => school.courseId,
    () => school.students[0],
    () => school.unitId,
  ])();

/** Names that bodies use: with any of them something is set that a handler may look at. */
const NAMES =
  'id itemId itemIds enrolmentId enrolmentIds columnId unitId sectionId sectionIds title body document version state raw score seenEventId reason email password kind position at dueAt opensAt closesAt ids answer device turn key note name size code points possible choices feedback questionId folderId subject audience variants categoryId categories levels periods total isAboveConfirmed isDraft'.split(
    ' ',
  );
const bodyOf = (): unknown => Object.fromEntries(Array.from({ length: Math.floor(chance() * 6) }, () => [pick(NAMES), strange()]));

const HEADERS: readonly Record<string, string>[] = [
  { 'content-type': 'application/json; charset=klingon' },
  { 'content-type': 'application/json', 'content-encoding': 'snappy' },
  { 'content-type': 'application/json', 'content-encoding': 'gzip' },
  { 'content-type': 'application/json;charset="' },
  { 'content-type': 'multipart/form-data' },
  { 'content-type': 'multipart/form-data; boundary=b' },
  { 'content-type': 'application/octet-stream' },
  { 'content-type': 'text/plain' },
  { range: 'bytes=9-1' },
  { 'x-ripple': 'mind' },
  { 'x-ripple': 'show' },
  { 'x-see-as': 'nobody' },
  { 'x-see-on': 'never', 'x-see-as': NOWHERE },
  { 'x-running': 'perhaps' },
  { accept: 'text/event-stream' },
  { 'if-none-match': '*' },
];

const QUERIES = [
  '?a=1&a=2',
  '?q=%00',
  '?q=%',
  '?q=%E0%A4%A',
  '?folder=x&section=x&of=x&version=x&from=x',
  '?from=-1',
  '?q[]=1&q[x]=2',
  '?unit=%27',
];

const endpoints = implemented.map((route) => route.endpoint);
const MANY = Number(process.env.FUZZ_EACH ?? '30');

function sentTo(endpoint: (typeof endpoints)[number], n: number): Sent {
  const id = (name: string): string =>
    n === 0
      ? ({ courseId: school.courseId, itemId: school.itemId, unitId: school.unitId, enrolmentId: school.students[0] }[name] ?? NOWHERE)
      : pick([NOWHERE, school.itemId, school.courseId, '%E0%A4%A', '%', '%00', `[${NOWHERE}]`, 'x']);
  const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) => (name === 'courseId' && chance() < 0.8 ? school.courseId : id(name)));
  const body = pick([
    () => JSON.stringify(bodyOf()),
    () => JSON.stringify(bodyOf()),
    () => JSON.stringify(bodyOf()),
    () => '{"a":',
    () => `${'['.repeat(20_000)}${']'.repeat(20_000)}`,
    () => Buffer.from([0xff, 0xfe, 0x00]),
    () => '--b\r\ncontent-disposition: form-data; name="file"; filename="a\u0000.pdf"\r\n\r\nx\r\n--b--\r\n',
    () => 'null',
  ])();
  const cookie = cookies[pick(WHO)] ?? '';
  return {
    method: endpoint.method.toUpperCase(),
    path: `/api${path}${chance() < 0.3 ? pick(QUERIES) : ''}`,
    headers: {
      'content-type': 'application/json',
      ...(chance() < 0.3 ? pick(HEADERS) : {}),
      'content-length': String(Buffer.byteLength(body)),
      ...(cookie === '' ? {} : { cookie }),
    },
    body,
  };
}

describe('requests that are written wrong', () => {
  it('never meet a fault of ours', async () => {
    const faults: string[] = [];
    const sent = endpoints.flatMap((endpoint) => Array.from({ length: MANY }, (_, n) => sentTo(endpoint, n)));
    const left = [...sent];
    const hand = async (): Promise<void> => {
      for (let one = left.shift(); one !== undefined; one = left.shift()) {
        const { status, text } = await send(one);
        if (status >= 500 || status === 0)
          faults.push(
            `${status} ${one.method} ${one.path} ${JSON.stringify(one.headers)} ${one.body.toString().slice(0, 300)} → ${text.slice(0, 200)}`,
          );
        if (status === 401 && one.path.startsWith('/api/sign-out')) for (const email of WHO.filter((w) => w !== '')) await signIn(email);
      }
    };
    await Promise.all(Array.from({ length: 8 }, hand));
    expect(faults).toEqual([]);
    expect(sent.length).toBeGreaterThan(2000);
  }, 240_000);
});

import { makePool, rows, withDb } from '@rosemary/server';
import { connect, type Socket } from 'node:net';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { ask as askServer, call, enter, server } from './served.ts';
import { ZipFile } from 'yazl';

/** What one can do to all: broken-off uploads, slow readers, a crowd of open pages that reload at once, a key made to take long, a Word file that unpacks to half a gigabyte. */
const PORT = Number(process.env.PORT ?? 3950);
const [UPLOADS, READERS] = [25, 200];
/** So many lines of events one person may hold open. */
const STREAMS_EACH = 30;
const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 4);
const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));
const ask = <T extends object>(sql: string, values: unknown[] = []): Promise<T[]> =>
  withDb(pool, false, (db) => rows<T & Record<string, unknown>>(db, sql, values));

const url = `http://127.0.0.1:${PORT}/api`;
const courses = await enter();
const courseId = courses[0]?.id ?? '';

/** A cookie for each of so many people, who are given the password of the demo's instructor. */
async function cookiesOf(people: readonly { readonly id: string; readonly email: string }[]): Promise<string[]> {
  await pool.query("update person set password_hash = (select password_hash from person where given_name = 'Ines') where id = any($1)", [
    people.map((p) => p.id),
  ]);
  const cookies: string[] = [];
  for (const { email } of people) {
    const answer = await fetch(`${url}/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email, password: 'tallowmere-bench' }),
    });
    if (!answer.ok) throw new Error(`${email} is not signed in: ${answer.status} ${await answer.text()}`);
    cookies.push(answer.headers.getSetCookie()[0]?.split(';')[0] ?? '');
  }
  return cookies;
}
const students = await ask<{ id: string; email: string }>(
  "select p.id, p.email from enrolment e join person p on p.id = e.person_id where e.course_id = $1 and e.role = 'student' and e.withdrawn_at is null and not e.is_sample order by p.id",
  [courseId],
);
const cookies = await cookiesOf(students);
const STREAMS = cookies.length * STREAMS_EACH;

/** How long health and a Desk take, again and again, until it is told to end. */
async function watched(name: string, work: () => Promise<string>): Promise<void> {
  const worst = { health: 0, desk: 0 };
  let failed = 0;
  let isOver = false;
  const watch = async (what: 'health' | 'desk'): Promise<void> => {
    while (!isOver) {
      const begun = performance.now();
      const isAnswered = await fetch(`${url}/${what}`, { headers: { cookie: cookies[0] ?? '' } }).then(
        (answer) => answer.ok,
        () => false,
      );
      if (!isAnswered) failed += 1;
      worst[what] = Math.max(worst[what], performance.now() - begun);
      await pause(50);
    }
  };
  const watching = Promise.all([watch('health'), watch('desk')]);
  const said = await work();
  isOver = true;
  await watching;
  process.stdout.write(
    `siege, ${name}: ${said}; meanwhile health at most ${worst.health.toFixed(0)} ms, a Desk ${worst.desk.toFixed(0)} ms, ${failed} not answered\n`,
  );
}

/** A request by hand: what is sent, and nothing read. */
function open(text: string): Promise<Socket> {
  return new Promise((done, fail) => {
    const socket = connect(PORT, '127.0.0.1', () => {
      socket.write(text);
      done(socket);
    });
    socket.on('error', fail);
  });
}
const head = (method: string, path: string, cookie: string, more = ''): string =>
  `${method} /api${path} HTTP/1.1\r\nhost: 127.0.0.1:${PORT}\r\ncookie: ${cookie}\r\n${more}\r\n`;

await watched('the same without any of it', async () => {
  await pause(5000);
  return 'nothing else';
});

const [taken] = await ask<{ id: string }>(
  'select i.id from item i join assignment a on a.item_id = i.id where i.course_id = $1 and a.accepts_files and not i.is_draft and i.removed_at is null and (i.closes_at is null or i.closes_at > now()) limit 1',
  [courseId],
);
await watched(`${UPLOADS} uploads of one student broken off`, async () => {
  const sockets: Socket[] = [];
  for (let n = 0; n < UPLOADS; n += 1) {
    const form = 'content-type: multipart/form-data; boundary=b\r\ncontent-length: 5000000\r\n';
    const part = '--b\r\ncontent-disposition: form-data; name="file"; filename="a.pdf"\r\n\r\n%PDF-1.4 ';
    sockets.push(await open(head('POST', `/courses/${courseId}/own/items/${taken?.id ?? ''}/files`, cookies[1] ?? '', form) + part));
  }
  await pause(1000);
  for (const socket of sockets) socket.destroy();
  await pause(2000);
  const held = await ask<{ many: number }>(
    "select count(*)::int as many from pg_stat_activity where datname = current_database() and state like 'idle in transaction%'",
  );
  const begun = performance.now();
  const own = await fetch(`${url}/courses/${courseId}/own/outline`, { headers: { cookie: cookies[1] ?? '' } });
  return `${held[0]?.many ?? 0} connections held two seconds later, that student answered ${own.status} in ${(performance.now() - begun).toFixed(0)} ms`;
});

await watched(`${READERS} who read nothing of an archive they asked for`, async () => {
  const teachers = await cookiesOf(
    await ask<{ id: string; email: string }>(
      "select distinct p.id, p.email from enrolment e join person p on p.id = e.person_id where e.role = 'instructor' and e.course_id = $1",
      [courseId],
    ),
  );
  const readers = [...cookies, ...teachers];
  const [file] = await ask<{ id: string }>(
    'select f.id from file f join file_blob b on b.sha256 = f.sha256 join item_file i on i.file_id = f.id where f.course_id = $1 order by b.size desc limit 1',
    [courseId],
  );
  const sockets = await Promise.all(
    Array.from({ length: READERS }, async (_, n) => {
      const path = n % 10 === 0 ? `/courses/${courseId}/archive` : `/courses/${courseId}/files/${file?.id ?? ''}`;
      const socket = await open(head('GET', path, readers[n % readers.length] ?? ''));
      socket.pause();
      return socket;
    }),
  );
  await pause(20_000);
  for (const socket of sockets) socket.destroy();
  return '20 s of it';
});

await watched(`${STREAMS} open pages that read again at once`, async () => {
  let [greeted, heard, read] = [0, 0, 0];
  const readAgain = async (n: number): Promise<void> => {
    for (let tries = 0; tries < 100; tries += 1) {
      const isRead = await fetch(`${url}/courses/${courseId}/announcements`, {
        headers: { cookie: cookies[n % cookies.length] ?? '' },
      }).then(
        (answer) => answer.ok,
        () => false,
      );
      if (isRead) {
        read += 1;
        return;
      }
      await pause(500);
    }
  };
  const sockets = await Promise.all(
    Array.from({ length: STREAMS }, async (_, n) => {
      const socket = await open(
        head('GET', `/courses/${courseId}/events`, cookies[n % cookies.length] ?? '', 'accept: text/event-stream\r\n'),
      );
      socket.setEncoding('utf8');
      socket.on('data', (text: string) => {
        if (text.includes('retry: ')) greeted += 1;
        if (!text.includes('"topic":"talk"')) return;
        heard += 1;
        void readAgain(n);
      });
      return socket;
    }),
  );
  for (const until = performance.now() + 60_000; greeted < STREAMS && performance.now() < until;) await pause(20);
  const begun = performance.now();
  await call('POST', `/courses/${courseId}/announcements`, {
    ...{ version: 0, title: 'Siege', publishAt: '2026-11-18T10:00:00Z', sectionIds: [], tells: false },
    document: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Read again.' }] }] },
  });
  while (read < STREAMS && performance.now() - begun < 90_000) await pause(20);
  for (const socket of sockets) socket.destroy();
  return `${greeted} listened, ${heard} heard it and ${read} had read again after ${((performance.now() - begun) / 1000).toFixed(1)} s`;
});

await watched('a calculated question and a pattern made to take long', async () => {
  const rules = { units: [], isUnitNeeded: false, decimals: null, isSignFree: false };
  const question = {
    parameters: [{ name: 'x', from: '1', to: '20', step: '1', decimals: 0 }],
    conditions: ['sin(exp(x*20)) > 2', 'exp(-x*1000000) > 1'],
    formula: 'x',
    tolerance: { kind: 'relative', percent: '1' },
  };
  const words = { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: `Siege ${randomUUID()}` }] }] };
  const accepted = [{ text: '(a?){900}a{900}', isPattern: true, share: 100_000 }];
  const keys = [
    { kind: 'calculated', question, rules },
    { kind: 'short', rules: { accepted, caseMatters: false, spaceMatters: false } },
  ];
  const said: string[] = [];
  for (const key of keys) {
    const begun = performance.now();
    const made = await call<{ id: string }>('POST', `/courses/${courseId}/bank/questions`, { words, key });
    const saved = performance.now() - begun;
    await call('POST', `/courses/${courseId}/bank/questions/${made.id}/rehearsal`, {
      seed: 'x',
      answer: { kind: 'text', text: 'a'.repeat(900) },
    });
    said.push(`${key.kind} saved in ${saved.toFixed(0)} ms and tried in ${(performance.now() - begun - saved).toFixed(0)} ms`);
  }
  return said.join(', ');
});

/** The most memory the server has held since it began, in megabytes. */
const peak = (): number => Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid ?? 0}/status`, 'utf8'))?.[1] ?? 0) / 1024;

/** Packed before anything is watched: packing it keeps this very program busy. */
const zip = new ZipFile();
zip.addBuffer(
  Buffer.from(
    '<Types><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
  ),
  '[Content_Types].xml',
);
zip.addBuffer(Buffer.alloc(480 * 1_048_576, '<w:t>a</w:t>'), 'word/document.xml');
zip.end();
const packed: Buffer[] = [];
for await (const part of zip.outputStream) packed.push(part as Buffer);
const bomb = Buffer.concat(packed);
await watched('a Word file that unpacks to 480 MB, handed in, matched and opened without names', async () => {
  const before = peak();
  const itemId = taken?.id ?? '';
  await pool.query("update assignment set anonymous = 'release', file_types = '{word}' where item_id = $1", [itemId]);
  const own = `${url}/courses/${courseId}/own/items/${itemId}`;
  const headers = { cookie: cookies[2] ?? '' };
  const form = new FormData();
  form.append('file', new Blob([bomb]), 'siege.docx');
  const stored = await fetch(`${own}/files`, { method: 'POST', headers, body: form });
  if (!stored.ok) throw new Error(`The Word file was not stored: ${stored.status} ${await stored.text()}`);
  const item = (await (await fetch(own, { headers })).json()) as { draft: { version: number } };
  const body = JSON.stringify({ note: '', key: `siege-${randomUUID()}`, version: item.draft.version });
  const handed = await fetch(`${own}/hand-in`, { method: 'POST', headers: { ...headers, 'content-type': 'application/json' }, body });
  const begun = performance.now();
  await call('POST', `/courses/${courseId}/matching/${itemId}/run`);
  const runs = (): Promise<{ said: string }[]> =>
    ask<{ said: string }>('select said from match_run where item_id = $1 and ended_at is not null', [itemId]);
  while ((await runs()).length === 0 && performance.now() - begun < 120_000) await pause(200);
  const matched = performance.now() - begun;
  const { entries } = await call<{ entries: { enrolmentId: string; files: number }[] }>('GET', `/courses/${courseId}/marking/${itemId}`);
  let opened = 'its work was not found';
  for (const { enrolmentId } of entries.filter((e) => e.files > 0)) {
    const work = `/courses/${courseId}/marking/${itemId}/${enrolmentId}`;
    const { attempts } = await call<{ attempts: { files: { id: string; size: number }[] }[] }>('GET', work);
    const file = attempts.flatMap((a) => a.files).find((f) => f.size === bomb.length);
    if (file === undefined) continue;
    const from = performance.now();
    opened = await askServer('GET', `${work}/files/${file.id}`).then(
      async (answer) => `${answer.status}, ${(await answer.arrayBuffer()).byteLength} bytes`,
      (error: Error) => error.message.slice(0, 200),
    );
    opened += ` in ${(performance.now() - from).toFixed(0)} ms`;
  }
  return `${(bomb.length / 1000).toFixed(0)} kB stored ${stored.status}, handed in ${handed.status}, matched in ${(matched / 1000).toFixed(1)} s, opened: ${opened}; the server held at most ${before.toFixed(0)} MB before and ${peak().toFixed(0)} MB after`;
});

server.kill();
await pool.end();

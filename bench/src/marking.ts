import { paragraphs } from '@rosemary/api';
import { addCourse, makePool, rows, run, serve, readConfig, withDb, type Db } from '@rosemary/server';
import { randomUUID } from 'node:crypto';
import { By, until, type WebDriver } from 'selenium-webdriver';
// @ts-expect-error the start scripts are plain modules
import { openBrowser } from '../../scripts/browser.mjs';

/** A stack of 1,000 works: time to usable, the next of 90; 500 works as an archive; fifty hand in 20 MB while ten mark. */
const STUDENTS = 1000;
const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 4);
const one = async <T extends object>(db: Db, sql: string, values: unknown[] = []): Promise<T> =>
  (await rows<T & Record<string, unknown>>(db, sql, values))[0] as T;

interface Filled {
  readonly courseId: string;
  readonly itemId: string;
  readonly personId: string;
}
async function fill(db: Db): Promise<Filled> {
  const { id: personId } = await one<{ id: string }>(db, "select id from person where given_name = 'Ines'");
  const { id: termId } = await one<{ id: string }>(db, "select id from term where title = 'Autumn'");
  const course = { code: 'BENCH-M', run: String(Date.now()).slice(-9), title: 'Large stack', termId, timeZone: 'Europe/Lisbon' };
  const courseId = await addCourse(db, { ...course, instructorId: personId, sections: ['One'] }, true);
  const { id: section } = await one<{ id: string }>(db, 'select id from section where course_id = $1', [courseId]);
  const { password_hash: hash } = await one<{ password_hash: string }>(db, 'select password_hash from person where id = $1', [personId]);
  await run(
    db,
    "with p as (insert into person (email, given_name, family_name, password_hash) select 'm' || n || $2 || '@bench.example', 'Given' || n, 'Family' || n, $5 from generate_series(1, $3::int) n returning id) insert into enrolment (course_id, person_id, role, section_id) select $1, id, 'student', $4 from p",
    [courseId, courseId, STUDENTS, section, hash],
  );
  const { id: unit } = await one<{ id: string }>(db, "insert into unit (course_id, title, position) values ($1, 'Unit', 0) returning id", [
    courseId,
  ]);
  const { id: itemId } = await one<{ id: string }>(
    db,
    "with i as (insert into item (course_id, kind, title, is_draft, done_rule, due_at, release_mode) values ($1, 'assignment', 'Essay', false, 'handed in', now() + interval '9 days', 'hand') returning id, course_id), c as (insert into grade_column (course_id, item_id, role, possible) select course_id, id, 'work', 50 from i) select id from i",
    [courseId],
  );
  await run(db, 'insert into unit_item (unit_id, item_id, position) values ($1, $2, 0)', [unit, itemId]);
  await run(
    db,
    'insert into assignment (item_id, instructions, accepts_files, most_bytes, attempts_allowed) values ($1, $2, true, 31457280, 50)',
    [itemId, paragraphs('Write.')],
  );
  const text = Array.from({ length: 400 }, (_, n) => `word${n % 97}`).join(' ');
  await run(
    db,
    `with s as (insert into submission (item_id, enrolment_id) select $1, id from enrolment where course_id = $2 and role = 'student' and not is_sample returning id)
     insert into attempt (submission_id, number, document, word_count, content_hash, handed_in_at, handed_in_by, idempotency_key) select id, 1, $3, 400, repeat('a', 64), now(), $4, 'bench' from s`,
    [itemId, courseId, paragraphs(text, text), personId],
  );
  return { courseId, itemId, personId };
}

const filled = await withDb(pool, true, fill);
const { courseId, itemId, personId } = filled;
await pool.query('analyze');
const running = await serve(readConfig(process.env));
const base = `/courses/${courseId}/marking/${itemId}`;
const signIn = async (body: object, path: string): Promise<string> => {
  const answer = await fetch(`${running.url}/api${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  return (answer.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
};
const cookie = await signIn({ personId }, '/demo/sign-in');
const at = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;

async function stackInBrowser(): Promise<void> {
  const driver = (await openBrowser()) as WebDriver;
  try {
    await driver.manage().setTimeouts({ script: 120_000 });
    await driver.get(`${running.url}/sign-in`);
    await driver.wait(until.elementLocated(By.css('form')), 10_000);
    await driver.executeAsyncScript(
      "const done = arguments[1]; fetch('/api/demo/sign-in', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ personId: arguments[0] }) }).then(() => done())",
      personId,
    );
    const began = performance.now();
    await driver.get(`${running.url}${base}`);
    await driver.wait(until.elementLocated(By.css('.entry.on')), 30_000);
    await driver.wait(until.elementLocated(By.css('#work-text')), 30_000);
    const usable = performance.now() - began;
    const bare = await driver.executeAsyncScript<number>(
      'const done = arguments[1]; const t = performance.now(); fetch("/api" + arguments[0]).then((r) => r.arrayBuffer()).then(() => done(performance.now() - t))',
      base,
    );
    process.stdout.write(
      `stack of ${STUDENTS}: usable, with its first work open, ${usable.toFixed(0)} ms after the address is entered; ${(usable / bare).toFixed(1)} × its answer fetched bare (${bare.toFixed(0)} ms)\n`,
    );
    const times = await driver.executeAsyncScript<number[][] | string>(`const done = arguments[0]; (async () => {
      const shown = []; const bare = []; const name = () => document.querySelector('.hd h1').textContent;
      for (let n = 0; n < 90; n += 1) {
        await new Promise((r) => setTimeout(r, 250));
        const before = name(); const at = performance.now();
        document.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }));
        while (name() === before || !document.querySelector('#work-text')) {
          if (performance.now() - at > 15000) throw new Error('the next work did not come after ' + n + ': ' + location.pathname + ' ' + document.body.innerText.slice(0, 400));
          await new Promise((r) => setTimeout(r, 1));
        }
        shown.push(performance.now() - at);
        const again = performance.now();
        await (await fetch('/api' + location.pathname)).arrayBuffer();
        bare.push(performance.now() - again);
      }
      return [shown, bare]; })().then(done, (e) => done(String(e)))`);
    if (typeof times === 'string') throw new Error(times);
    const [shown = [], fetched = []] = times.map((list) => [...list].sort((a, b) => a - b));
    process.stdout.write(
      `next work readable, over 90 works, loaded ahead: median ${at(shown, 0.5).toFixed(0)} ms, 99th percentile ${at(shown, 0.99).toFixed(0)} ms; ${(at(shown, 0.5) / at(fetched, 0.5)).toFixed(2)} × a bare fetch of the same bytes (median ${at(fetched, 0.5).toFixed(0)} ms)\n`,
    );
  } finally {
    await driver.quit();
  }
}

async function archive(): Promise<void> {
  await withDb(pool, true, async (db) => {
    const bytes = Buffer.alloc(200_000, 65);
    bytes.write('%PDF-1.4\n');
    await run(db, "insert into file_blob (sha256, size, media_type) values ($1, $2, 'application/pdf') on conflict do nothing", [
      Buffer.alloc(32, 9),
      bytes.length,
    ]);
    await run(db, 'insert into file_chunk (sha256, number, bytes) values ($1, 0, $2) on conflict do nothing', [Buffer.alloc(32, 9), bytes]);
    await run(
      db,
      `with a as (select a.id, row_number() over (order by a.id) as n from attempt a join submission s on s.id = a.submission_id where s.item_id = $1 limit 500),
         f as (insert into file (id, course_id, sha256, name, owner_id, created_at) select gen_random_uuid(), $2, $3, 'work ' || n || '.pdf', $4, now() from a returning id, name)
       insert into attempt_file (attempt_id, file_id, position) select a.id, f.id, 0 from a join f on f.name = 'work ' || a.n || '.pdf'`,
      [itemId, courseId, Buffer.alloc(32, 9), personId],
    );
  });
  let peak = 0;
  const before = process.memoryUsage().rss;
  const watch = setInterval(() => {
    peak = Math.max(peak, process.memoryUsage().rss);
  }, 20);
  const began = performance.now();
  const answer = await fetch(`${running.url}/api${base}/works.zip`, { headers: { cookie } });
  let bytes = 0;
  for await (const part of answer.body as unknown as AsyncIterable<Uint8Array>) bytes += part.length;
  clearInterval(watch);
  const took = performance.now() - began;
  const readAt = performance.now();
  await withDb(pool, false, async (db) => {
    for (let n = 0; n < 500; n += 1) await rows(db, 'select bytes from file_chunk where sha256 = $1', [Buffer.alloc(32, 9)]);
  });
  const floor = performance.now() - readAt;
  process.stdout.write(
    `archive of ${STUDENTS} works, 500 of them with a file of 200 kB: ${(took / 1000).toFixed(1)} s, ${(bytes / 1_048_576).toFixed(1)} MB packed; the process (server and reader in one) grew by ${((peak - before) / 1_048_576).toFixed(0)} MB at most; ${(took / floor).toFixed(1)} × reading the files’ bytes from the database (${floor.toFixed(0)} ms)\n`,
  );
}

/** One student hands in a file of 20 MB in parts, as the browser does. */
async function handIn(cookie: string, key: number): Promise<number> {
  const own = `${running.url}/api/courses/${courseId}/own/items/${itemId}`;
  const headers = { cookie };
  const json = { ...headers, 'content-type': 'application/json' };
  const bytes = Buffer.alloc(20_971_520, key % 251);
  bytes.write(`%PDF-1.4\n${key}`);
  const id = randomUUID();
  let faults = 0;
  const check = (answer: Response): void => {
    if (!answer.ok) faults += 1;
  };
  check(
    await fetch(`${own}/uploads`, { method: 'POST', headers: json, body: JSON.stringify({ id, name: 'work.pdf', size: bytes.length }) }),
  );
  for (let from = 0; from < bytes.length; from += 1_048_576)
    check(
      await fetch(`${own}/uploads/${id}/part?from=${from}`, {
        method: 'PUT',
        headers: { ...headers, 'content-type': 'application/octet-stream' },
        body: bytes.subarray(from, from + 1_048_576),
      }),
    );
  check(await fetch(`${own}/uploads/${id}/done`, { method: 'POST', headers: json }));
  const item = (await (await fetch(own, { headers })).json()) as { draft: { version: number } };
  const body = JSON.stringify({ note: '', key: `bench-${id}`, version: item.draft.version });
  check(await fetch(`${own}/hand-in`, { method: 'POST', headers: json, body }));
  return faults;
}

async function rush(): Promise<void> {
  const people = await withDb(pool, false, (db) =>
    rows<{ email: string; enrolment_id: string }>(
      db,
      'select p.email, e.id as enrolment_id from enrolment e join person p on p.id = e.person_id where e.course_id = $1 and e.role = $2 and not e.is_sample order by p.email limit 60',
      [courseId, 'student'],
    ),
  );
  const cookies: string[] = [];
  for (const { email } of people.slice(0, 50)) cookies.push(await signIn({ email, password: 'tallowmere-bench' }, '/sign-in'));
  const saves: number[] = [];
  let faults = 0;
  let isOver = false;
  const json = { cookie, 'content-type': 'application/json' };
  const markers = people.slice(50).map(async ({ enrolment_id: id }) => {
    for (let n = 0; !isOver; n += 1) {
      const body = { version: n, choices: {}, score: (n % 50) * 1000, scoreReason: '', feedback: null };
      const began = performance.now();
      const answer = await fetch(`${running.url}/api${base}/${id}/mark`, { method: 'PUT', headers: json, body: JSON.stringify(body) });
      saves.push(performance.now() - began);
      if (!answer.ok) faults += 1;
      await new Promise((done) => {
        setTimeout(done, 300);
      });
    }
  });
  const began = performance.now();
  const wrong = await Promise.all(cookies.map((own, n) => handIn(own, n)));
  const took = performance.now() - began;
  isOver = true;
  await Promise.all(markers);
  saves.sort((a, b) => a - b);
  const plainAt = performance.now();
  await withDb(pool, true, async (db) => {
    await run(db, 'create temporary table bare (n int, bytes bytea) on commit drop');
    const bytes = Buffer.alloc(1_048_576, 1);
    for (let n = 0; n < 200; n += 1) await run(db, 'insert into bare values ($1, $2)', [n, bytes]);
  });
  const floor = (performance.now() - plainAt) * 5;
  process.stdout.write(
    `fifty students hand in 20 MB each at once while ten mark: ${(took / 1000).toFixed(1)} s (${((50 * 20_971_520) / 1_048_576 / (took / 1000)).toFixed(0)} MB/s), errors ${wrong.reduce((a, b) => a + b, 0) + faults}; ${saves.length} marks saved, median ${at(saves, 0.5).toFixed(0)} ms, slowest ${(saves.at(-1) ?? 0).toFixed(0)} ms; ${(took / floor).toFixed(1)} × inserting the same bytes plainly, once and unlogged (${(floor / 1000).toFixed(1)} s)\n`,
  );
}

await stackInBrowser();
await archive();
await rush();
await running.stop();
await pool.end();

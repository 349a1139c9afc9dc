import { paragraphs } from '@rosemary/api';
import { addCourse, drawPeers, getPeerSetting, makePool, rows, run, savePeer, withDb, type Db } from '@rosemary/server';
import { ask as askServer, enter, server } from './served.ts';

/**
 * 300 students of one course review at once: each saves a review every two seconds, then all hand in together; then all read what others
 * saw in their works within the same moment, as they do when results come out. What was acknowledged is looked for afterwards.
 */
const [STUDENTS, EVERY_MS] = [300, 2000];
const SECONDS = Number(process.env.REVIEWING_SECONDS ?? '40');
const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 20);
const url = `http://127.0.0.1:${process.env.PORT ?? 3950}/api`;
const now = Date.parse(process.env.ROSEMARY_CLOCK ?? new Date().toISOString());
const HOUR = 3_600_000;
const one = async <T extends object>(db: Db, sql: string, values: unknown[] = []): Promise<T> =>
  (await rows<T & Record<string, unknown>>(db, sql, values))[0] as T;

interface Filled {
  readonly courseId: string;
  readonly itemId: string;
  readonly people: readonly { readonly id: string; readonly email: string }[];
}
/** A course with a work of everybody, due an hour ago, given out to three others each. */
async function fill(db: Db): Promise<Filled> {
  const { id: personId } = await one<{ id: string }>(db, "select id from person where given_name = 'Ines'");
  const { id: termId } = await one<{ id: string }>(db, "select id from term where title = 'Autumn'");
  const course = { code: 'BENCH-P', run: String(Date.now()).slice(-9), title: 'Reviews', termId, timeZone: 'Europe/Lisbon' };
  const courseId = await addCourse(db, { ...course, instructorId: personId, sections: ['One'] }, true);
  await run(db, 'update course set is_open = true where id = $1', [courseId]);
  const people = await rows<{ id: string; email: string }>(
    db,
    `with p as (insert into person (email, given_name, family_name, password_hash) select 'r' || n || $3 || '@bench.example', 'Given' || n, 'Family' || n, (select password_hash from person where id = $4) from generate_series(1, $2::int) n returning id, email),
       e as (insert into enrolment (course_id, person_id, role, section_id) select $1, p.id, 'student', (select id from section where course_id = $1) from p)
     select id, email from p`,
    [courseId, STUDENTS, courseId, personId],
  );
  const { id: unit } = await one<{ id: string }>(db, "insert into unit (course_id, title, position) values ($1, 'Unit', 0) returning id", [
    courseId,
  ]);
  const { id: itemId } = await one<{ id: string }>(
    db,
    `with i as (insert into item (course_id, kind, title, is_draft, done_rule, due_at, release_mode) values ($1, 'assignment', 'Essay', false, 'handed in', to_timestamp($2 / 1000.0), 'hand') returning id, course_id),
       c as (insert into grade_column (course_id, item_id, role, possible) select course_id, id, 'work', 100 from i) select id from i`,
    [courseId, now - HOUR],
  );
  await run(db, 'insert into unit_item (unit_id, item_id, position) values ($1, $2, 0)', [unit, itemId]);
  await run(db, 'insert into assignment (item_id, instructions, accepts_text) values ($1, $2, true)', [itemId, paragraphs('Write.')]);
  await run(
    db,
    `with s as (insert into submission (item_id, enrolment_id) select $1, id from enrolment where course_id = $2 and role = 'student' and not is_sample returning id)
     insert into attempt (submission_id, number, document, word_count, content_hash, handed_in_at, handed_in_by, idempotency_key) select id, 1, $3, 400, repeat('a', 64), to_timestamp($4 / 1000.0), $5, 'bench' from s`,
    [itemId, courseId, paragraphs('An essay of some length. '.repeat(60)), now - 2 * HOUR, personId],
  );
  const { setting } = await getPeerSetting(db, courseId, itemId, now);
  const dates = { reviewsDueAt: new Date(now + 48 * HOUR).toISOString(), resultsAt: null };
  await savePeer(db, courseId, itemId, { ...setting, ...dates, isOn: true, reviewing: { possible: 10_000, categoryId: null } }, now);
  await drawPeers(db, courseId, itemId, { asksForMore: false, dropsPast: false }, now, 'bench');
  return { courseId, itemId, people };
}
const { courseId, itemId, people } = await withDb(pool, true, fill);
await pool.query('analyze');
await enter();

/** One request of one student; anything but 200 is a fault of the benchmark. */
async function ask<T>(cookie: string, method: string, path: string, body?: unknown): Promise<T> {
  const headers = { cookie, ...(body === undefined ? {} : { 'content-type': 'application/json' }) };
  const answer = await fetch(`${url}${path}`, { method, headers, body: body === undefined ? null : JSON.stringify(body) });
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${(await answer.text()).slice(0, 200)}`);
  return (await answer.json()) as T;
}
interface Reviewer {
  readonly cookie: string;
  readonly reviewId: string;
  readonly choices: Readonly<Record<string, string>>;
  version: number;
  words: string;
}
const own = `/courses/${courseId}/items/${itemId}/own-reviews`;
async function sitDown({ email }: { readonly email: string }): Promise<Reviewer> {
  const signed = await fetch(`${url}/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email, password: 'tallowmere-bench' }),
  });
  const cookie = signed.headers.getSetCookie()[0]?.split(';')[0] ?? '';
  const { owed } = await ask<{ owed: { id: string }[] }>(cookie, 'GET', own);
  const reviewId = owed[0]?.id ?? '';
  const { form, version } = await ask<{ version: number; form: { criteria: { id: string; levels: { id: string }[] }[] } }>(
    cookie,
    'GET',
    `${own}/${reviewId}`,
  );
  const choices = Object.fromEntries(form.criteria.flatMap((c) => (c.levels[2] === undefined ? [] : [[c.id, c.levels[2].id]])));
  return { cookie, reviewId, choices, version, words: '' };
}
const at = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
const inWords = (times: number[]): string => {
  times.sort((a, b) => a - b);
  return `median ${at(times, 0.5).toFixed(1)} ms, 99th percentile ${at(times, 0.99).toFixed(1)} ms, slowest ${at(times, 1).toFixed(0)} ms`;
};

const reviewers: Reviewer[] = [];
for (let n = 0; n < people.length; n += 20) reviewers.push(...(await Promise.all(people.slice(n, n + 20).map(sitDown))));

/** The floor: the same row written and committed at the same rate, with nothing round it. */
const bare: number[] = [];
const going: Promise<void>[] = [];
const begun = performance.now();
for (let n = 0; n < 5 * (STUDENTS / (EVERY_MS / 1000)); n += 1) {
  const wait = begun + (n * EVERY_MS) / STUDENTS - performance.now();
  if (wait > 1) await new Promise((done) => setTimeout(done, wait));
  const from = performance.now();
  const { reviewId = '' } = reviewers[n % reviewers.length] ?? {};
  going.push(
    pool.query('update review set seconds = seconds where id = $1', [reviewId]).then(() => {
      bare.push(performance.now() - from);
    }),
  );
}
await Promise.all(going);
process.stdout.write(`reviewing: floor, a bare update at the rate of ${STUDENTS} who save each ${EVERY_MS / 1000} s: ${inWords(bare)}\n`);

const alone1: number[] = [];
for (const r of reviewers.slice(0, 50)) {
  const from = performance.now();
  const body = { choices: r.choices, given: {}, comments: {}, words: 'Words', version: r.version, seconds: 2 };
  r.version = (await ask<{ version: number }>(r.cookie, 'PUT', `${own}/${r.reviewId}`, body)).version;
  alone1.push(performance.now() - from);
}
process.stdout.write(`reviewing: a save alone: ${inWords(alone1)}\n`);

const saves: number[] = [];
const until = performance.now() + SECONDS * 1000;
await Promise.all(
  reviewers.map(async (r, n) => {
    await new Promise((done) => setTimeout(done, (n * EVERY_MS) / STUDENTS));
    for (let turn = 1; performance.now() < until; turn += 1) {
      const from = performance.now();
      const body = {
        choices: r.choices,
        given: {},
        comments: {},
        words: `Words, the ${turn}th time. `.repeat(20),
        version: r.version,
        seconds: 2,
      };
      r.version = (await ask<{ version: number }>(r.cookie, 'PUT', `${own}/${r.reviewId}`, body)).version;
      r.words = body.words;
      saves.push(performance.now() - from);
      await new Promise((done) => setTimeout(done, Math.max(0, EVERY_MS - (performance.now() - from))));
    }
  }),
);
const held = await pool.query<{ id: string; words: string }>('select id, words from review where item_id = $1', [itemId]);
const kept = new Map(held.rows.map((r) => [r.id, r.words]));
const lost = reviewers.filter((r) => kept.get(r.reviewId) !== r.words).length;
const said = inWords(saves);
process.stdout.write(
  `reviewing: ${saves.length} saves acknowledged in ${SECONDS} s, lost ${lost}; ${said} (${(at(saves, 0.5) / at(bare, 0.5)).toFixed(1)} × the floor)\n`,
);

/** All of them within one moment. */
async function together(words: string, act: (r: Reviewer) => Promise<unknown>): Promise<void> {
  const times: number[] = [];
  const from = performance.now();
  await Promise.all(
    reviewers.map(async (r) => {
      await act(r);
      times.push(performance.now() - from);
    }),
  );
  process.stdout.write(`reviewing: ${words} by ${STUDENTS} within one moment: ${inWords(times)}\n`);
}
await together('a review handed in', (r) => ask(r.cookie, 'POST', `${own}/${r.reviewId}/hand-in`, { version: r.version }));
await together('the list of their reviews read', (r) => ask(r.cookie, 'GET', own));
// The other two of each are given as the first was.
await pool.query(
  `update review r set handed_in_at = first.handed_in_at, choices = first.choices, words = first.words, saved_at = first.saved_at, form = first.form, attempt_id = (select a.id from attempt a where a.submission_id = r.submission_id limit 1)
   from (select distinct on (enrolment_id) * from review where item_id = $1 and handed_in_at is not null order by enrolment_id) first
   where r.item_id = $1 and r.handed_in_at is null and first.enrolment_id = r.enrolment_id`,
  [itemId],
);
const results = performance.now();
await askServer('POST', `/courses/${courseId}/items/${itemId}/peer/results`);
process.stdout.write(
  `reviewing: results of ${STUDENTS} works and ${STUDENTS * 3} reviews given: ${(performance.now() - results).toFixed(0)} ms\n`,
);
const board = performance.now();
await askServer('GET', `/courses/${courseId}/items/${itemId}/peer/board`);
process.stdout.write(`reviewing: the board of them: ${(performance.now() - board).toFixed(0)} ms\n`);
const alone = performance.now();
await ask(reviewers[0]?.cookie ?? '', 'GET', own);
process.stdout.write(`reviewing: what one of them got, read alone: ${(performance.now() - alone).toFixed(0)} ms\n`);
await together('what others saw read', (r) => ask(r.cookie, 'GET', own));
server.kill();
await pool.end();

import { paragraphs } from '@rosemary/api';
import { addCourse, makePool, rows, run, withDb, type Db } from '@rosemary/server';
import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { Agent, request } from 'node:http';
// @ts-expect-error the start scripts are plain modules
import { spawnServer } from '../../scripts/serverProcess.mjs';

/**
 * 500 people at one quiz, each saving an answer every two seconds; the same while ten people mark and the server is killed ten times, and
 * while they mark and the database crashes five times; at last all hand in while the server is killed. What was acknowledged is looked for afterwards.
 */
const TAKERS = 500;
const MARKERS = 10;
const [KILLS, CRASHES] = [10, 5];
const QUESTIONS = 10;
const EVERY_MS = 2000;
const SECONDS = Number(process.env.TAKING_SECONDS ?? '120');
const PORT = Number(process.env.PORT ?? '3950');
const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 20);
const agent = new Agent({ keepAlive: true, maxSockets: 600 });
const one = async <T extends object>(db: Db, sql: string, values: unknown[] = []): Promise<T> =>
  (await rows<T & Record<string, unknown>>(db, sql, values))[0] as T;

interface Taker {
  readonly personId: string;
  readonly email: string;
  cookie: string;
  attemptId: string;
  questions: readonly string[];
}
interface Filled {
  readonly courseId: string;
  readonly itemId: string;
  readonly takers: Taker[];
  readonly essayId: string;
  /** Whose essays there are to mark. */
  readonly enrolmentIds: string[];
  readonly instructorId: string;
}
async function fill(db: Db): Promise<Filled> {
  const { id: personId } = await one<{ id: string }>(db, "select id from person where given_name = 'Ines'");
  const { id: termId } = await one<{ id: string }>(db, "select id from term where title = 'Autumn'");
  const course = { code: 'BENCH-T', run: String(Date.now()).slice(-9), title: 'Examination', termId, timeZone: 'Europe/Lisbon' };
  const courseId = await addCourse(db, { ...course, instructorId: personId, sections: ['One'] }, true);
  await run(db, 'update course set is_open = true where id = $1', [courseId]);
  const people = await rows<{ id: string; email: string }>(
    db,
    `with p as (insert into person (email, given_name, family_name, password_hash) select 't' || n || $3 || '@bench.example', 'Given' || n, 'Family' || n, (select password_hash from person where id = $4) from generate_series(1, $2::int) n returning id, email),
       e as (insert into enrolment (course_id, person_id, role, section_id) select $1, p.id, 'student', (select id from section where course_id = $1) from p)
     select id, email from p`,
    [courseId, TAKERS, courseId, personId],
  );
  const { id: unit } = await one<{ id: string }>(db, "insert into unit (course_id, title, position) values ($1, 'Unit', 0) returning id", [
    courseId,
  ]);
  const { id: itemId } = await one<{ id: string }>(
    db,
    "with i as (insert into item (course_id, kind, title, is_draft, done_rule, release_mode) values ($1, 'quiz', 'Examination', false, 'handed in', 'finished') returning id, course_id), c as (insert into grade_column (course_id, item_id, role, possible) select course_id, id, 'work', $2 from i) select id from i",
    [courseId, QUESTIONS],
  );
  await run(db, 'insert into unit_item (unit_id, item_id, position) values ($1, $2, 0)', [unit, itemId]);
  await run(db, 'insert into quiz (item_id, instructions, limit_minutes) values ($1, $2, 120)', [itemId, paragraphs('Take your time.')]);
  const { id: folder } = await one<{ id: string }>(db, "insert into bank_folder (title, subject) values ('BENCH-T', $1) returning id", [
    `BENCH-T ${courseId}`,
  ]);
  const { id: section } = await one<{ id: string }>(db, 'insert into quiz_section (item_id, position) values ($1, 0) returning id', [
    itemId,
  ]);
  const rules = { accepted: [{ text: 'yes', isPattern: false, share: 100_000 }], caseMatters: false, spaceMatters: false };
  for (let n = 0; n < QUESTIONS; n += 1) {
    const { id } = await one<{ id: string }>(
      db,
      'insert into question (folder_id, author_id, created_at) values ($1, $2, now()) returning id',
      [folder, personId],
    );
    await run(
      db,
      "insert into question_version (question_id, number, kind, words, plain, key, feedback, made_by, made_at) values ($1, 1, 'short', $2, $3, $4, $5, $6, now())",
      [id, paragraphs(`Question ${n}`), `Question ${n}`, { kind: 'short', rules }, { right: null, wrong: null, general: null }, personId],
    );
    await run(db, 'insert into quiz_part (section_id, position, question_id, question_version, points) values ($1, $2, $3, 1, 1)', [
      section,
      n,
      id,
    ]);
  }
  const { id: essayId } = await one<{ id: string }>(
    db,
    "with i as (insert into item (course_id, kind, title, is_draft, done_rule, due_at, release_mode) values ($1, 'assignment', 'Essay', false, 'handed in', now() + interval '9 days', 'hand') returning id, course_id), c as (insert into grade_column (course_id, item_id, role, possible) select course_id, id, 'work', 1000 from i) select id from i",
    [courseId],
  );
  await run(db, 'insert into unit_item (unit_id, item_id, position) values ($1, $2, 1)', [unit, essayId]);
  await run(db, 'insert into assignment (item_id, instructions, accepts_text) values ($1, $2, true)', [essayId, paragraphs('Write.')]);
  const works = await rows<{ enrolment_id: string }>(
    db,
    `with s as (insert into submission (item_id, enrolment_id) select $1, id from enrolment where course_id = $2 and role = 'student' and not is_sample returning id, enrolment_id),
       a as (insert into attempt (submission_id, number, document, word_count, content_hash, handed_in_at, handed_in_by, idempotency_key) select id, 1, $3, 2, repeat('a', 64), now() - interval '30 days', $4, 'bench' from s)
     select enrolment_id from s order by enrolment_id`,
    [essayId, courseId, paragraphs('An essay'), personId],
  );
  const enrolmentIds = works.map((w) => w.enrolment_id);
  return {
    courseId,
    itemId,
    essayId,
    enrolmentIds,
    instructorId: personId,
    takers: people.map((p) => ({ personId: p.id, email: p.email, cookie: '', attemptId: '', questions: [] })),
  };
}

const { courseId, itemId, takers, essayId, enrolmentIds, instructorId } = await withDb(pool, true, fill);
await pool.query('analyze');

const running: { server: ChildProcess | null } = { server: null };
async function start(): Promise<void> {
  const env = { ...process.env, NODE_ENV: 'production', PORT: String(PORT) };
  running.server = spawnServer(env) as ChildProcess;
  for (;;) {
    if ((await ask('GET', '/health', '', undefined)).status === 200) return;
    await new Promise((done) => setTimeout(done, 50));
  }
}
interface Answer {
  readonly status: number;
  readonly body: string;
  readonly cookie: string;
}
/** One request; status 0 is nobody there. */
function ask(method: string, path: string, cookie: string, body: unknown): Promise<Answer> {
  return new Promise((done) => {
    const sent = body === undefined ? '' : JSON.stringify(body);
    const asked = request(
      {
        ...{ host: '127.0.0.1', port: PORT, path: `/api${path}`, method, agent, timeout: 30_000 },
        headers: { cookie, ...(sent === '' ? {} : { 'content-type': 'application/json', 'content-length': Buffer.byteLength(sent) }) },
      },
      (answer) => {
        let text = '';
        answer.setEncoding('utf8');
        answer.on('data', (part: string) => {
          text += part;
        });
        answer.on('close', () => {
          done({
            status: answer.complete ? (answer.statusCode ?? 0) : 0,
            body: text,
            cookie: (answer.headers['set-cookie']?.[0] ?? '').split(';')[0] ?? '',
          });
        });
      },
    );
    const away = (): void => {
      done({ status: 0, body: '', cookie: '' });
    };
    asked.on('error', away);
    asked.on('timeout', () => asked.destroy());
    asked.end(sent);
  });
}

const own = `/courses/${courseId}/own/quizzes/${itemId}/attempts`;
async function sitDown(taker: Taker): Promise<void> {
  taker.cookie = (await ask('POST', '/sign-in', '', { email: taker.email, password: 'tallowmere-bench' })).cookie;
  const begun = await ask('POST', own, taker.cookie, { key: randomUUID(), code: '' });
  taker.attemptId = (JSON.parse(begun.body) as { attemptId: string }).attemptId;
  const paper = await ask('GET', `${own}/${taker.attemptId}`, taker.cookie, undefined);
  if (paper.status !== 200)
    throw new Error(`The paper was answered ${paper.status}: ${paper.body.slice(0, 200)} (begun: ${begun.body.slice(0, 200)})`);
  const { taking } = JSON.parse(paper.body) as { taking: { sections: { questions: { id: string }[] }[] } };
  taker.questions = taking.sections.flatMap((s) => s.questions.map((q) => q.id));
}
const at = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;

/** What was acknowledged, to be looked for afterwards. */
const acknowledged = new Map<string, string>();
let turn = 0;
interface Load {
  readonly times: number[];
  saves: number;
  tries: number;
}
async function keepSaving(taker: Taker, n: number, until: number, load: Load): Promise<void> {
  await new Promise((done) => setTimeout(done, (n * EVERY_MS) / TAKERS));
  for (let count = 0; performance.now() < until; count += 1) {
    const begun = performance.now();
    turn += 1;
    const questionId = taker.questions[count % taker.questions.length] ?? '';
    const text = `answer ${turn}`;
    const body = {
      answer: { kind: 'text', text },
      isFlagged: false,
      device: `bench-${taker.personId.slice(0, 8)}`,
      turn,
      seen: 0,
      seconds: 2,
    };
    for (;;) {
      load.tries += 1;
      const answer = await ask('PUT', `${own}/${taker.attemptId}/answers/${questionId}`, taker.cookie, body);
      if (answer.status === 200) break;
      if (answer.status !== 0 && answer.status !== 503)
        throw new Error(`A save was answered ${answer.status}: ${answer.body.slice(0, 200)}`);
      await new Promise((done) => setTimeout(done, 250));
    }
    acknowledged.set(`${taker.attemptId} ${questionId}`, text);
    load.times.push(performance.now() - begun);
    load.saves += 1;
    await new Promise((done) => setTimeout(done, Math.max(0, EVERY_MS - (performance.now() - begun))));
  }
}
async function lost(): Promise<number> {
  const found = await pool.query<{ key: string; text: string }>(
    "select a.attempt_id || ' ' || a.question_id as key, a.answer ->> 'text' as text from quiz_answer a join quiz_attempt t on t.id = a.attempt_id where t.item_id = $1",
    [itemId],
  );
  const held = new Map(found.rows.map((r) => [r.key, r.text]));
  return [...acknowledged].filter(([key, text]) => held.get(key) !== text).length;
}
async function measure(name: string, seconds: number, meanwhile: () => Promise<void>): Promise<number> {
  const load: Load = { times: [], saves: 0, tries: 0 };
  const until = performance.now() + seconds * 1000;
  await Promise.all([...takers.map((taker, n) => keepSaving(taker, n, until, load)), meanwhile()]);
  load.times.sort((a, b) => a - b);
  process.stdout.write(
    `${name}: ${load.saves} saves acknowledged in ${seconds} s (${load.tries} tries), lost ${await lost()}; median ${at(load.times, 0.5).toFixed(1)} ms, 99th percentile ${at(load.times, 0.99).toFixed(1)} ms, slowest ${at(load.times, 1).toFixed(0)} ms\n`,
  );
  return at(load.times, 0.5);
}

/** The floor: one row inserted and committed, at the same rate, with nothing round it. */
async function bareInserts(seconds: number): Promise<number> {
  const times: number[] = [];
  const { attemptId = '', questions = [] } = takers[0] ?? {};
  const going: Promise<void>[] = [];
  const many = (seconds * 1000 * TAKERS) / EVERY_MS;
  const begun = performance.now();
  for (let n = 0; n < many; n += 1) {
    const wait = begun + (n * EVERY_MS) / TAKERS - performance.now();
    if (wait > 1) await new Promise((done) => setTimeout(done, wait));
    const from = performance.now();
    going.push(
      pool
        .query(
          "insert into quiz_answer_event (attempt_id, question_id, answer, device, turn, at) values ($1, $2, '{}', 'floor', 0, now())",
          [attemptId, questions[0]],
        )
        .then(() => {
          times.push(performance.now() - from);
        }),
    );
  }
  await Promise.all(going);
  times.sort((a, b) => a - b);
  process.stdout.write(
    `floor, a bare insert at the same rate: median ${at(times, 0.5).toFixed(1)} ms, 99th percentile ${at(times, 0.99).toFixed(1)} ms\n`,
  );
  return at(times, 0.5);
}

/** As many others whose attempts are open and answered, written straight into the database: nobody sits there when their time is over. */
async function seatOthers(): Promise<void> {
  await withDb(pool, true, async (db) => {
    await run(
      db,
      `with p as (insert into person (email, given_name, family_name, password_hash) select 'o' || email, given_name, 'Other' || family_name, 'none' from person where email like 't%' || $1::text || '@bench.example' returning id)
       insert into enrolment (course_id, person_id, role, section_id) select $1::text::uuid, p.id, 'student', (select id from section where course_id = $1::text::uuid) from p`,
      [courseId],
    );
    await run(
      db,
      `insert into quiz_attempt (item_id, enrolment_id, number, seed, paper, begun_at, ends_at, idempotency_key, limit_minutes, at_end)
       select t.item_id, e.id, 1, 'other', t.paper, t.begun_at, t.ends_at, 'other', t.limit_minutes, t.at_end
       from enrolment e join person p on p.id = e.person_id and p.family_name like 'Other%', (select * from quiz_attempt where item_id = $2 limit 1) t where e.course_id = $1`,
      [courseId, itemId],
    );
    await run(
      db,
      `insert into quiz_answer (attempt_id, question_id, answer, device, turn, saved_at)
       select t.id, p.question_id, '{"kind": "text", "text": "yes"}', 'other', 1, now() from quiz_attempt t, quiz_part p join quiz_section s on s.id = p.section_id where t.item_id = $1 and s.item_id = $1 and t.idempotency_key = 'other'`,
      [itemId],
    );
  });
}
const countOthers = async (): Promise<number> =>
  Number(
    (
      await pool.query<{ n: string }>(
        "select count(*) as n from quiz_attempt where item_id = $1 and idempotency_key = 'other' and state = 'handed in' and score is not null",
        [itemId],
      )
    ).rows[0]?.n,
  );

process.stdout.write(`${TAKERS} takers, a save each ${EVERY_MS / 1000} s\n`);
await start();
const seated = performance.now();
for (let n = 0; n < takers.length; n += 20) await Promise.all(takers.slice(n, n + 20).map(sitDown));
process.stdout.write(`all signed in and begun after ${((performance.now() - seated) / 1000).toFixed(1)} s\n`);
const floor = await bareInserts(10);
const median = await measure('on a quiet server', SECONDS, () => Promise.resolve());
process.stdout.write(`ratio to the floor: ${(median / floor).toFixed(1)}\n`);
await seatOthers();
await measure(`with ${TAKERS} others whose time is over at one minute`, Math.max(SECONDS, 100), async () => {
  // Their limit, and a minute for what is on its way, passed while they were away.
  await pool.query(
    "update quiz_attempt set begun_at = begun_at - interval '125 minutes' where item_id = $1 and idempotency_key = 'other'",
    [itemId],
  );
  let first = 0;
  for (;;) {
    const done = await countOthers();
    if (done > 0 && first === 0) first = performance.now();
    if (done >= TAKERS) break;
    await new Promise((next) => setTimeout(next, 250));
  }
  process.stdout.write(
    `  all ${TAKERS} handed in and scored ${((performance.now() - first) / 1000).toFixed(1)} s after the first of them\n`,
  );
});
/** Scores that were acknowledged, by whose essay it was. */
const marked = new Map<string, number>();
/** Sends again what was not acknowledged, until it is. */
async function insist(method: string, path: string, cookie: string, body: unknown): Promise<Answer> {
  for (;;) {
    const answer = await ask(method, path, cookie, body);
    if (answer.status === 200) return answer;
    if (answer.status !== 0 && answer.status !== 503)
      throw new Error(`${method} ${path} was answered ${answer.status}: ${answer.body.slice(0, 200)}`);
    await new Promise((done) => setTimeout(done, 250));
  }
}
async function mark(cookie: string, enrolmentId: string, points: number): Promise<void> {
  const work = `/courses/${courseId}/marking/${essayId}/${enrolmentId}`;
  const put = { version: 0, choices: {}, score: points * 1000, scoreReason: '', feedback: null };
  const { version } = JSON.parse((await insist('PUT', `${work}/mark`, cookie, put)).body) as { version: number };
  await insist('POST', `${work}/finish`, cookie, { version, isAboveConfirmed: false });
  marked.set(enrolmentId, points);
}
/** Ten people mark, each their own share of these works, spread over the time there is. */
async function markAll(works: readonly string[], seconds: number): Promise<void> {
  await Promise.all(
    Array.from({ length: MARKERS }, async (_, marker) => {
      const { cookie } = await ask('POST', '/demo/sign-in', '', { personId: instructorId });
      const own = works.filter((_work, n) => n % MARKERS === marker);
      const began = performance.now();
      for (const [n, enrolmentId] of own.entries()) {
        const wait = began + (n * seconds * 1000) / own.length - performance.now();
        if (wait > 0) await new Promise((done) => setTimeout(done, wait));
        await mark(cookie, enrolmentId, (n * MARKERS + marker) % 900);
      }
    }),
  );
}
/** Acknowledged marks that are not in the ledger once and as they were given. */
async function marksLost(): Promise<number> {
  const found = await pool.query<{ enrolment_id: string; scores: string[] }>(
    "select e.enrolment_id, array_agg(e.raw::text) as scores from grade_event e join grade_column c on c.id = e.column_id where c.item_id = $1 and e.kind = 'set' group by e.enrolment_id",
    [essayId],
  );
  const held = new Map(found.rows.map((r) => [r.enrolment_id, r.scores]));
  return [...marked].filter(([id, points]) => held.get(id)?.length !== 1 || Number(held.get(id)?.[0]) !== points).length;
}
async function killServer(): Promise<void> {
  const dying = running.server;
  if (dying !== null) {
    const ended = once(dying, 'exit');
    dying.kill('SIGKILL');
    await ended;
  }
  await start();
}
async function crashDatabase(): Promise<void> {
  // In a process of its own: the takers go on meanwhile.
  const crash = `import(${JSON.stringify(new URL('../../scripts/database.mjs', import.meta.url).href)}).then((m) => m.crashDatabase(process.env.ROSEMARY_DATA))`;
  const [status] = (await once(spawn(process.execPath, ['-e', crash], { stdio: 'inherit' }), 'exit')) as [number];
  if (status !== 0) throw new Error('The database could not be crashed and started again.');
}
async function under(name: string, times: number, strike: () => Promise<void>, works: readonly string[]): Promise<void> {
  await measure(name, SECONDS, async () => {
    const marking = markAll(works, SECONDS);
    const began = performance.now();
    for (let n = 1; n <= times; n += 1) {
      await new Promise((done) => setTimeout(done, Math.max(0, began + (n * SECONDS * 1000) / (times + 1) - performance.now())));
      await strike();
    }
    await marking;
  });
  process.stdout.write(`  ${marked.size} marks acknowledged so far by ${MARKERS} who mark, lost or doubled ${await marksLost()}\n`);
}
const half = Math.floor(enrolmentIds.length / 2);
await under(`while ten mark and the server is killed ${KILLS} times`, KILLS, killServer, enrolmentIds.slice(0, half));
await under(`while ten mark and the database crashes ${CRASHES} times`, CRASHES, crashDatabase, enrolmentIds.slice(half));
await Promise.all([killServer(), ...takers.map((taker) => insist('POST', `${own}/${taker.attemptId}/hand-in`, taker.cookie, undefined))]);
const handedIn = await pool.query<{ state: string; n: string }>(
  "select state, count(*) as n from quiz_attempt where item_id = $1 and idempotency_key <> 'other' group by state",
  [itemId],
);
process.stdout.write(
  `all ${TAKERS} handed in while the server was killed: in the database ${handedIn.rows.map((r) => `${r.n} ${r.state}`).join(', ')}; answers lost ${await lost()}\n`,
);
running.server?.kill('SIGTERM');
agent.destroy();
await pool.end();

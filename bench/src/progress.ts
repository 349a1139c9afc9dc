import type { ProgressReport } from '@rosemary/api';
import { howFar, placedShares, spreadOf } from '@rosemary/core';
import { makePool, readConfig, rows, run, serve, withDb } from '@rosemary/server';
import { gzipSync } from 'node:zlib';
import { By, until, type WebDriver } from 'selenium-webdriver';
// @ts-expect-error the start scripts are plain modules
import { openBrowser } from '../../scripts/browser.mjs';
import { layOutLargeCourse } from './largeCourse.ts';

/** The report of 2,000 students × 60 pieces of work, and a year of activity of a school of 5,000 students in which it lies. */
const [STUDENTS, ITEMS, SCHOOL, DAYS, A_DAY] = [2000, 60, 5000, 180, 5];
/** The students of one ordinary course among them. */
const CLASS = 200;
const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 4);
const large = await withDb(pool, true, (db) => layOutLargeCourse(db, STUDENTS, ITEMS));
const { courseId, personId } = large;
await withDb(pool, true, (db) =>
  run(db, "insert into section (course_id, title, position) select $1, 'Section ' || n, n from generate_series(2, 4) n", [courseId]),
);
await withDb(pool, true, (db) =>
  run(
    db,
    `update enrolment e set section_id = s.id from (select id, row_number() over (order by position) - 1 as n from section where course_id = $1) s,
       (select id, row_number() over () as n from enrolment where course_id = $1 and role = 'student') o where o.id = e.id and o.n % 4 = s.n`,
    [courseId],
  ),
);
const one = await withDb(pool, true, (db) => layOutLargeCourse(db, CLASS, ITEMS));
const median = async (work: () => Promise<void>, times = 7): Promise<number> => {
  await work();
  const runs: number[] = [];
  for (let n = 0; n < times; n += 1) {
    const at = performance.now();
    await work();
    runs.push(performance.now() - at);
  }
  return runs.sort((a, b) => a - b)[Math.floor(times / 2)] ?? 0;
};

// A year of a school: every student somewhere on each school day, in a few items.
const students = await withDb(pool, false, (db) =>
  rows<{ id: string }>(db, 'select e.id from enrolment e where e.course_id = $1 and e.role = $2 and not e.is_sample', [
    one.courseId,
    'student',
  ]),
);
await withDb(pool, true, async (db) => {
  await run(db, "set local statement_timeout = '10min'");
  await run(
    db,
    `insert into visit (enrolment_id, item_id, day, doing, last_at, times, seconds, longest_seconds, hours)
     select e.id, i.id, date '2026-07-08' + d, 'reading', timestamptz '2026-07-08 11:00Z' + make_interval(days => d), 2, 1800, 900, 3 << 10
     from (select id, row_number() over () as n from enrolment where course_id = any($1) and role = 'student' and not is_sample) e
     cross join generate_series(0, $2::int - 1) d cross join generate_series(0, $3::int - 1) k
     join (select id, course_id, row_number() over (partition by course_id) - 1 as n from item where course_id = any($1)) i on i.course_id = (select course_id from enrolment x where x.id = e.id) and i.n = (d * $3 + k) % $4
     on conflict do nothing`,
    [[courseId, one.courseId], DAYS, A_DAY, ITEMS],
  );
});
await withDb(pool, true, (db) =>
  run(
    db,
    'insert into item_opened (enrolment_id, item_id, first_at, last_at) select enrolment_id, item_id, min(last_at), max(last_at) from visit group by 1, 2 on conflict do nothing',
  ),
);
// As the database does by itself within minutes of so much that is new.
await withDb(pool, false, (db) => run(db, 'vacuum analyze'));
const [size] = await withDb(pool, false, (db) =>
  rows<{ many: number; bytes: number }>(db, "select count(*)::float8 as many, pg_total_relation_size('visit')::float8 as bytes from visit"),
);
const perRow = (size?.bytes ?? 0) / Math.max(1, size?.many ?? 1);
const year = SCHOOL * DAYS * A_DAY;
process.stdout.write(
  `activity kept by day: ${(size?.many ?? 0).toFixed(0)} rows take ${((size?.bytes ?? 0) / 1_048_576).toFixed(0)} MB with their indexes, ${perRow.toFixed(0)} bytes each; a year of ${SCHOOL} students, ${A_DAY} items on each of ${DAYS} days, is ${((year * perRow) / 1_073_741_824).toFixed(2)} GB\n`,
);

const running = await serve(readConfig(process.env));
const signedIn = await fetch(`${running.url}/api/demo/sign-in`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ personId }),
});
const cookie = (signedIn.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
const get = (path: string, encoding = 'identity'): Promise<Response> =>
  fetch(`${running.url}/api${path}`, { headers: { cookie, 'accept-encoding': encoding } });
let bytes = 0;
const timed = (path: string): Promise<number> =>
  median(async () => {
    bytes = (await (await get(path)).arrayBuffer()).byteLength;
  });
const floor = await median(() =>
  withDb(pool, false, async (db) => {
    await rows(
      db,
      'select g.column_id, g.enrolment_id, g.state, g.raw from grade g join enrolment e on e.id = g.enrolment_id where e.course_id = $1',
      [courseId],
    );
  }),
);
const whole = await timed(`/courses/${courseId}/progress`);
const packed = gzipSync(Buffer.from(await (await get(`/courses/${courseId}/progress`)).arrayBuffer())).length;
process.stdout.write(
  `report of ${STUDENTS} × ${ITEMS}: ${whole.toFixed(0)} ms, ${(bytes / 1024).toFixed(0)} kB (packed ${(packed / 1024).toFixed(0)} kB); ${(whole / floor).toFixed(2)} × its grades read bare with node-postgres (${floor.toFixed(0)} ms)\n`,
);
process.stdout.write(`who needs a word of ${STUDENTS} × ${ITEMS}: ${(await timed(`/courses/${courseId}/words`)).toFixed(0)} ms\n`);
const bareDays = await median(() =>
  withDb(pool, false, async (db) => {
    await rows(db, 'select v.enrolment_id, v.day, v.hours, v.seconds from visit v where v.enrolment_id = any($1) and v.day >= $2', [
      students.map((s) => s.id),
      '2026-09-21',
    ]);
  }),
);
const rhythm = await timed(`/courses/${one.courseId}/progress/rhythm`);
process.stdout.write(
  `rhythm of ${CLASS} students over their term: ${rhythm.toFixed(0)} ms (aim 200), ${(bytes / 1024).toFixed(0)} kB; ${(rhythm / bareDays).toFixed(2)} × the same rows read bare (${bareDays.toFixed(0)} ms)\n`,
);

// What a change of the section asks of a browser, without drawing.
const report = (await (await get(`/courses/${courseId}/progress`)).json()) as ProgressReport;
const minutes = report.items.map((i) => i.minutes);
const places = report.items.map((_, n) => n);
const section = report.people[0]?.sectionId;
const computed = await median(() => {
  const people = report.people.filter((p) => p.sectionId === section);
  howFar(people, places, [{ id: 'u', places }], minutes, report.by);
  report.works.forEach((work, at) =>
    spreadOf(
      placedShares(
        people.map((p) => p.results[at] ?? null),
        work.possible,
      ),
    ),
  );
  return Promise.resolve();
});
process.stdout.write(`section of ${STUDENTS / 4} computed anew: ${computed.toFixed(1)} ms (aim 16, one frame)\n`);

const lines = [
  ['Family name', 'Given name', ...report.works.map((w) => w.title)],
  ...report.people.map((p) => [p.familyName, p.givenName, ...p.results.map((r) => (typeof r === 'number' ? r / 1000 : r))]),
];
const table = new Blob([JSON.stringify({ title: 'Results', lines })], { type: 'application/json' });
let xlsx = 0;
const written = await median(async () => {
  const form = new FormData();
  form.append('file', table, 'table.json');
  const answer = await fetch(`${running.url}/api/table-files?format=xlsx`, { method: 'POST', headers: { cookie }, body: form });
  xlsx = (await answer.arrayBuffer()).byteLength;
}, 3);
process.stdout.write(
  `XLSX of ${STUDENTS} × ${ITEMS}: ${(written / 1000).toFixed(1)} s, ${(xlsx / 1024).toFixed(0)} kB; ${((lines.length * (ITEMS + 2)) / (written / 1000) / 1000).toFixed(0)} thousand cells a second\n`,
);

const driver = (await openBrowser()) as WebDriver;
try {
  await driver.get(`${running.url}/sign-in`);
  await driver.executeAsyncScript(
    "const [personId, done] = arguments; fetch('/api/demo/sign-in', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ personId }) }).then(done)",
    personId,
  );
  const from = performance.now();
  await driver.get(`${running.url}/courses/${courseId}/progress`);
  await driver.wait(until.elementLocated(By.css('#results-sheet svg [data-mark]')), 60_000);
  process.stdout.write(
    `report of ${STUDENTS} × ${ITEMS}: first chart ${((performance.now() - from) / 1000).toFixed(1)} s after the address\n`,
  );
  await driver.wait(until.elementLocated(By.css('#visits-sheet svg')), 60_000);
  const frame = await driver.executeAsyncScript<number>(
    `const done = arguments[0]; const chip = [...document.querySelectorAll('.chips button')].at(-1);
     requestAnimationFrame(() => { const at = performance.now(); chip.click(); requestAnimationFrame(() => setTimeout(() => done(performance.now() - at))); });`,
  );
  process.stdout.write(`… another section drawn after ${frame.toFixed(0)} ms (aim 16)\n`);
} finally {
  await driver.quit();
  await running.stop();
  await pool.end();
}

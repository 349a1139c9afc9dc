import { makePool, readConfig, rows, run, serve, withDb } from '@rosemary/server';
import { layOutLargeCourse } from './largeCourse.ts';

/** The gradebook of 1,000 students × 100 items: the whole HTTP answer against the same SQL run bare. */
const STUDENTS = 1000;
const ITEMS = 100;
const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 4);

const { courseId, personId } = await withDb(pool, true, (db) => layOutLargeCourse(db, STUDENTS, ITEMS));
// As the database does by itself within minutes of so much that is new.
await withDb(pool, false, (db) => run(db, 'analyze'));
const running = await serve(readConfig(process.env));
const signedIn = await fetch(`${running.url}/api/demo/sign-in`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ personId }),
});
const cookie = (signedIn.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
const median = async (work: () => Promise<void>): Promise<number> => {
  await work();
  await work();
  const runs = [];
  for (let n = 0; n < 7; n += 1) {
    const at = performance.now();
    await work();
    runs.push(performance.now() - at);
  }
  return runs.sort((a, b) => a - b)[3] ?? 0;
};
let bytes = 0;
let packed = 0;
const whole = await median(async () => {
  const answer = await fetch(`${running.url}/api/courses/${courseId}/gradebook`, { headers: { cookie, 'accept-encoding': 'identity' } });
  bytes = (await answer.arrayBuffer()).byteLength;
});
const zipped = await fetch(`${running.url}/api/courses/${courseId}/gradebook`, { headers: { cookie, 'accept-encoding': 'gzip' } });
packed = Number(zipped.headers.get('content-length') ?? 0);
await zipped.arrayBuffer();
const raw = await median(() =>
  withDb(pool, false, async (db) => {
    await rows(
      db,
      `select g.column_id, g.enrolment_id, g.state, (g.raw * 1000)::int as raw, g.is_released, g.last_event_id from grade g join enrolment e on e.id = g.enrolment_id where e.course_id = $1`,
      [courseId],
    );
    await rows(
      db,
      `select e.id, p.given_name, p.family_name, e.section_id from enrolment e join person p on p.id = e.person_id where e.course_id = $1 and e.role = 'student' order by p.family_name`,
      [courseId],
    );
    await rows(db, 'select * from item where course_id = $1', [courseId]);
  }),
);
process.stdout.write(
  `gradebook answer, ${STUDENTS} × ${ITEMS}: ${whole.toFixed(0)} ms, ${(bytes / 1024).toFixed(0)} kB${packed > 0 ? ` (${(packed / 1024).toFixed(0)} kB packed)` : ''}; ${(whole / raw).toFixed(2)} × its SQL run bare with node-postgres (${raw.toFixed(0)} ms)\n`,
);

// One mark, until another window has the student's row: the write, the event to a listener, and the reading of that row.
const get = (path: string, more: Record<string, string> = {}): Promise<Response> =>
  fetch(`${running.url}/api/courses/${courseId}${path}`, { headers: { cookie, ...more } });
const [cell] = await withDb(pool, false, (db) =>
  rows<{ column_id: string; enrolment_id: string }>(
    db,
    'select g.column_id, g.enrolment_id from grade g join grade_column c on c.id = g.column_id where c.course_id = $1 limit 1',
    [courseId],
  ),
);
const leaving = new AbortController();
const stream = await fetch(`${running.url}/api/courses/${courseId}/events`, {
  headers: { cookie, accept: 'text/event-stream' },
  signal: leaving.signal,
});
const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
let heard = '';
async function hearRows(): Promise<readonly string[] | null> {
  for (;;) {
    const line = /data: (.*)\n\n/.exec(heard);
    if (line !== null) {
      heard = heard.slice(line.index + line[0].length);
      return (JSON.parse(line[1] ?? '{}') as { rows: readonly string[] | null }).rows;
    }
    const { value, done } = await reader.read();
    if (done) throw new Error('The line of events ended.');
    heard += value;
  }
}
let seenEventId = await withDb(
  pool,
  false,
  async (db) =>
    (
      await rows<{ id: string }>(db, 'select last_event_id as id from grade where column_id = $1 and enrolment_id = $2', [
        cell?.column_id,
        cell?.enrolment_id,
      ])
    )[0]?.id,
);
let raw0 = 20_000;
let rowBytes = 0;
const parts: { write: number; event: number; row: number }[] = [];
for (let n = 0; n < 60; n += 1) {
  const at = performance.now();
  raw0 += 500;
  const wrote = await fetch(`${running.url}/api/courses/${courseId}/gradebook/cells`, {
    method: 'PUT',
    headers: { cookie, 'content-type': 'application/json' },
    body: JSON.stringify({
      columnId: cell?.column_id,
      enrolmentId: cell?.enrolment_id,
      state: 'scored',
      raw: raw0,
      seenEventId,
      isAboveConfirmed: true,
      reason: '',
    }),
  });
  if (!wrote.ok) throw new Error(await wrote.text());
  ({ eventId: seenEventId } = (await wrote.json()) as { eventId: string });
  const written = performance.now();
  const [enrolmentId] = (await hearRows()) ?? [];
  const told = performance.now();
  const answer = await get(`/gradebook/rows/${enrolmentId}`, { 'accept-encoding': 'identity' });
  rowBytes = (await answer.arrayBuffer()).byteLength;
  parts.push({ write: written - at, event: told - written, row: performance.now() - told });
}
leaving.abort();
const middle = (name: 'write' | 'event' | 'row'): number =>
  parts.map((p) => p[name]).sort((a, b) => a - b)[Math.floor(parts.length / 2)] ?? 0;
const bare = await median(() =>
  withDb(pool, false, async (db) => {
    await rows(db, 'select column_id, state, raw from grade where enrolment_id = $1', [cell?.enrolment_id]);
  }),
);
// What any request costs here, of which no mark has a part: the way there and back, its session, who it is.
const least = await median(async () => {
  await (await fetch(`${running.url}/api/me`, { headers: { cookie } })).arrayBuffer();
});
process.stdout.write(
  `one mark at ${STUDENTS} × ${ITEMS}, until another window has it: written in ${middle('write').toFixed(1)} ms, its event ${middle('event').toFixed(1)} ms later, its row read in ${middle('row').toFixed(1)} ms and ${(rowBytes / 1024).toFixed(1)} kB (the whole book: ${(bytes / 1024).toFixed(0)} kB); the row is ${(middle('row') / bare).toFixed(1)} × its grades read bare (${bare.toFixed(1)} ms), and a request that asks only who one is takes ${least.toFixed(1)} ms; medians of ${parts.length}\n`,
);
await running.stop();
await pool.end();

import type { BlockChange, Gradebook } from '@rosemary/api';
import { makePool, readConfig, run, serve, withDb } from '@rosemary/server';
import { layOutLargeCourse } from './largeCourse.ts';

/** What spreadsheets are good at: 2,000 cells pasted, a workbook of 2,000 × 150, and the gradebook as it stood, with 200,000 events. */
const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 4);
const TERM = Date.parse('2026-09-21T08:00:00Z');
const large = await withDb(pool, true, (db) => layOutLargeCourse(db, 1000, 100), TERM);
const wide = await withDb(pool, true, (db) => layOutLargeCourse(db, 2000, 150), TERM);
// Every result was another once, before what stands now.
await withDb(pool, true, (db) =>
  run(
    db,
    `insert into grade_event (column_id, enrolment_id, kind, state, raw, is_released, source, actor_id, at)
     select g.column_id, g.enrolment_id, 'set', 'scored', 10, true, 'demo', $2, timestamptz '2026-10-01 10:00Z' from grade g join grade_column c on c.id = g.column_id where c.course_id = $1`,
    [large.courseId, large.personId],
  ),
);
await withDb(pool, false, (db) => run(db, 'analyze'));
const running = await serve(readConfig(process.env));
const signedIn = await fetch(`${running.url}/api/demo/sign-in`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ personId: large.personId }),
});
const cookie = (signedIn.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
const ask = async (courseId: string, path: string, more: RequestInit = {}): Promise<Response> => {
  const answer = await fetch(`${running.url}/api/courses/${courseId}/gradebook${path}`, {
    ...more,
    headers: { cookie, 'content-type': 'application/json', ...more.headers },
  });
  if (!answer.ok) throw new Error(await answer.text());
  return answer;
};
const median = async (times: number, work: (n: number) => Promise<unknown>): Promise<number> => {
  await work(0);
  const runs: number[] = [];
  for (let n = 1; n <= times; n += 1) {
    const at = performance.now();
    await work(n);
    runs.push(performance.now() - at);
  }
  return runs.sort((a, b) => a - b)[Math.floor(times / 2)] ?? 0;
};
const say = (text: string): void => {
  process.stdout.write(`${text}\n`);
};

const book = (await (await ask(large.courseId, '')).json()) as Gradebook;
const now = await median(5, async () => (await ask(large.courseId, '')).arrayBuffer());
const past = await median(5, async () => (await ask(large.courseId, '?asOf=2026-11-01T00:00:00Z')).arrayBuffer());
say(
  `gradebook as of a day, 1,000 × 100 with 200,000 events: ${past.toFixed(0)} ms (aim 1,000); ${(past / now).toFixed(2)} × the gradebook of now (${now.toFixed(0)} ms)`,
);

const [ROWS, COLUMNS] = [200, 10];
const held = new Map<string, string | null>();
const block = (raw: number): BlockChange => ({
  how: 'paste',
  enrolmentIds: book.rows.slice(0, ROWS).map((r) => r.enrolmentId),
  columnIds: book.columns.slice(0, COLUMNS).map((c) => c.id),
  cells: book.rows.slice(0, ROWS).flatMap((row, r) =>
    book.columns.slice(0, COLUMNS).map((_, c): BlockChange['cells'][number] => {
      const cell = row.cells[c];
      return [r, c, raw, held.get(`${r} ${c}`) ?? (cell === 0 || cell === undefined ? null : cell[4])];
    }),
  ),
  isAboveConfirmed: true,
  reason: '',
});
const put = (change: BlockChange, headers: Record<string, string> = {}): Promise<Response> =>
  ask(large.courseId, '/block', { method: 'PUT', headers, body: JSON.stringify(change) });
const seen = await median(5, async (n) => (await put(block(11_000 + n * 500), { 'x-ripple': 'show' })).arrayBuffer());
const acts: string[] = [];
const written = await median(5, async (n) => {
  const { act } = (await (await put(block(11_000 + n * 500))).json()) as { act: string };
  acts.push(act);
  const fresh = (await (await ask(large.courseId, '')).json()) as Gradebook;
  for (let r = 0; r < ROWS; r += 1)
    for (let c = 0; c < COLUMNS; c += 1) {
      const cell = fresh.rows[r]?.cells[c];
      held.set(`${r} ${c}`, cell === 0 || cell === undefined ? null : cell[4]);
    }
});
const read = await median(5, async () => (await ask(large.courseId, '')).json());
const alone = written - read;
say(
  `paste of 2,000 cells into 1,000 × 100: ${seen.toFixed(0)} ms to its ripple (${(seen / now).toFixed(2)} × the gradebook of now, which is worked out twice in it), ${alone.toFixed(0)} ms until it is committed`,
);
const undone = performance.now();
await ask(large.courseId, '/block/undo', { method: 'POST', body: JSON.stringify({ act: acts.at(-1) }) });
say(`… and taken back in one step: ${(performance.now() - undone).toFixed(0)} ms`);

let bytes = 0;
const sheet = await median(3, async () => {
  bytes = (await (await ask(wide.courseId, '/table?format=xlsx&whole=1')).arrayBuffer()).byteLength;
});
const table = await median(3, async () => (await ask(wide.courseId, '/table?format=csv&whole=1')).arrayBuffer());
say(
  `workbook of 2,000 × 150: ${sheet.toFixed(0)} ms, ${(bytes / 1024).toFixed(0)} kB; ${(sheet / table).toFixed(1)} × the same as CSV (${table.toFixed(0)} ms)`,
);
await running.stop();
await pool.end();
process.exit(0);

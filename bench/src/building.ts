import { prepareShift, shiftDate, spread, type Term } from '@rosemary/core';
import { addCourse, makePool, readConfig, rows, run, serve, withDb, type Db } from '@rosemary/server';

/** A Plan of 300 items: to read it, to change it, to carry it forward; and the same arithmetic bare. */
const ITEMS = 300;
const UNITS = 15;
const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 4);
const term: Term = {
  title: 'Autumn',
  startsOn: '2026-09-21',
  endsOn: '2027-01-03',
  meetingDays: [2, 4],
  holidays: [{ title: 'break', startsOn: '2026-11-09', endsOn: '2026-11-15' }],
};

function median(work: () => void): number {
  work();
  const runs = Array.from({ length: 9 }, () => {
    const at = performance.now();
    work();
    return performance.now() - at;
  });
  return runs.sort((a, b) => a - b)[4] ?? 0;
}
async function medianOf(work: () => Promise<unknown>): Promise<number> {
  await work();
  const runs: number[] = [];
  for (let n = 0; n < 7; n += 1) {
    const at = performance.now();
    await work();
    runs.push(performance.now() - at);
  }
  return runs.sort((a, b) => a - b)[3] ?? 0;
}
const print = (text: string): void => {
  process.stdout.write(`${text}\n`);
};

let sink = 0;
const items = Array.from({ length: ITEMS }, (_, n) => ({ id: String(n), minutes: 20 + ((n * 37) % 160) }));
const start = Date.parse('2026-09-22T18:00:00Z');
const bare = median(() => {
  for (const item of items) sink += item.minutes;
});
const spreading = median(() => {
  const found = spread(items, { term, zone: 'Europe/Lisbon', from: term.startsOn, to: term.endsOn, time: '23:59' });
  if (found.ok) sink += found.placements.length;
});
print(`core spread, ${ITEMS} items over a term: ${spreading.toFixed(2)} ms; the bare sum of their minutes ${bare.toFixed(4)} ms`);
const shifting = median(() => {
  const shift = prepareShift({
    from: term,
    to: { ...term, startsOn: '2027-09-20', endsOn: '2028-01-02' },
    fromZone: 'Europe/Lisbon',
    toZone: 'Europe/Lisbon',
    weekdays: { 2: 1 },
  });
  for (let n = 0; n < ITEMS * 4; n += 1) if (shiftDate(shift, start + (n % 100) * 86_400_000).ok) sink += 1;
});
print(
  `core carry forward, ${ITEMS} items with 4 dates each: ${shifting.toFixed(1)} ms, ${((shifting * 1000) / (ITEMS * 4)).toFixed(1)} µs a date`,
);

async function fill(db: Db, code: string, teacher: string, termId: string): Promise<string> {
  const courseId = await addCourse(
    db,
    {
      code,
      run: String(Date.now()).slice(-9),
      title: 'Large Plan',
      termId,
      timeZone: 'Europe/Lisbon',
      instructorId: teacher,
      sections: ['One'],
    },
    true,
  );
  await run(db, "insert into unit (course_id, title, position) select $1, 'Unit ' || n, n from generate_series(1, $2::int) n", [
    courseId,
    UNITS,
  ]);
  await run(
    db,
    `with i as (insert into item (course_id, kind, title, is_draft, done_rule, due_at) select $1, 'assignment', 'Item ' || n, false, 'handed in', timestamptz '2026-09-22T18:00:00Z' + (n % 90) * interval '1 day' from generate_series(1, $2::int) n returning id, title, course_id),
    c as (insert into grade_column (course_id, item_id, role, possible) select course_id, id, 'work', 20 from i)
    insert into unit_item (unit_id, item_id, position) select u.id, i.id, row_number() over (partition by u.id) from (select id, (row_number() over () - 1) % $3 + 1 as unit from i) i join unit u on u.course_id = $1 and u.position = i.unit`,
    [courseId, ITEMS, UNITS],
  );
  await run(
    db,
    `insert into assignment (item_id, instructions) select id, '{"type":"doc","content":[{"type":"paragraph","content":[{"type":"text","text":"Say what you see by 12 October."}]}]}' from item where course_id = $1`,
    [courseId],
  );
  return courseId;
}
const { source, target, personId } = await withDb(pool, true, async (db) => {
  const teacher = (await rows<{ id: string }>(db, "select id from person where given_name = 'Ines'"))[0]?.id ?? '';
  const termId = (await rows<{ id: string }>(db, "select id from term where title = 'Autumn'"))[0]?.id ?? '';
  const empty = await addCourse(
    db,
    {
      code: 'EMPTY',
      run: String(Date.now()).slice(-9),
      title: 'Empty',
      termId,
      timeZone: 'Europe/Lisbon',
      instructorId: teacher,
      sections: ['One'],
    },
    true,
  );
  return { source: await fill(db, 'PLAN', teacher, termId), target: empty, personId: teacher };
});
const running = await serve(readConfig(process.env));
const signedIn = await fetch(`${running.url}/api/demo/sign-in`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ personId }),
});
const cookie = (signedIn.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
const ask = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
  const answer = await fetch(`${running.url}/api/courses/${path}`, {
    method,
    headers: { cookie, 'content-type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`);
  return (await answer.json()) as T;
};
interface Plan {
  readonly units: readonly { readonly id: string; readonly items: readonly { readonly id: string; readonly version: number }[] }[];
}
const raw = await medianOf(() =>
  withDb(pool, false, (db) =>
    rows(db, 'select i.*, ui.unit_id, ui.position from item i join unit_item ui on ui.item_id = i.id where i.course_id = $1', [source]),
  ),
);
const reading = await medianOf(() => ask<Plan>('GET', `${source}/plan`));
print(
  `Plan of ${ITEMS} items, the whole answer: ${reading.toFixed(0)} ms, ${(reading / raw).toFixed(1)} × its items read bare with node-postgres (${raw.toFixed(1)} ms)`,
);
const plan = await ask<Plan>('GET', `${source}/plan`);
let turn = 0;
const reordering = await medianOf(() => {
  turn += 1;
  const units = plan.units.map((u) => ({ id: u.id, itemIds: u.items.map((i) => i.id) }));
  if (turn % 2 === 1) units[0]?.itemIds.reverse();
  return ask('PUT', `${source}/order`, { units });
});
print(`Plan of ${ITEMS} items, one moved, until the new Plan is there: ${reordering.toFixed(0)} ms`);
const ids = plan.units.flatMap((u) => u.items.map((i) => i.id));
const wish = { fromCourseId: source, itemIds: ids, hasPolicy: false, hasDates: true, weekdays: [{ from: 2, to: 1 }], again: [] };
const looking = await medianOf(() => ask('POST', `${target}/carry/preview`, wish));
const at = performance.now();
const carried = await ask<{ itemIds: string[] }>('POST', `${target}/carry`, wish);
print(
  `carry forward of ${carried.itemIds.length} items: preview ${looking.toFixed(0)} ms, the whole deed ${(performance.now() - at).toFixed(0)} ms`,
);
const again = await ask<Plan>('GET', `${target}/plan`);
const changes = again.units.flatMap((u) => u.items).map((i) => ({ id: i.id, version: i.version, estimatedMinutes: 45 }));
const changing = performance.now();
await ask('PUT', `${target}/items`, { changes });
print(`${changes.length} items changed together: ${(performance.now() - changing).toFixed(0)} ms`);

/** A hundred thousand pages to look through: each has a number of its own among words that many share. */
const HAY = 100_000;
await withDb(pool, true, async (db) => {
  await run(db, "insert into unit (course_id, title, position) values ($1, 'Hay', 99)", [target]);
  await run(
    db,
    `with i as (insert into item (course_id, kind, title, is_draft, done_rule) select $1, 'page', 'Straw ' || n, false, 'opened' from generate_series(1, $2::int) n returning id, title),
    p as (insert into page (item_id, document) select id, jsonb_build_object('type', 'doc', 'content', jsonb_build_array(jsonb_build_object('type', 'paragraph', 'content', jsonb_build_array(jsonb_build_object('type', 'text', 'text', 'balance wheel number ' || substr(title, 7) || ' ' || md5(title)))))) from i)
    insert into unit_item (unit_id, item_id, position) select u.id, i.id, row_number() over () from i, unit u where u.course_id = $1 and u.title = 'Hay'`,
    [target, HAY],
  );
});
const search = (words: string): Promise<number> =>
  medianOf(() => fetch(`${running.url}/api/find?q=${encodeURIComponent(words)}`, { headers: { cookie } }).then((answer) => answer.json()));
for (const words of ['wheel 4711', 'straw 99', 'balance'])
  print(`search for “${words}” over ${HAY} pages: ${(await search(words)).toFixed(0)} ms`);
if (sink < 0) print('');
await running.stop();
await pool.end();

import { addCourse, makePool, rows, run, serve, readConfig, withDb, type Db } from '@rosemary/server';

/** The gradebook of 1,000 students × 100 items: the whole HTTP answer against the same SQL run bare. */
const STUDENTS = 1000;
const ITEMS = 100;
const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 4);

async function fill(db: Db): Promise<{ courseId: string; personId: string }> {
  const ines = (await rows<{ id: string }>(db, "select id from person where given_name = 'Ines'"))[0]?.id ?? '';
  const term = (await rows<{ id: string }>(db, "select id from term where title = 'Autumn'"))[0]?.id ?? '';
  const courseId = await addCourse(
    db,
    {
      code: 'BENCH',
      run: String(Date.now()).slice(-9),
      title: 'Large course',
      termId: term,
      timeZone: 'Europe/Lisbon',
      instructorId: ines,
      sections: ['One'],
    },
    true,
  );
  const section = (await rows<{ id: string }>(db, 'select id from section where course_id = $1', [courseId]))[0]?.id;
  const category = (await rows<{ id: string }>(db, 'select id from category where course_id = $1 limit 1', [courseId]))[0]?.id;
  await run(
    db,
    "with p as (insert into person (email, given_name, family_name) select 'b' || n || $2 || '@bench.example', 'Given' || n, 'Family' || n from generate_series(1, $3::int) n returning id) insert into enrolment (course_id, person_id, role, section_id) select $1, id, 'student', $4 from p",
    [courseId, courseId, STUDENTS, section],
  );
  const unit = (
    await rows<{ id: string }>(db, "insert into unit (course_id, title, position) values ($1, 'Unit', 0) returning id", [courseId])
  )[0]?.id;
  await run(
    db,
    `with i as (insert into item (course_id, kind, title, is_draft, category_id, possible, done_rule, due_at) select $1, 'activity', 'Item ' || n, false, $2, 50, 'marked', now() from generate_series(1, $3::int) n returning id)
    insert into unit_item (unit_id, item_id, position) select $4, id, row_number() over () from i`,
    [courseId, category, ITEMS, unit],
  );
  await run(
    db,
    `with e as (insert into grade_event (item_id, enrolment_id, kind, state, raw, is_released, source, actor_id, at)
    select i.id, e.id, 'set', 'scored', 20 + (random() * 60)::int / 2.0, true, 'demo', $2, now() from item i, enrolment e where i.course_id = $1 and e.course_id = $1 and e.role = 'student' and not e.is_sample returning *)
    insert into grade (item_id, enrolment_id, state, raw, is_released, last_event_id) select item_id, enrolment_id, state, raw, is_released, id from e`,
    [courseId, ines],
  );
  return { courseId, personId: ines };
}

const { courseId, personId } = await withDb(pool, true, fill);
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
      `select g.item_id, g.enrolment_id, g.state, (g.raw * 1000)::int as raw, g.is_released, g.last_event_id from grade g join enrolment e on e.id = g.enrolment_id where e.course_id = $1`,
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
await running.stop();
await pool.end();

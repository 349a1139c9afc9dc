import { performance } from 'node:perf_hooks';
import { Registrar, serveRegistrar } from '@rosemary/standins';
import { addRows, addSteps, handOverGrades, makePool, maybe, rows, run, silentLog, withDb } from '@rosemary/server';
import { layOutLargeCourse } from './largeCourse.ts';

/** Final grades on their way: 5,000 of them, and 500 to a registrar that fails at random in all three ways. */
const pool = makePool(process.env.ROSEMARY_DATABASE_URL ?? '', 6);
const TERM = Date.parse('2026-09-21T08:00:00Z');
let now = Date.parse('2026-11-18T10:20:00Z');
const say = (text: string): void => {
  process.stdout.write(`${text}\n`);
};

async function layOut(students: number): Promise<{ courseId: string; registrar: Registrar }> {
  const { courseId, personId } = await withDb(pool, true, (db) => layOutLargeCourse(db, students, 2), TERM);
  const registrar = await withDb(pool, true, async (db) => {
    const people = await rows<{ enrolment: string; section: string; key: string; name: string }>(
      db,
      `select e.id as enrolment, e.section_id as section, p.id as key, p.family_name as name from enrolment e join person p on p.id = e.person_id
       where e.course_id = $1 and e.role = 'student' and not e.is_sample`,
      [courseId],
    );
    const teacher = await maybe<{ email: string }>(db, 'select email::text as email from person where id = $1', [personId]);
    const blank = { calculatedLetter: 'B', calculatedPercent: '75.0', isOverride: false, reason: '', lastDay: null, lastDayFrom: '' };
    await addSteps(
      db,
      courseId,
      people.map((p) => ({
        ...{ enrolmentId: p.enrolment, sectionId: p.section, kind: 'agreed', sentLetter: 'B', letter: 'B', percent: '75.0' },
        ...blank,
        ...{ expiresOn: null, lapsesTo: null },
      })),
      personId,
      now,
    );
    const agreed = await rows<{ id: string; enrolment: string }>(
      db,
      'select id::text, enrolment_id as enrolment from agreed_grade where course_id = $1',
      [courseId],
    );
    const section = new Map(people.map((p) => [p.enrolment, p.section]));
    await addRows(
      db,
      courseId,
      agreed.map((a) => ({
        ...{ enrolmentId: a.enrolment, sectionId: section.get(a.enrolment) ?? '', agreedId: a.id, correctsId: null, reason: '' },
        state: 'waiting',
      })),
      personId,
      now,
    );
    const sections: Record<string, { title: string; teacher: string; students: { key: string; name: string }[] }> = {};
    for (const p of people) {
      sections[p.section] ??= { title: 'One', teacher: teacher?.email ?? '', students: [] };
      sections[p.section]?.students.push({ key: p.key, name: p.name });
    }
    return new Registrar({ token: 'bench', file: null, sections, now: () => now });
  });
  return { courseId, registrar };
}
const settled = (courseId: string): Promise<number> =>
  withDb(pool, false, async (db) => {
    const found = await maybe<{ many: number }>(
      db,
      "select count(*)::int as many from handover_row where course_id = $1 and state = 'accepted'",
      [courseId],
    );
    return found?.many ?? 0;
  });
process.env.ROSEMARY_REGISTRAR_TOKEN = 'bench';

const MANY = 5000;
const large = await layOut(MANY);
let served = await serveRegistrar(large.registrar, 0);
process.env.ROSEMARY_REGISTRAR_URL = served.url;
// The floor: the same requests without a database, one after another of eight at a time.
const [section = ''] = Object.keys(large.registrar.held.sections);
const before = performance.now();
const bare = new Registrar({ token: 'bench', file: null, sections: large.registrar.held.sections, now: () => now });
const floorServer = await serveRegistrar(bare, 0);
const students = large.registrar.held.sections[section]?.students ?? [];
for (let n = 0; n < students.length; n += 8)
  await Promise.all(
    students.slice(n, n + 8).map((s, k) =>
      fetch(`${floorServer.url}/sections/${section}/grades/${s.key}`, {
        method: 'PUT',
        headers: { authorization: 'Bearer bench', 'content-type': 'application/json', 'idempotency-key': `floor ${n + k}` },
        body: JSON.stringify({ by: large.registrar.held.sections[section]?.teacher, letter: 'B' }),
      }).then((answer) => answer.arrayBuffer()),
    ),
  );
const floor = performance.now() - before;
await floorServer.stop();
const memory = process.memoryUsage().rss;
const at = performance.now();
await handOverGrades.run(pool, silentLog, now);
const took = performance.now() - at;
say(
  `${await settled(large.courseId)} of ${MANY} grades sent in ${(took / 1000).toFixed(1)} s: ${(MANY / (took / 1000)).toFixed(0)} a second, ${(took / floor).toFixed(1)} × the bare requests (${(floor / 1000).toFixed(1)} s), ${((process.memoryUsage().rss - memory) / 1e6).toFixed(0)} MB more memory`,
);
await served.stop();

const FEW = 500;
const small = await layOut(FEW);
// A registrar that never answers is waited for: these are few, and the wait is the server’s own.
served = await serveRegistrar(small.registrar, 0);
process.env.ROSEMARY_REGISTRAR_URL = served.url;
const MINUTES = 10;
const began = performance.now();
let rounds = 0;
for (; rounds < MINUTES * 6 && (await settled(small.courseId)) < FEW; rounds += 1) {
  const outage = (['refuses', 'stores then fails', 'refuses', 'silent'] as const)[rounds % 4] ?? 'none';
  // Of a hundred: few where each that is not answered costs ten seconds.
  small.registrar.set({ mood: { outage, percent: outage === 'silent' ? 3 : 60, delay: 0 } });
  await handOverGrades.run(pool, silentLog, now);
  now += 60_000;
}
small.registrar.set({ mood: { outage: 'none', percent: 0, delay: 0 } });
for (let n = 0; n < 40 && (await settled(small.courseId)) < FEW; n += 1) {
  now += 31 * 60_000;
  await handOverGrades.run(pool, silentLog, now);
}
const stored = Object.values(small.registrar.held.grades).length;
const tries = await withDb(pool, false, (db) =>
  maybe<{ many: number; most: number }>(
    db,
    'select sum(tries)::int as many, max(tries)::int as most from handover_row where course_id = $1',
    [small.courseId],
  ),
);
say(
  `failing at random in three ways: ${await settled(small.courseId)} of ${FEW} accepted, ${stored} stored, in ${rounds} rounds and ${((performance.now() - began) / 1000).toFixed(0)} s; ${tries?.many ?? 0} tries, at most ${tries?.most ?? 0} for one`,
);
await served.stop();
await withDb(pool, true, (db) => run(db, 'select 1'));
await pool.end();

import { mayBeStored, type RowState, rowAfter } from '@rosemary/core';
import { type Db, rows, run } from '../platform/database.ts';
import { jobInSteps, type Work } from '../platform/jobs.ts';
import { settleRecords } from './record.ts';
import { askAfter, askHeld, askList, askRules, askWindow, findRegistrar, type Registrar, sendGrade } from './registrarClient.ts';
import { addEvents, settleRows, tellCourses } from './rows.ts';

/** How many grades are asked about or sent at the same time. */
const AT_ONCE = 8;
const A_BATCH = 64;

interface Due {
  readonly id: string;
  readonly what: 'rules' | 'section' | 'grades';
  readonly ids: readonly string[];
}

/** What is to be done: the registrar asked what he takes, a section read back, grades in batches. */
async function listDue(db: Db, now: number): Promise<Due[]> {
  if (findRegistrar() === null) return [];
  // Where somebody wants to know, and once a day by itself.
  const rules = await rows(
    db,
    `select 1 as one from handover_setting where wanted_at is not null and (asked_at is null or asked_at < wanted_at)
     or (asked_at is null or asked_at < to_timestamp($1 / 1000.0) - interval '1 day') and (tried_at is null or tried_at < to_timestamp($1 / 1000.0) - interval '10 minutes')`,
    [now],
  );
  const sections = await rows<{ id: string }>(
    db,
    'select section_id as id from handover_read where read_at is null or read_at < wanted_at order by wanted_at',
  );
  const grades = await rows<{ id: string }>(
    db,
    `select id from handover_row where state in ('waiting', 'sending', 'unknown') and (next_try_at is null or next_try_at <= to_timestamp($1 / 1000.0)) order by place limit 5000`,
    [now],
  );
  const batches = Array.from({ length: Math.ceil(grades.length / A_BATCH) }, (_, n) =>
    grades.slice(n * A_BATCH, (n + 1) * A_BATCH).map((g) => g.id),
  );
  return [
    ...(rules.length > 0 ? [{ id: 'rules', what: 'rules' as const, ids: [] }] : []),
    ...sections.map((s) => ({ id: `section ${s.id}`, what: 'section' as const, ids: [s.id] })),
    ...batches.map((ids) => ({ id: `grades ${ids[0] ?? ''}`, what: 'grades' as const, ids })),
  ];
}

async function askWhatHeTakes(work: Work, registrar: Registrar, now: number): Promise<void> {
  const [rules, window] = [await askRules(registrar), await askWindow(registrar)];
  const fault = rules.ok ? (window.ok ? '' : window.reason) : rules.reason;
  // What he said before stands where he says nothing now.
  await work.write(async (db) => {
    const waiting = await rows<{ courses: string[] }>(db, 'select wanted_for as courses from handover_setting for update');
    await run(
      db,
      `update handover_setting set wanted_for = '{}', tried_at = to_timestamp($5 / 1000.0), rules = coalesce($1, rules), window_opens_at = coalesce(to_timestamp($2 / 1000.0), window_opens_at), window_closes_at = coalesce(to_timestamp($3 / 1000.0), window_closes_at),
         asked_at = case when $4 = '' then to_timestamp($5 / 1000.0) else asked_at end, wanted_at = case when $4 = '' then wanted_at end, fault = $4`,
      [
        rules.ok ? JSON.stringify(rules.value) : null,
        window.ok ? window.value.opensAt : null,
        window.ok ? window.value.closesAt : null,
        ...[fault, now],
      ],
    );
    await tellCourses(
      db,
      waiting.flatMap((w) => w.courses),
    );
  });
}

async function readSection(work: Work, registrar: Registrar, sectionId: string, now: number): Promise<void> {
  const section = await work.read((db) =>
    rows<{ key: string }>(db, 'select coalesce(source, id::text) as key from section where id = $1', [sectionId]),
  );
  const [held, listed] = [await askHeld(registrar, section[0]?.key ?? ''), await askList(registrar, section[0]?.key ?? '')];
  await work.write(async (db) => {
    await run(
      db,
      'update handover_read set read_at = to_timestamp($2 / 1000.0), held = coalesce($3, held), listed = coalesce($4, listed), fault = $5 where section_id = $1',
      [
        ...[sectionId, now, held.ok ? JSON.stringify(held.value) : null, listed.ok ? JSON.stringify(listed.value) : null],
        held.ok ? (listed.ok ? '' : listed.reason) : held.reason,
      ],
    );
    const of = await rows<{ id: string }>(db, 'select course_id as id from section where id = $1', [sectionId]);
    await tellCourses(
      db,
      of.map((c) => c.id),
    );
  });
}

interface Grade {
  readonly id: string;
  readonly was: RowState;
  readonly tries: number;
  readonly section: string;
  readonly student: string;
  readonly by: string;
  readonly letter: string;
  readonly number: string | null;
  readonly lastDay: string | null;
  readonly expiresOn: string | null;
  readonly lapsesTo: string | null;
  readonly corrects: string | null;
  readonly reason: string;
}
/** Takes rows in hand: from then on each may be stored, whatever ends this server. Gives what is sent of each. */
const takeInHand = (db: Db, ids: readonly string[], now: number): Promise<Grade[]> =>
  rows<Grade & Record<string, unknown>>(
    db,
    `
    with due as (
      select id, state from handover_row where id = any($1) and state in ('waiting', 'sending', 'unknown') and (next_try_at is null or next_try_at <= to_timestamp($2 / 1000.0)) for update),
    taken as (
      update handover_row r set state = 'sending', tries = r.tries + 1, next_try_at = null from due where r.id = due.id returning r.*, due.state as was)
    select t.id, t.was, t.tries, coalesce(s.source, s.id::text) as section, coalesce(p.source, p.id::text) as student, by.email::text as by, a.sent_letter as letter, a.percent as number,
           a.last_day::text as "lastDay", a.expires_on::text as "expiresOn", a.lapses_to as "lapsesTo", c.receipt as corrects, t.reason
    from taken t join agreed_grade a on a.id = t.agreed_id join section s on s.id = t.section_id join enrolment e on e.id = t.enrolment_id
    join person p on p.id = e.person_id join person by on by.id = t.asked_by left join handover_row c on c.id = t.corrects_id order by t.id`,
    [ids, now],
  );

/** One grade: asked about first where the registrar may have it, sent where he has not. */
async function handOver(registrar: Registrar, grade: Grade) {
  const isAsked = mayBeStored(grade.was);
  const { id, section, student, by, letter, number, lastDay, expiresOn, lapsesTo, corrects, reason } = grade;
  const known = isAsked ? await askAfter(registrar, id) : null;
  const reply =
    known !== null && known.kind !== 'not seen'
      ? known
      : await sendGrade(registrar, { section, student, key: id }, { by, letter, number, lastDay, expiresOn, lapsesTo, corrects, reason });
  return { ...rowAfter(reply, grade.tries, isAsked), rowId: id };
}

async function handOverBatch(work: Work, registrar: Registrar, ids: readonly string[], now: number): Promise<void> {
  const grades = await work.write(async (db) => {
    const taken = await takeInHand(db, ids, now);
    await addEvents(
      db,
      taken.map((g) => ({ rowId: g.id, state: 'sending' as const, said: '' })),
      null,
      now,
    );
    return taken;
  });
  for (let n = 0; n < grades.length; n += AT_ONCE) {
    const outcomes = await Promise.all(grades.slice(n, n + AT_ONCE).map((grade) => handOver(registrar, grade)));
    await work.write((db) => settleRows(db, outcomes, now));
  }
  await work.write((db) => settleRecords(db, ids, now));
}

/** Asks the registrar, reads back, and hands grades over; nothing waits for him within a transaction. */
export const handOverGrades = jobInSteps<Due>({
  name: 'hand-over',
  due: listDue,
  one: async (work, due, now) => {
    const registrar = findRegistrar();
    if (registrar === null) return;
    if (due.what === 'rules') await askWhatHeTakes(work, registrar, now);
    else if (due.what === 'section') await readSection(work, registrar, due.ids[0] ?? '', now);
    else await handOverBatch(work, registrar, due.ids, now);
  },
});

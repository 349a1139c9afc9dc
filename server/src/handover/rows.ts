import type { RowHistoryEntry, RowView } from '@rosemary/api';
import { refusalWords, type RowOutcome, type RowState, UNDER_WAY } from '@rosemary/core';
import { type Db, rows, run } from '../platform/database.ts';
import { announce } from '../platform/events.ts';

export interface RowNow extends RowView {
  readonly enrolmentId: string;
  readonly sectionId: string;
}
interface Read {
  readonly id: string;
  readonly enrolment_id: string;
  readonly section_id: string;
  readonly state: RowState;
  readonly agreed_id: string;
  readonly sent_letter: string;
  readonly receipt: string | null;
  readonly code: string | null;
  readonly said: string;
  readonly at: Date;
  readonly who: string;
  readonly next_try_at: Date | null;
  readonly corrects_id: string | null;
}
function toView(row: Read): RowNow {
  const refusal = row.state === 'refused' ? refusalWords(row.code ?? '', row.said) : null;
  return {
    id: row.id,
    enrolmentId: row.enrolment_id,
    sectionId: row.section_id,
    state: row.state,
    agreedId: row.agreed_id,
    sentLetter: row.sent_letter,
    receipt: row.receipt,
    says: refusal?.says ?? row.said,
    mend: refusal?.mend ?? '',
    at: row.at.toISOString(),
    who: row.who,
    nextTryAt: row.next_try_at?.toISOString() ?? null,
    isCorrection: row.corrects_id !== null,
  };
}
const COLUMNS = `r.id, r.enrolment_id, r.section_id, r.state, r.agreed_id::text, a.sent_letter, r.receipt, r.code, r.said, coalesce(r.settled_at, r.asked_at) as at,
  p.given_name || ' ' || p.family_name as who, r.next_try_at, r.corrects_id`;
const FROM = 'from handover_row r join agreed_grade a on a.id = r.agreed_id join person p on p.id = r.asked_by';

/** The last row of every student of a course that was not taken back. */
export async function listRows(db: Db, courseId: string): Promise<ReadonlyMap<string, RowNow>> {
  const found = await rows<Read & Record<string, unknown>>(
    db,
    `select distinct on (r.enrolment_id) ${COLUMNS} ${FROM} where r.course_id = $1 and r.state <> 'taken back' order by r.enrolment_id, r.place desc`,
    [courseId],
  );
  return new Map(found.map((row) => [row.enrolment_id, toView(row)]));
}

/** The last row of each student that the registrar holds. */
export async function listHeld(db: Db, courseId: string): Promise<ReadonlyMap<string, RowNow>> {
  const found = await rows<Read & Record<string, unknown>>(
    db,
    `select distinct on (r.enrolment_id) ${COLUMNS} ${FROM} where r.course_id = $1 and r.state in ('accepted', 'by hand') order by r.enrolment_id, r.place desc`,
    [courseId],
  );
  return new Map(found.map((row) => [row.enrolment_id, toView(row)]));
}

export interface NewRow {
  readonly enrolmentId: string;
  readonly sectionId: string;
  readonly agreedId: string;
  readonly correctsId: string | null;
  readonly reason: string;
  readonly state: RowState;
}
/** Puts rows under way; a student who has one under way already is left, whoever put it there meanwhile. Gives those that were added. */
export async function addRows(db: Db, courseId: string, added: readonly NewRow[], actorId: string, now: number): Promise<string[]> {
  const made = await rows<{ id: string; enrolment_id: string; state: RowState }>(
    db,
    `insert into handover_row (course_id, section_id, enrolment_id, agreed_id, corrects_id, reason, state, asked_by, asked_at, settled_at)
     select $1, t.section, t.enrolment, t.agreed, t.corrects, t.reason, t.state, $2, to_timestamp($3 / 1000.0), case when t.state = 'by hand' then to_timestamp($3 / 1000.0) end
     from unnest($4::uuid[], $5::uuid[], $6::bigint[], $7::uuid[], $8::text[], $9::text[]) as t(section, enrolment, agreed, corrects, reason, state)
     on conflict (enrolment_id) where state in ('awaits approval', 'waiting', 'sending', 'unknown') do nothing returning id, enrolment_id, state`,
    [
      ...[courseId, actorId, now, added.map((r) => r.sectionId), added.map((r) => r.enrolmentId), added.map((r) => r.agreedId)],
      ...[added.map((r) => r.correctsId), added.map((r) => r.reason), added.map((r) => r.state)],
    ],
  );
  await addEvents(
    db,
    made.map((m) => ({ rowId: m.id, state: m.state, said: '' })),
    actorId,
    now,
  );
  return made.map((m) => m.enrolment_id);
}

interface RowEvent {
  readonly rowId: string;
  readonly state: RowState;
  readonly said: string;
}
export const addEvents = (db: Db, events: readonly RowEvent[], actorId: string | null, now: number): Promise<number> =>
  run(
    db,
    'insert into handover_event (row_id, at, actor_id, state, said) select t.id, to_timestamp($1 / 1000.0), $2, t.state, t.said from unnest($3::uuid[], $4::text[], $5::text[]) as t(id, state, said)',
    [now, actorId, events.map((e) => e.rowId), events.map((e) => e.state), events.map((e) => e.said)],
  );

/** Whoever looks at these courses reads their final grades again. */
export async function tellCourses(db: Db, courseIds: readonly string[]): Promise<void> {
  const event = { topic: 'grades', itemId: null, rows: [], enrolmentId: null, tab: null, by: '', hearers: 'staff' } as const;
  await Promise.all([...new Set(courseIds)].map((courseId) => announce(db, { ...event, courseId })));
}

/** What became of rows that were tried. Only what is being sent is settled: what was settled meanwhile stays. */
export async function settleRows(db: Db, outcomes: readonly (RowOutcome & { readonly rowId: string })[], now: number): Promise<void> {
  const done = await rows<{ id: string; course_id: string }>(
    db,
    `update handover_row r set state = t.state, receipt = t.receipt, code = t.code, said = t.said, next_try_at = to_timestamp(t.next / 1000.0),
       settled_at = case when t.state in ('accepted', 'refused') then to_timestamp($1 / 1000.0) end
     from unnest($2::uuid[], $3::text[], $4::text[], $5::text[], $6::text[], $7::float8[]) as t(id, state, receipt, code, said, next)
     where r.id = t.id and r.state = 'sending' returning r.id, r.course_id`,
    [
      ...[now, outcomes.map((o) => o.rowId), outcomes.map((o) => o.state), outcomes.map((o) => o.receipt), outcomes.map((o) => o.code)],
      ...[outcomes.map((o) => o.text), outcomes.map((o) => (o.pause === null ? null : now + o.pause))],
    ],
  );
  await tellCourses(
    db,
    done.map((d) => d.course_id),
  );
  const settled = new Set(done.map((d) => d.id));
  await addEvents(
    db,
    outcomes.filter((o) => settled.has(o.rowId)).map((o) => ({ rowId: o.rowId, state: o.state, said: o.text })),
    null,
    now,
  );
}

/** Everything that happened to the grades of a student on their way, the latest first. */
export async function listRowHistory(db: Db, courseId: string, enrolmentId: string): Promise<RowHistoryEntry[]> {
  const found = await rows<{ at: Date; who: string | null; state: RowState; said: string; letter: string; receipt: string | null }>(
    db,
    `select e.at, p.given_name || ' ' || p.family_name as who, e.state, e.said, a.sent_letter as letter, case when e.state = 'accepted' then r.receipt end as receipt
     from handover_event e join handover_row r on r.id = e.row_id join agreed_grade a on a.id = r.agreed_id left join person p on p.id = e.actor_id
     where r.course_id = $1 and r.enrolment_id = $2 order by e.id desc limit 200`,
    [courseId, enrolmentId],
  );
  return found.map((e) => ({
    at: e.at.toISOString(),
    who: e.who ?? 'by itself',
    state: e.state,
    said: [e.letter, e.receipt === null ? '' : `receipt ${e.receipt}`, e.said].filter((w) => w !== '').join(', '),
  }));
}

export const isUnderWay = (row: RowView | undefined): boolean => row !== undefined && UNDER_WAY.includes(row.state);

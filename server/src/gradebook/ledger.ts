import { noteChangedRow } from '../platform/changedRows.ts';
import { decimalText, type GradeFacts } from '@rosemary/core';
import { maybe, rows, type Db } from '../platform/database.ts';

export interface GradeWrite {
  readonly columnId: string;
  readonly enrolmentId: string;
  readonly kind: 'set' | 'release' | 'withhold' | 'undo';
  readonly state: GradeFacts['state'];
  readonly raw: number | null;
  readonly isReleased: boolean;
  readonly source: 'marking' | 'gradebook' | 'demo' | 'job' | 'quiz' | 'paste' | 'fill' | 'import' | 'reviews';
  readonly reason: string;
  readonly actorId: string;
  readonly at: number;
  readonly undoes?: string;
  /** What it was written together with, where it was. */
  readonly act?: string;
}
export interface CurrentGrade extends GradeFacts {
  readonly eventId: string;
}

interface GradeRow {
  state: GradeFacts['state'];
  raw: number | null;
  is_released: boolean;
  last_event_id: string;
}
const toGrade = (row: GradeRow): CurrentGrade => ({
  state: row.state,
  raw: row.raw,
  isReleased: row.is_released,
  eventId: row.last_event_id,
});

/** The current grade, locked until the transaction ends so that two writers wait for one another. */
export async function findGradeForUpdate(db: Db, columnId: string, enrolmentId: string): Promise<CurrentGrade | null> {
  // An advisory lock also covers the cell that has no row yet.
  await db.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`${columnId} ${enrolmentId}`]);
  const row = await maybe<GradeRow>(
    db,
    'select state, (raw * 1000)::int as raw, is_released, last_event_id from grade where column_id = $1 and enrolment_id = $2',
    [columnId, enrolmentId],
  );
  return row === null ? null : toGrade(row);
}

/** The current grades of several students in one column, locked like one: who has none yet is not among them. */
export async function listGradesForUpdate(
  db: Db,
  columnId: string,
  enrolmentIds: readonly string[],
): Promise<ReadonlyMap<string, CurrentGrade>> {
  await lockGrades(db, columnId, enrolmentIds);
  const found = await rows<GradeRow & { enrolment_id: string }>(
    db,
    'select enrolment_id, state, (raw * 1000)::int as raw, is_released, last_event_id from grade where column_id = $1 and enrolment_id = any($2)',
    [columnId, enrolmentIds],
  );
  return new Map(found.map((row) => [row.enrolment_id, toGrade(row)]));
}

/** A cell by its column and its student. */
export interface CellKey {
  readonly columnId: string;
  readonly enrolmentId: string;
}
export const cellKey = ({ columnId, enrolmentId }: CellKey): string => `${columnId} ${enrolmentId}`;

/** The current grades of many cells, locked in the order in which every writer of many locks them. */
export async function listCellsForUpdate(db: Db, cells: readonly CellKey[]): Promise<ReadonlyMap<string, CurrentGrade>> {
  const ids = [cells.map((c) => c.columnId), cells.map((c) => c.enrolmentId)];
  await db.query(
    `select pg_advisory_xact_lock(hashtextextended(t.key, 0)) from (select a || ' ' || b as key from unnest($1::text[], $2::text[]) as u(a, b) order by a, b) t`,
    ids,
  );
  const found = await rows<GradeRow & { column_id: string; enrolment_id: string }>(
    db,
    `select g.column_id, g.enrolment_id, g.state, (g.raw * 1000)::int as raw, g.is_released, g.last_event_id
     from unnest($1::uuid[], $2::uuid[]) as t(column_id, enrolment_id) join grade g using (column_id, enrolment_id)`,
    ids,
  );
  return new Map(found.map((row) => [cellKey({ columnId: row.column_id, enrolmentId: row.enrolment_id }), toGrade(row)]));
}

/** A cell that an act wrote to: the event of the act, and what stood there before it. */
export interface ActCell extends CellKey {
  readonly itemId: string | null;
  readonly eventId: string;
  readonly before: GradeFacts | null;
}

/** The cells of an act of this course. */
export async function listActCells(db: Db, courseId: string, act: string): Promise<readonly ActCell[]> {
  const found = await rows<{
    column_id: string;
    item_id: string | null;
    enrolment_id: string;
    id: string;
    state: GradeFacts['state'];
    raw: number | null;
    is_released: boolean | null;
  }>(
    db,
    `select e.column_id, c.item_id, e.enrolment_id, e.id, b.state, (b.raw * 1000)::int as raw, b.is_released from grade_event e join grade_column c on c.id = e.column_id
     left join lateral (select state, raw, is_released from grade_event p where p.column_id = e.column_id and p.enrolment_id = e.enrolment_id and p.id < e.id order by p.id desc limit 1) b on true
     where e.act = $1 and c.course_id = $2`,
    [act, courseId],
  );
  return found.map((row) => ({
    columnId: row.column_id,
    itemId: row.item_id,
    enrolmentId: row.enrolment_id,
    eventId: row.id,
    before: row.is_released === null ? null : { state: row.state, raw: row.raw, isReleased: row.is_released },
  }));
}

/** What stood in a cell before an event; null where nothing did. */
export async function findGradeBefore(db: Db, columnId: string, enrolmentId: string, eventId: string): Promise<GradeFacts | null> {
  const row = await maybe<Omit<GradeRow, 'last_event_id'>>(
    db,
    'select state, (raw * 1000)::int as raw, is_released from grade_event where column_id = $1 and enrolment_id = $2 and id < $3 order by id desc limit 1',
    [columnId, enrolmentId, eventId],
  );
  return row === null ? null : { state: row.state, raw: row.raw, isReleased: row.is_released };
}

/** Locks the grades of several students in one column, each in turn and always in the same order, so that no two writers wait for each other. */
export async function lockGrades(db: Db, columnId: string, enrolmentIds: readonly string[]): Promise<void> {
  await db.query(
    "select pg_advisory_xact_lock(hashtextextended($1 || ' ' || t.id::text, 0)) from (select id from unnest($2::uuid[]) as u(id) order by id) t",
    [columnId, enrolmentIds],
  );
}

/**
 * Appends events and keeps the current state of each, in the caller's transaction and in one statement: at most one write for each student
 * and column. Gives the identifiers of the events in the order of the writes.
 */
export async function recordGrades(db: Db, writes: readonly GradeWrite[]): Promise<string[]> {
  if (writes.length === 0) return [];
  const made = await rows<{ id: string; column_id: string; enrolment_id: string }>(
    db,
    `
    with made as (
      insert into grade_event (column_id, enrolment_id, kind, state, raw, is_released, source, reason, actor_id, at, undoes, act)
      select t.column_id, t.enrolment_id, t.kind, t.state, t.raw, t.is_released, t.source, t.reason, t.actor_id, to_timestamp(t.at / 1000.0), t.undoes, t.act
      from unnest($1::uuid[], $2::uuid[], $3::text[], $4::text[], $5::numeric[], $6::boolean[], $7::text[], $8::text[], $9::uuid[], $10::float8[], $11::bigint[], $12::uuid[])
        with ordinality as t(column_id, enrolment_id, kind, state, raw, is_released, source, reason, actor_id, at, undoes, act, n) order by t.n
      returning id, column_id, enrolment_id, state, raw, is_released)
    insert into grade (column_id, enrolment_id, state, raw, is_released, last_event_id) select column_id, enrolment_id, state, raw, is_released, id from made
    on conflict (column_id, enrolment_id) do update set state = excluded.state, raw = excluded.raw, is_released = excluded.is_released, last_event_id = excluded.last_event_id
    returning last_event_id as id, column_id, enrolment_id`,
    [
      ...[writes.map((w) => w.columnId), writes.map((w) => w.enrolmentId), writes.map((w) => w.kind), writes.map((w) => w.state)],
      ...[writes.map((w) => (w.raw === null ? null : decimalText(w.raw))), writes.map((w) => w.isReleased), writes.map((w) => w.source)],
      ...[writes.map((w) => w.reason), writes.map((w) => w.actorId), writes.map((w) => w.at), writes.map((w) => w.undoes ?? null)],
      writes.map((w) => w.act ?? null),
    ],
  );
  for (const row of made) noteChangedRow(db, row.enrolment_id);
  const byCell = new Map(made.map((row) => [`${row.column_id} ${row.enrolment_id}`, row.id]));
  return writes.map((w) => byCell.get(`${w.columnId} ${w.enrolmentId}`) ?? '');
}

/** Appends an event and keeps the current state, in the caller's transaction. */
export async function recordGrade(db: Db, write: GradeWrite): Promise<string> {
  return (await recordGrades(db, [write]))[0] ?? '';
}

export interface EventRow {
  id: string;
  kind: string;
  state: GradeFacts['state'];
  raw: number | null;
  is_released: boolean;
  source: string;
  reason: string;
  undoes: string | null;
  at: Date;
  actor_id: string;
  given_name: string;
  family_name: string;
}

export interface ColumnEventRow extends EventRow {
  readonly student: string;
  readonly was_state: EventRow['state'];
  readonly was_raw: number | null;
  readonly was_there: boolean;
}
/** The last changes in a column, each with what stood there before; of the students of some sections, or of all (null). */
export const listColumnEvents = (db: Db, columnId: string, sectionIds: readonly string[] | null): Promise<ColumnEventRow[]> =>
  rows<ColumnEventRow & Record<string, unknown>>(
    db,
    `
    with all_events as (
      select g.*, lag(g.state) over cell as was_state, (lag(g.raw) over cell * 1000)::int as was_raw, lag(g.id) over cell is not null as was_there
      from grade_event g where g.column_id = $1 window cell as (partition by g.enrolment_id order by g.id))
    select g.id, g.kind, g.state, (g.raw * 1000)::int as raw, g.is_released, g.source, coalesce(nullif(r.reason, ''), g.reason) as reason, g.undoes, g.at, g.actor_id, p.given_name, p.family_name,
           s.family_name || ', ' || s.given_name as student, g.was_state, g.was_raw, g.was_there
    from all_events g join person p on p.id = g.actor_id join enrolment e on e.id = g.enrolment_id join person s on s.id = e.person_id left join event_reason r on r.event_id = g.id
    where not e.is_sample and ($2::uuid[] is null or e.section_id = any($2)) order by g.id desc limit 200`,
    [columnId, sectionIds],
  );

export async function listEvents(db: Db, columnId: string, enrolmentId: string): Promise<EventRow[]> {
  return rows<EventRow>(
    db,
    `
    select g.id, g.kind, g.state, (g.raw * 1000)::int as raw, g.is_released, g.source, coalesce(nullif(r.reason, ''), g.reason) as reason, g.undoes, g.at, g.actor_id, p.given_name, p.family_name
    from grade_event g join person p on p.id = g.actor_id left join event_reason r on r.event_id = g.id where g.column_id = $1 and g.enrolment_id = $2 order by g.id desc limit 200`,
    [columnId, enrolmentId],
  );
}

import { decimalText, type GradeFacts } from '@rosemary/core';
import { maybe, rows, run, type Db } from '../platform/database.ts';

export interface GradeWrite {
  readonly itemId: string;
  readonly enrolmentId: string;
  readonly kind: 'set' | 'release' | 'withhold' | 'undo';
  readonly state: GradeFacts['state'];
  readonly raw: number | null;
  readonly isReleased: boolean;
  readonly source: 'marking' | 'gradebook' | 'demo' | 'job' | 'quiz';
  readonly reason: string;
  readonly actorId: string;
  readonly at: number;
  readonly undoes?: string;
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
export async function findGradeForUpdate(db: Db, itemId: string, enrolmentId: string): Promise<CurrentGrade | null> {
  // An advisory lock also covers the cell that has no row yet.
  await db.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`${itemId} ${enrolmentId}`]);
  const row = await maybe<GradeRow>(
    db,
    'select state, (raw * 1000)::int as raw, is_released, last_event_id from grade where item_id = $1 and enrolment_id = $2',
    [itemId, enrolmentId],
  );
  return row === null ? null : toGrade(row);
}

/** Appends an event and keeps the current state, in the caller's transaction. */
export async function recordGrade(db: Db, write: GradeWrite): Promise<string> {
  const raw = write.raw === null ? null : decimalText(write.raw);
  const event = await rows<{ id: string }>(
    db,
    `
    insert into grade_event (item_id, enrolment_id, kind, state, raw, is_released, source, reason, actor_id, at, undoes)
    values ($1, $2, $3, $4, $5, $6, $7, $8, $9, to_timestamp($10 / 1000.0), $11) returning id`,
    [
      write.itemId,
      write.enrolmentId,
      write.kind,
      write.state,
      raw,
      write.isReleased,
      write.source,
      write.reason,
      write.actorId,
      write.at,
      write.undoes ?? null,
    ],
  );
  const id = event[0]?.id ?? '';
  await run(
    db,
    `
    insert into grade (item_id, enrolment_id, state, raw, is_released, last_event_id) values ($1, $2, $3, $4, $5, $6)
    on conflict (item_id, enrolment_id) do update set state = excluded.state, raw = excluded.raw, is_released = excluded.is_released, last_event_id = excluded.last_event_id`,
    [write.itemId, write.enrolmentId, write.state, raw, write.isReleased, id],
  );
  return id;
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
  given_name: string;
  family_name: string;
}

export async function listEvents(db: Db, itemId: string, enrolmentId: string): Promise<EventRow[]> {
  return rows<EventRow>(
    db,
    `
    select g.id, g.kind, g.state, (g.raw * 1000)::int as raw, g.is_released, g.source, g.reason, g.undoes, g.at, p.given_name, p.family_name
    from grade_event g join person p on p.id = g.actor_id where g.item_id = $1 and g.enrolment_id = $2 order by g.id desc limit 200`,
    [itemId, enrolmentId],
  );
}

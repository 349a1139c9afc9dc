import type { LedgerCheck } from '@rosemary/api';
import { type Db, rows, run } from '../platform/database.ts';
import { jobOf } from '../platform/jobs.ts';

/** As many of those that differ as are named; the rest is counted. */
const MOST_NAMED = 20;

/**
 * Replays the whole ledger and holds what it comes to against the grades that are kept: every cell as its last event says it, and no cell
 * without one. What is found is kept for the administrator.
 */
export async function compareLedger(db: Db, now: number): Promise<void> {
  await run(
    db,
    `with said as (select distinct on (column_id, enrolment_id) column_id, enrolment_id, state, raw, is_released, id from grade_event order by column_id, enrolment_id, id desc),
     held as (
       select column_id, enrolment_id, (s.id is null or g.last_event_id is null or g.last_event_id <> s.id or g.state is distinct from s.state or g.raw is distinct from s.raw or g.is_released <> s.is_released) as differs,
         coalesce(s.state || coalesce(' ' || s.raw, ''), 'nothing') || ' in the ledger, ' || coalesce(g.state || coalesce(' ' || g.raw, ''), 'nothing') || ' kept' as words
       from said s full join grade g using (column_id, enrolment_id)),
     named as (
       select h.words || ' (' || coalesce(c.title, i.title, '') || ', ' || p.family_name || ', ' || p.given_name || ')' as words from held h join grade_column c on c.id = h.column_id left join item i on i.id = c.item_id
       join enrolment e on e.id = h.enrolment_id join person p on p.id = e.person_id where h.differs order by 1 limit $2)
     insert into ledger_check (at, cells, differing, examples)
     select to_timestamp($1 / 1000.0), count(*), count(*) filter (where differs), (select coalesce(jsonb_agg(words), '[]') from named) from held`,
    [now, MOST_NAMED],
  );
}

/** Once in a night; also when the school has never been looked at. */
const listDue = (db: Db, now: number): Promise<{ id: string }[]> =>
  rows<{ id: string }>(
    db,
    "select to_char(to_timestamp($1 / 1000.0), 'YYYY-MM-DD') as id where not exists (select 1 from ledger_check where at > to_timestamp($1 / 1000.0) - interval '20 hours')",
    [now],
  );
export const checkLedger = jobOf<{ id: string }>({ name: 'check-ledger', due: listDue, one: (db, _, now) => compareLedger(db, now) });

/** What the last comparisons found, the latest first. */
export async function listLedgerChecks(db: Db): Promise<LedgerCheck[]> {
  const found = await rows<{ at: Date; cells: number; differing: number; examples: string[] }>(
    db,
    'select at, cells, differing, examples from ledger_check order by id desc limit 10',
  );
  return found.map((row) => ({ ...row, at: row.at.toISOString() }));
}

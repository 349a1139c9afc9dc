import { type Db, maybe, rows } from '../platform/database.ts';
import { millis } from '../platform/instants.ts';

/** A work that can be reviewed: what its authors handed in last. It is known by the submission of whoever handed it in for them. */
export interface PeerWorkRow {
  readonly id: string;
  readonly authors: readonly string[];
  /** The submissions of all of them, by which reviews of an earlier hand-in still find the work. */
  readonly submissionIds: readonly string[];
  readonly attemptId: string;
  readonly handedInAt: number;
}

/** The works of an item, each once however many handed it in together; authors in a fixed order. */
export async function listPeerWorks(db: Db, itemId: string): Promise<PeerWorkRow[]> {
  const found = await rows<{ id: string; attempt_id: string; handed_in_at: Date; authors: string[]; submission_ids: string[] }>(
    db,
    `
    with latest as (
      select distinct on (a.submission_id) s.id, s.enrolment_id, coalesce(a.lead_id, a.id) as lead from attempt a join submission s on s.id = a.submission_id
      where s.item_id = $1 order by a.submission_id, a.number desc)
    select lead.submission_id as id, lead.id as attempt_id, lead.handed_in_at, array_agg(latest.enrolment_id order by latest.enrolment_id) as authors, array_agg(latest.id) as submission_ids
    from latest join attempt lead on lead.id = latest.lead group by lead.id order by lead.handed_in_at, lead.id`,
    [itemId],
  );
  return found.map((row) => ({
    ...{ id: row.id, attemptId: row.attempt_id, authors: row.authors },
    ...{ submissionIds: row.submission_ids, handedInAt: millis(row.handed_in_at) ?? 0 },
  }));
}

/** The work of one student: the submissions of all of its authors; null where nothing is handed in. */
export async function findOwnWork(
  db: Db,
  itemId: string,
  enrolmentId: string,
): Promise<{ readonly submissionIds: readonly string[] } | null> {
  const row = await maybe<{ ids: string[] | null }>(
    db,
    `select array_agg(distinct m.submission_id) as ids from (
       select coalesce(a.lead_id, a.id) as lead from submission s join attempt a on a.submission_id = s.id where s.item_id = $1 and s.enrolment_id = $2 order by a.number desc limit 1) own
     join attempt m on m.id = own.lead or m.lead_id = own.lead`,
    [itemId, enrolmentId],
  );
  const ids = row?.ids ?? null;
  return ids === null ? null : { submissionIds: ids };
}
